// Everything that this browser remembers, in one place.
import { useSessionStorage, useStorage } from "@vueuse/core";
import { defineStore } from "pinia";
import { watch } from "vue";

export type Units = "as_written" | "metric" | "imperial";
export const UNITS: { value: Units; word: string }[] = [
  { value: "as_written", word: "as written" },
  { value: "metric", word: "metric" },
  { value: "imperial", word: "imperial" },
];

export const useSettings = defineStore("settings", () => {
  const prefersNight = document.documentElement.dataset.theme === "night";
  const theme = useStorage<"day" | "night">("uphill-spark.theme", prefersNight ? "night" : "day");
  /** Who signs changes made in this browser. */
  const who = useStorage("uphill-spark.who", "");
  /** Written beside every change until it is emptied: "bigger cam". Lasts as long as the tab. */
  const reason = useSessionStorage("uphill-spark.reason", "");
  /** In whose units this person is told. A cookie says it to the server, so that papers follow. */
  const units = useStorage<Units>("uphill-spark.units", "as_written");
  const say = () => (document.cookie = `uphill-spark-units=${units.value}; path=/; max-age=31536000; samesite=lax`);
  watch(units, say, { flush: "sync", immediate: true });
  /** Whether single letters and figures are keys: who dictates, or leans on the keyboard under a car, switches them off. */
  const letterKeys = useStorage("uphill-spark.letter-keys", true);
  watch(theme, (t) => (document.documentElement.dataset.theme = t), { immediate: true });
  return { theme, who, reason, units, letterKeys, toggleTheme: () => (theme.value = theme.value === "night" ? "day" : "night") };
});
