import { ref, type Ref } from "vue";
import type { Size } from "@/api/types";

/** What is dragged: a place in the build, its value (metres), and where the hand took hold. */
export interface Dragged {
  at: string;
  value: number;
  from: number;
  start: number;
}
export interface UseGradeDragReturn {
  dragged: Ref<Dragged | null>;
  grab: (event: PointerEvent, at: string, value: number) => void;
  drag: (event: PointerEvent) => void;
  drop: () => void;
  cancel: () => void;
  nudge: (event: KeyboardEvent, at: string, value: number) => void;
}
interface Options {
  fixed: () => boolean;
  /** Pixels of the drawing to a metre of height. */
  perMetre: () => number;
  /** Bores as tube is sold. */
  sizes: () => Size[];
  attempt: (at: string, written: string) => void;
  settle: (at: string, written: string) => void;
}
export const [LOWEST, HIGHEST] = [-2, 2.5]; // m, how far the rail is pulled
const PER_SIZE = 14; // px of a drag from one bore to the next
const STEP = 0.05; // m of height to a key
const SLACK = 5e-5; // m, within which a bore is one that is sold

/** Bores and heights pulled up and down in the grade line, or moved by keys. Values are metres; what is sent is written out. */
export function useGradeDrag(o: Options): UseGradeDragReturn {
  const dragged = ref<Dragged | null>(null);
  const isBore = (at: string) => at.endsWith("/bore");
  const written = (at: string, value: number) =>
    isBore(at)
      ? (o.sizes().find((s) => Math.abs(s.si - value) < SLACK)?.written ?? `${+(value * 1e3).toFixed(2)} mm`)
      : `${value.toFixed(2)} m`;

  function grab(event: PointerEvent, at: string, value: number): void {
    if (o.fixed()) return;
    dragged.value = { at, value, from: event.clientY, start: value };
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
  }
  function drag(event: PointerEvent): void {
    const d = dragged.value;
    if (!d) return;
    const value = isBore(d.at) ? bore(d, d.from - event.clientY) : height(d, d.from - event.clientY);
    if (value === d.value) return;
    dragged.value = { ...d, value };
    o.attempt(d.at, written(d.at, value));
  }
  function bore(d: Dragged, up: number): number {
    const sizes = o.sizes();
    const found = sizes.findIndex((s) => s.si >= d.start - SLACK);
    const at = found < 0 ? sizes.length - 1 : found;
    return sizes[Math.max(0, Math.min(sizes.length - 1, at + Math.round(up / PER_SIZE)))]!.si;
  }
  const height = (d: Dragged, up: number) => Math.max(LOWEST, Math.min(HIGHEST, Math.round((d.start + up / o.perMetre()) * 100) / 100));
  function drop(): void {
    const d = dragged.value;
    dragged.value = null;
    if (d && d.value !== d.start) o.settle(d.at, written(d.at, d.value));
  }
  function nudge(event: KeyboardEvent, at: string, value: number): void {
    const step = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
    if (!step || o.fixed()) return;
    event.preventDefault();
    const sizes = o.sizes();
    const bigger = sizes.find((s) => s.si > value + SLACK)?.si;
    const smaller = sizes.filter((s) => s.si < value - SLACK).at(-1)?.si;
    const next = isBore(at) ? (step > 0 ? bigger : smaller) : value + step * STEP;
    if (next !== undefined) o.settle(at, written(at, next));
  }
  return { dragged, grab, drag, drop, cancel: () => (dragged.value = null), nudge };
}
