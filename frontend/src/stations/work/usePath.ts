// The path of the work laid along days: where each task stands, its evenings, the stretch off the road, the days that count.
import { scaleLinear } from "d3-scale";
import { computed, type ComputedRef } from "vue";
import type { Plan, Task } from "./asks";
import { dayAt, month, place } from "./days";

/** Height of a task [px]: less where there are many. */
export const rowOf = (many: number) => Math.min(Math.max(470 / Math.max(many, 1), 16), 22);
export const heightOf = (many: number) => TOP + many * rowOf(many) + 24;
export const TOP = 56; // px, for the calendar above
const BEHIND = 28; // days
const APART = 26; // px between two dates that are told
/** Minutes of work on a day that fill its block. */
const FULL = 360;
export interface Step {
  key: string;
  what: string;
  y: number;
  from: number;
  to: number;
  late: number;
  critical: boolean;
  slack: number;
  blocks: { x: number; width: number; who: string[] }[];
}

export function usePath(plan: ComputedRef<Plan>, tasks: ComputedRef<Task[]>, width: ComputedRef<number>, matters: ComputedRef<string>) {
  const first = computed(() => place(plan.value.as_of));
  const end = computed(() => Math.max(place(plan.value.finish_p90), place(plan.value.finish)));
  /** As far as the end, and the date that matters where that is not far behind it. */
  const last = computed(() =>
    matters.value && place(matters.value) <= end.value + BEHIND ? Math.max(end.value, place(matters.value)) : end.value + 1,
  );
  const label = computed(() => Math.min(Math.max(width.value * 0.36, 96), 300));
  const x = computed(() => scaleLinear([first.value, last.value + 1], [label.value + 8, width.value - 14]));
  /** From the bottom up: what is done first stands lowest, as on a hill. */
  const steps = computed<Step[]>(() => {
    const rows = plan.value.tasks;
    return rows.map((t, i) => {
      const found = plan.value.evenings.filter((e) => e.key === t.key);
      return {
        key: t.key,
        what: tasks.value.find((x) => x.key === t.key)?.what ?? t.key,
        y: TOP + (rows.length - 1 - i + 0.5) * rowOf(rows.length),
        from: x.value(place(t.begins)),
        to: x.value(place(t.closes) + 1),
        late: x.value(place(t.ends_p90) + 1),
        critical: t.critical,
        slack: t.slack_days,
        blocks: found.map((e) => {
          const one = x.value(1) - x.value(0);
          const share = Math.min(Math.max((e.to_min - e.from_min) / FULL, 0.3), 1);
          return { x: x.value(place(e.day)) + 0.06 * one, width: Math.max(one * 0.88 * share, 3), who: e.who };
        }),
      };
    });
  });
  const row = computed(() => rowOf(plan.value.tasks.length));
  const height = computed(() => heightOf(plan.value.tasks.length));
  /** Mondays, and the months above them. */
  const mondays = computed(() => {
    const found: { x: number; day: number; month: string }[] = [];
    for (let d = first.value; d <= last.value; d++) {
      const date = new Date(`${dayAt(d)}T12:00:00`);
      if (date.getDay() === 1) found.push({ x: x.value(d), day: date.getDate(), month: date.getDate() <= 7 ? month(dayAt(d)) : "" });
    }
    if (found[0] && !found[0].month) found[0].month = month(dayAt(place(plan.value.as_of)));
    let told = -APART;
    return found.map((m) => {
      const here = m.x - told >= APART;
      if (here) told = m.x;
      return { ...m, told: here };
    });
  });
  const line = (day: string) => x.value(place(day) + 1);
  return { x, steps, row, height, mondays, line, label, first, last };
}
