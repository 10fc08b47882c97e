// Where the cells of a grid lie on its sheet [px].
import type { Landmark, Table } from "@/api/types";

export const HEIGHT = 418;
export const SLICE = 58;
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

const ROOMY = 520; // px of sheet, from which on the names of places stand beside their rings
const LETTER = 7.2; // px that a letter of them takes
const EDGE = 0.75; // of the grid's width, from where on a name stands left of its ring
export interface Marked extends Landmark {
  x: number;
  y: number;
  /** The box of its name; null where there is no room for names. */
  box: { x: number; y: number; width: number; height: number } | null;
}
/** Where places that a driver knows stand on the grid, each with the box of its name. */
export function marked(marks: Landmark[], table: Table, width: number): Marked[] {
  const at = grid(width, table);
  return marks.map((m) => {
    const [x, y] = [at.cx(along(table.x, m.rpm)), at.cy(along(table.y, m.load))];
    const wide = m.word.length * LETTER + 8;
    const left = x > at.x + at.w * EDGE;
    return { ...m, x, y, box: width > ROOMY ? { x: left ? x - 8 - wide : x + 8, y: y - 9, width: wide, height: 18 } : null };
  });
}
/** Cells whose numbers would stand under a name or a ring. */
export function covered(places: Marked[], table: Table, width: number): Set<string> {
  const at = grid(width, table);
  const under = new Set<string>();
  const half = { x: 14, y: 8 }; // of a number
  for (const m of places) {
    const boxes = [{ x: m.x - 6, y: m.y - 6, width: 12, height: 12 }, ...(m.box ? [m.box] : [])];
    table.rows.forEach((row, i) =>
      row.forEach((_, j) => {
        const [x, y] = [at.cx(j), at.cy(i)];
        if (boxes.some((b) => x + half.x > b.x && x - half.x < b.x + b.width && y + half.y > b.y && y - half.y < b.y + b.height))
          under.add(`${i} ${j}`);
      }),
    );
  }
  return under;
}
