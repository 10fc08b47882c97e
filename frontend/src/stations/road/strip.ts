// How a pane of a strip is drawn by the plotting library: two lines a signal, least and most, with a band between; stretches shaded; a drag that looks closer.
import type uPlot from "uplot";
import { minutes } from "./useRoad";

export interface StripLine {
  key: string;
  word: string;
  unit: string;
  low: (number | null)[];
  high: (number | null)[];
}
export interface Pane {
  lines: StripLine[];
}
export interface StripActs {
  range: () => [number, number];
  spans: () => number[][];
  told: (u: uPlot) => void;
  go: (to: [number, number]) => void;
}
const HIGH = 112;
export const DASHES = [[], [6, 4], [2, 3]];
export const COLOURS = ["--ink", "--spark", "--info"];
const LETTERS = "12px 'Atkinson Hyperlegible Next Variable'";
const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

function shade(u: uPlot, spans: number[][]): void {
  const ctx = u.ctx;
  ctx.save();
  ctx.fillStyle = css("--care");
  ctx.globalAlpha = 0.28;
  for (const [a, b] of spans) {
    if (b! < u.scales.x!.min! || a! > u.scales.x!.max!) continue;
    const x0 = Math.max(u.valToPos(a!, "x", true), u.bbox.left);
    const x1 = Math.min(u.valToPos(b!, "x", true), u.bbox.left + u.bbox.width);
    ctx.fillRect(x0, u.bbox.top, Math.max(x1 - x0, 1), u.bbox.height);
  }
  ctx.restore();
}

export function optionsOf(pane: Pane, last: boolean, width: number, acts: StripActs): uPlot.Options {
  const [hair, soft] = [css("--hair"), css("--soft")];
  const colours = COLOURS.map(css);
  return {
    width,
    height: HIGH + (last ? 26 : 0),
    pxAlign: 0,
    padding: [8, 12, last ? 0 : 8, 0], // room for half a letter over and under the outer words of the axis
    legend: { show: false },
    cursor: { sync: { key: "strip", setSeries: false }, drag: { x: true, y: false, setScale: false }, points: { show: false }, y: false },
    select: { show: true, left: 0, top: 0, width: 0, height: 0 },
    scales: { x: { time: false, range: acts.range } },
    axes: [
      {
        stroke: soft,
        grid: { stroke: hair, width: 1 },
        ticks: { show: last, stroke: hair },
        size: last ? 34 : 0,
        values: (_, v) => (last ? v.map(minutes) : v.map(() => "")), // one clock: its words once, its lines through all
        font: LETTERS,
      },
      {
        stroke: soft,
        grid: { stroke: hair, width: 1 },
        ticks: { show: false },
        size: 52,
        space: 22,
        font: LETTERS,
      },
    ],
    series: [
      {},
      ...pane.lines.flatMap((_, i) => [
        { stroke: colours[i % 3]!, width: 1, dash: DASHES[i % 3], spanGaps: false, points: { show: false } },
        { stroke: colours[i % 3]!, width: 1, dash: DASHES[i % 3], spanGaps: false, points: { show: false } },
      ]),
    ],
    bands: pane.lines.map((_, i) => ({ series: [2 * i + 2, 2 * i + 1] as [number, number], fill: `${colours[i % 3]!}55` })),
    hooks: {
      drawClear: [(u: uPlot) => shade(u, acts.spans())],
      setCursor: [acts.told],
      setSelect: [
        (u: uPlot) => {
          if (u.select.width < 4) return;
          acts.go([u.posToVal(u.select.left, "x"), u.posToVal(u.select.left + u.select.width, "x")]);
          u.setSelect({ left: 0, top: 0, width: 0, height: 0 }, false);
        },
      ],
    },
  };
}
export const dataOf = (time: number[], pane: Pane): uPlot.AlignedData =>
  [time, ...pane.lines.flatMap((l) => [l.low, l.high])] as uPlot.AlignedData;
