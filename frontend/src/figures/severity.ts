// The shape that says a state before any colour does. What it is called comes from the core.
import type { Severity } from "@/api/types";

export const SEVERITY: Record<Severity, { colour: string; path: string; filled: boolean; dash?: string }> = {
  stop: { colour: "var(--spark)", path: "M2 2H14V14H2Z", filled: true },
  sort_out: { colour: "var(--care)", path: "M8 1.5L15 14H1Z", filled: true },
  unknown: { colour: "var(--info)", path: "M8 1L15 8L8 15L1 8Z", filled: false },
  watch: { colour: "var(--care)", path: "M8 1.5A6.5 6.5 0 1 1 7.99 1.5Z", filled: false },
  note: { colour: "var(--info)", path: "M3 8H13", filled: false },
  // The same ring with its tick in broken line, as everything in pencil is drawn.
  sound_if: { colour: "var(--good)", path: "M8 1.5A6.5 6.5 0 1 1 7.99 1.5ZM4.8 8.2L7 10.4L11.2 5.8", filled: false, dash: "2.6 1.5" },
  sound: { colour: "var(--good)", path: "M8 1.5A6.5 6.5 0 1 1 7.99 1.5Z", filled: true },
};

/** The tick in what is sound, drawn over it. */
export const TICK = "M4.8 8.2L7 10.4L11.2 5.8";
