// A cell of the fuel table as it was driven and as it would be corrected, each way of looking at it, and in words.
import type { LogSaid, S } from "./asks";
import type { GridCell } from "./RoadGrid.vue";
import { percent } from "./useRoad";

export type View = "visits" | "off" | "before" | "after";

const IS: Record<S["Cell"]["what"], string> = {
  kept: "off by no more than its doubt: left",
  corrected: "corrected",
  limited: "corrected by a tenth, which is the most at a time",
  held: "held back: it would be made leaner at high load",
  filled: "not visited; follows the engine's own shape",
  not_visited: "not visited: left",
};
const EDGE: Partial<Record<S["Cell"]["what"], GridCell["edge"]>> = { held: "held", filled: "filled" };
const colour = (off: number) => (off > 0 ? "var(--spark)" : "var(--info)");
const strength = (off: number) => Math.min(Math.abs(off) / 0.08, 1);
const corrected = (said: LogSaid, i: number, j: number) => said.correction?.cells[i * said.correction.x.length + j];

/** What is known of a cell, in a sentence. */
export function inWords(said: LogSaid, i: number, j: number): string {
  const off = said.where.off[i]![j];
  const doubt = said.where.doubt[i]![j];
  const c = corrected(said, i, j);
  const lean = off == null ? "" : `, ${percent(Math.abs(off))} too ${off > 0 ? "lean" : "rich"} ± ${percent(2 * (doubt ?? 0))}`;
  const became = c ? `. ${c.old} to ${c.new} %: ${IS[c.what]}` : "";
  return `${Math.round(said.where.x[j]!)} rpm, ${Math.round(said.where.y[i]!)}: ${said.where.seconds[i]![j]!.toFixed(1)} s${lean}${became}.`;
}

function cell(said: LogSaid, i: number, j: number, view: View, small: boolean): GridCell {
  const words = inWords(said, i, j);
  const seconds = said.where.seconds[i]![j]!;
  const off = said.where.off[i]![j];
  const doubt = said.where.doubt[i]![j];
  if (view === "visits")
    return {
      text: seconds >= 1 ? `${Math.round(seconds)}` : "",
      size: seconds ? Math.min(Math.sqrt(seconds / 12), 1) : 0,
      fill: "var(--ink)",
      strength: doubt && doubt < 0.012 && seconds >= 3 ? 0.85 : 0.28,
      words,
    };
  if (view === "off")
    return {
      text: off == null || seconds < 0.5 ? "" : `${off > 0 ? "+" : "−"}${Math.abs(off * 100).toFixed(1)}`,
      size: off == null || seconds < 0.3 ? 0 : 1,
      fill: colour(off ?? 0),
      strength: strength(off ?? 0) * 0.85,
      words,
    };
  const c = corrected(said, i, j);
  const value = view === "before" ? c?.old : c?.new;
  const by = view === "after" && c ? Math.log(c.new / c.old) : 0;
  return {
    text: value === undefined ? "" : value.toFixed(small ? 0 : 1),
    size: by ? 1 : 0,
    fill: colour(by),
    strength: strength(by) * 0.55,
    edge: view === "after" && c ? (EDGE[c.what] ?? (c.new !== c.old ? "ink" : "")) : "",
    words,
  };
}

/** All cells of the table, row by row; `small` where three tables stand side by side. */
export const cells = (said: LogSaid, view: View, small = false): GridCell[][] =>
  said.where.y.map((_, i) => said.where.x.map((__, j) => cell(said, i, j, view, small)));
