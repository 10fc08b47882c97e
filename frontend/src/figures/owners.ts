// The person's own units in a drawing: a value in SI as a number on his scale, or told with its unit. Which unit that is, the core says.
import { computed, type ComputedRef } from "vue";
import type { PlanHead } from "@/api/types";
import { useBuild } from "@/stores/build";

export type Kind = keyof PlanHead["scales"];
export interface OwnScale {
  unit: string;
  /** A value [SI] as a number on the scale, for a place in a drawing. */
  of: (si: number) => number;
  /** The number as it is printed, with so many digits more. */
  bare: (si: number, finer?: number) => string;
  /** The same with its unit. */
  tell: (si: number, finer?: number) => string;
}

const made = (scale: { unit: string; zero: number; one: number; digits: number }): OwnScale => {
  const of = (si: number) => (si - scale.zero) / (scale.one - scale.zero);
  const bare = (si: number, finer = 0) =>
    of(si)
      .toFixed(Math.max(scale.digits + finer, 0))
      .replace(/^-(?=0(\.0*)?$)/, "");
  return { unit: scale.unit, of, bare, tell: (si, finer = 0) => `${bare(si, finer)} ${scale.unit}` };
};

/** Every kind of thing as it is told to whoever looks at the build that is open. */
export function useScales(): ComputedRef<Record<Kind, OwnScale>> {
  const store = useBuild();
  return computed(
    () =>
      Object.fromEntries(Object.entries(store.plan?.scales ?? {}).map(([kind, scale]) => [kind, made(scale)])) as Record<Kind, OwnScale>,
  );
}
