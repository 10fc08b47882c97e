import type { Stages } from "@/api/types";

export type StateName = "full" | "cruise" | "idle" | "hot_idle" | "prime" | "crank";
export type FuelResult = Stages["fuel"];
export const STATES: { key: StateName; word: string }[] = [
  { key: "full", word: "full power" },
  { key: "cruise", word: "cruise" },
  { key: "idle", word: "idle" },
  { key: "hot_idle", word: "hot idle" },
  { key: "prime", word: "key on, engine off" },
  { key: "crank", word: "cranking" },
];
export const wordOf = (state: StateName) => STATES.find((s) => s.key === state)!.word;
export const pointOf = (fuel: FuelResult, state: StateName) => fuel.points[state]!;
/** A named part of the path in words. */
export const partWord = (name: string) => name.replace(/_/g, " ");
