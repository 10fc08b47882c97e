// Which cells of a table are chosen: by a press, by a drag, by arrow keys, with Shift a range.
import { computed, ref, watch, type Ref } from "vue";
import type { Table } from "@/api/types";

/** From the cell that was chosen first to the one under the hand. */
export interface Chosen {
  row: number;
  column: number;
  toRow: number;
  toColumn: number;
}
export interface UseCellsReturn {
  chosen: Ref<Chosen>;
  inside: (i: number, j: number) => boolean;
  many: Ref<number>;
  press: (i: number, j: number, extend: boolean) => void;
  drag: (i: number, j: number) => void;
  /** True where the key was one of these. */
  key: (event: KeyboardEvent) => boolean;
}
const STEPS: Record<string, [number, number]> = { ArrowUp: [1, 0], ArrowDown: [-1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] };

/** The cells of a table that are chosen; `ranges` false where only one may be. */
export function useCells(table: () => Table, ranges = true): UseCellsReturn {
  const chosen = ref<Chosen>({ row: 0, column: 0, toRow: 0, toColumn: 0 });
  const height = () => table().rows.length;
  const wide = () => table().x.length;
  const to = (i: number, j: number) => (chosen.value = { row: i, column: j, toRow: i, toColumn: j });
  watch(
    () => `${table().key} ${height()} ${wide()}`,
    () => to(Math.floor(height() * 0.6), Math.floor(wide() * 0.6)),
    { immediate: true },
  );
  const between = (v: number, a: number, b: number) => v >= Math.min(a, b) && v <= Math.max(a, b);
  const inside = (i: number, j: number) =>
    between(i, chosen.value.row, chosen.value.toRow) && between(j, chosen.value.column, chosen.value.toColumn);
  const many = computed(() => {
    const c = chosen.value;
    return (Math.abs(c.toRow - c.row) + 1) * (Math.abs(c.toColumn - c.column) + 1);
  });
  function press(i: number, j: number, extend: boolean): void {
    if (extend && ranges) chosen.value = { ...chosen.value, toRow: i, toColumn: j };
    else to(i, j);
  }
  const drag = (i: number, j: number) => press(i, j, true);
  function key(event: KeyboardEvent): boolean {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "a" && ranges) {
      chosen.value = { row: 0, column: 0, toRow: height() - 1, toColumn: wide() - 1 };
      event.preventDefault();
      return true;
    }
    const step = STEPS[event.key];
    if (!step || event.ctrlKey || event.metaKey || event.altKey) return false;
    event.preventDefault();
    const c = chosen.value;
    const row = Math.max(0, Math.min(height() - 1, c.toRow + step[0]));
    const column = Math.max(0, Math.min(wide() - 1, c.toColumn + step[1]));
    if (event.shiftKey && ranges) chosen.value = { ...c, toRow: row, toColumn: column };
    else to(row, column);
    return true;
  }
  return { chosen, inside, many, press, drag, key };
}
