import type { Stages } from "@/api/types";

export type StateName = "full" | "idle" | "crank";
export const STATES: { key: StateName; word: string }[] = [
  { key: "full", word: "full power" },
  { key: "idle", word: "idle" },
  { key: "crank", word: "cranking" },
];
export const wordOf = (state: StateName) => STATES.find((s) => s.key === state)!.word;
export const pointOf = (fuel: Stages["fuel"], state: StateName) => fuel.points[state]!;
