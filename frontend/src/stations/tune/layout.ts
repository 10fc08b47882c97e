// Where the cells of a grid lie on its sheet [px].
import type { Table } from "@/api/types";

export const HEIGHT = 446;
export const SLICE = 74;
export const LEFT = 62;
const BOTTOM = 52;
const ABOVE = 14;
const BESIDE = 22;

export interface Laid {
  x: number;
  y: number;
  w: number;
  h: number;
  /** Of a cell. */
  width: number;
  height: number;
  foot: number;
  cx: (j: number) => number;
  cy: (i: number) => number;
}
export function grid(width: number, table: Table): Laid {
  const [x, y] = [LEFT, SLICE + ABOVE];
  const [w, h] = [width - LEFT - SLICE - BESIDE, HEIGHT - SLICE - ABOVE - BOTTOM];
  const cell = { width: w / table.x.length, height: h / table.rows.length };
  return { x, y, w, h, ...cell, foot: y + h, cx: (j) => x + (j + 0.5) * cell.width, cy: (i) => y + h - (i + 0.5) * cell.height };
}
/** Where a value stands between the middles of cells along an axis: a place counted in cells. */
export function along(axis: number[], value: number): number {
  if (value <= axis[0]!) return 0;
  const k = axis.findIndex((v) => v >= value);
  if (k < 0) return axis.length - 1;
  return k - 1 + (value - axis[k - 1]!) / (axis[k]! - axis[k - 1]!);
}
