// Days as the wall has them, for reading: the server counts, the page tells.
import { useIntervalFn } from "@vueuse/core";
import { ref, type Ref } from "vue";

/** Today by the clock of this device, year first. */
export function localDay(now = new Date()): string {
  const two = (n: number) => String(n).padStart(2, "0");
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}
const MINUTE = 60_000; // ms
/** The same, kept while the page stands open over midnight. */
export function useToday(): Ref<string> {
  const day = ref(localDay());
  useIntervalFn(() => (day.value = localDay()), MINUTE);
  return day;
}
const at = (day: string) => new Date(`${day}T12:00:00`);
const SHORT = new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short" });
const LONG = new Intl.DateTimeFormat("en-GB", { weekday: "long", day: "numeric", month: "long", year: "numeric" });
const MONTH = new Intl.DateTimeFormat("en-GB", { month: "short" });
/** "Tue 12 Jan"; nothing for no day. */
export const short = (day: string) => (day ? SHORT.format(at(day)) : "");
export const long = (day: string) => (day ? LONG.format(at(day)) : "");
export const month = (day: string) => MONTH.format(at(day));
/** Whole days since the first of the epoch, to lay days along a line. */
export const place = (day: string) => Math.round(at(day).getTime() / 86_400_000);
export const dayAt = (n: number) => localDay(new Date(n * 86_400_000));
/** Minutes of a day as a clock shows them. */
export const clock = (minutes: number) => `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, "0")}`;
/** Hours of work, of seconds. */
export const hours = (s: number) => `${+(s / 3600).toFixed(1)} h`;
/** Days, of a number with parts. */
export const days = (n: number) => (n < 0.95 ? "less than a day" : `${Math.round(n)} ${Math.round(n) === 1 ? "day" : "days"}`);
