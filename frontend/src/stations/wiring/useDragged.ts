import { computed, ref, type ComputedRef, type Ref } from "vue";
import type { Stages } from "@/api/types";
import { useBuild } from "@/stores/build";

export interface Point {
  x: number;
  y: number;
}
type What = "place" | "bend";
interface Held extends Point {
  what: What;
  key: string;
}
export interface UseDraggedReturn {
  /** What is under the hand, where it is now [m]; null while nothing is. */
  held: Ref<Held | null>;
  at: (place: string) => Point | undefined;
  bendOf: (branch: string) => Point | null;
  drag: (event: PointerEvent, width: number, what: What, key: string) => void;
  nudge: (event: KeyboardEvent, what: What, key: string) => void;
  middle: ComputedRef<Map<string, Point>>;
}
const STEP = 0.05; // m, with an arrow key
const REACH = 20; // m, as far as a place may be

/** Places and bends of the harness moved by hand on the drawing; kept in the build when they are let go. */
export function useDragged(
  props: { wiring: Stages["wiring"]; editable?: boolean },
  inverse: (width: number) => { x: (px: number) => number; y: (py: number) => number },
): UseDraggedReturn {
  const store = useBuild();
  const held = ref<Held | null>(null);
  const nodes = computed(() => new Map(props.wiring.nodes.map((n) => [n.key, { x: n.x_m, y: n.y_m }])));
  const mine = (what: What, key: string) => (held.value?.what === what && held.value.key === key ? held.value : null);
  const at = (place: string): Point | undefined => mine("place", place) ?? nodes.value.get(place);
  const kept = (branch: string) => (store.at(`/wiring/branches/${branch}/bend`) as Point | null | undefined) ?? null;
  const bendOf = (branch: string): Point | null => mine("bend", branch) ?? kept(branch);
  const middle = computed(
    () =>
      new Map(
        props.wiring.branches.map((b) => {
          const [p, q] = [at(b.start) ?? { x: 0, y: 0 }, at(b.end) ?? { x: 0, y: 0 }];
          return [b.key, { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 }];
        }),
      ),
  );
  const start = (what: What, key: string): Point => (what === "place" ? at(key) : (bendOf(key) ?? middle.value.get(key))) ?? { x: 0, y: 0 };
  const round = (v: number) => Math.max(-REACH, Math.min(REACH, Math.round(v * 100) / 100));
  async function keep(): Promise<void> {
    const h = held.value;
    if (!h || store.readOnly) return;
    const point = { x: round(h.x), y: round(h.y) };
    if (h.what === "bend") await store.set(`/wiring/branches/${h.key}/bend`, point);
    else
      await store.edit([
        { op: "replace", path: `/wiring/nodes/${h.key}/x`, value: point.x },
        { op: "replace", path: `/wiring/nodes/${h.key}/y`, value: point.y },
      ]);
    if (held.value === h) held.value = null;
  }
  function drag(event: PointerEvent, width: number, what: What, key: string): void {
    if (!props.editable || store.readOnly) return;
    const grip = event.currentTarget as SVGElement;
    const frame = grip.ownerSVGElement!.getBoundingClientRect();
    const to = inverse(width);
    const [x0, y0] = [event.clientX, event.clientY];
    let moved = false;
    grip.setPointerCapture(event.pointerId);
    const move = (e: PointerEvent) => {
      moved ||= Math.hypot(e.clientX - x0, e.clientY - y0) > 3;
      if (moved) held.value = { what, key, x: to.x(e.clientX - frame.left), y: to.y(e.clientY - frame.top) };
    };
    const up = () => {
      grip.removeEventListener("pointermove", move);
      grip.removeEventListener("pointerup", up);
      grip.removeEventListener("pointercancel", up);
      if (moved) void keep();
    };
    grip.addEventListener("pointermove", move);
    grip.addEventListener("pointerup", up);
    grip.addEventListener("pointercancel", up);
  }
  let waiting: ReturnType<typeof setTimeout> | undefined;
  function nudge(event: KeyboardEvent, what: What, key: string): void {
    if (!props.editable || store.readOnly) return;
    if (what === "bend" && (event.key === "Delete" || event.key === "Backspace")) {
      held.value = null;
      if (kept(key)) void store.set(`/wiring/branches/${key}/bend`, undefined);
      event.preventDefault();
      return;
    }
    const by = { ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0], ArrowUp: [0, STEP], ArrowDown: [0, -STEP] }[event.key];
    if (!by) return;
    event.preventDefault();
    const from = mine(what, key) ?? start(what, key);
    held.value = { what, key, x: from.x + by[0]!, y: from.y + by[1]! };
    clearTimeout(waiting);
    waiting = setTimeout(() => void keep(), 500); // a run of presses is one change
  }
  return { held, at, bendOf, drag, nudge, middle };
}
