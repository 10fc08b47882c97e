// What a state is called, and the shape that says it before any colour does.
import type { Severity } from "@/api/types";

export const SEVERITY: Record<Severity, { word: string; colour: string; path: string; filled: boolean }> = {
  stop: { word: "Stop", colour: "var(--spark)", path: "M2 2H14V14H2Z", filled: true },
  sort_out: { word: "Sort out", colour: "var(--care)", path: "M8 1.5L15 14H1Z", filled: true },
  unknown: { word: "Not known yet", colour: "var(--info)", path: "M8 1L15 8L8 15L1 8Z", filled: false },
  watch: { word: "Watch", colour: "var(--care)", path: "M8 1.5A6.5 6.5 0 1 1 7.99 1.5Z", filled: false },
  note: { word: "Note", colour: "var(--info)", path: "M3 8H13", filled: false },
  sound: { word: "Sound", colour: "var(--good)", path: "M8 1.5A6.5 6.5 0 1 1 7.99 1.5Z", filled: true },
};
export const ORDER: Severity[] = ["stop", "sort_out", "unknown", "watch", "note", "sound"];
