<script setup lang="ts">
// Places and the bend of the pressed branch, moved by hand or with the arrow keys; kept in the build when they are let go.
import { computed } from "vue";
import type { Stages } from "@/api/types";
import { useBuild } from "@/stores/build";
import type { Held, Point, UseHarnessPlanReturn } from "./useHarnessPlan";

const props = defineProps<{ wiring: Stages["wiring"]; plan: UseHarnessPlanReturn; width: number; branch: string | null }>();
const emit = defineEmits<{ look: [string] }>();
const { held, x, y, at, bendOf, middle, points, metres } = props.plan;
const store = useBuild();
const STEP = 0.05; // m, with an arrow key
const REACH = 20; // m, as far as a place may be
const line = (pts: [number, number][]) => pts.map(([px, py], i) => `${i ? "L" : "M"}${px.toFixed(1)} ${py.toFixed(1)}`).join("");
const pressed = computed(() => props.wiring.branches.find((b) => b.key === props.branch) ?? null);
/** Where its bend is [px]. */
const bend = computed(() => {
  const pts = pressed.value ? points(pressed.value, props.width) : [];
  return pts[Math.floor(pts.length / 2)] ?? null;
});
const mine = (what: Held["what"], key: string) => (held.value?.what === what && held.value.key === key ? held.value : null);
function start(what: Held["what"], key: string): Point {
  if (what === "place") return at(key);
  return bendOf(key) ?? (bend.value ? metres(props.width, ...bend.value) : middle(pressed.value!));
}
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
function drag(event: PointerEvent, what: Held["what"], key: string): void {
  if (store.readOnly) return;
  const grip = event.currentTarget as SVGElement;
  const frame = grip.ownerSVGElement!.getBoundingClientRect();
  const [x0, y0] = [event.clientX, event.clientY];
  let moved = false;
  grip.setPointerCapture(event.pointerId);
  const move = (e: PointerEvent) => {
    moved ||= Math.hypot(e.clientX - x0, e.clientY - y0) > 3;
    if (moved) held.value = { what, key, ...metres(props.width, e.clientX - frame.left, e.clientY - frame.top) };
  };
  const done = new AbortController();
  const up = () => {
    done.abort();
    if (moved) void keep();
  };
  grip.addEventListener("pointermove", move, { signal: done.signal });
  grip.addEventListener("pointerup", up, { signal: done.signal });
  grip.addEventListener("pointercancel", up, { signal: done.signal });
}
let waiting: ReturnType<typeof setTimeout> | undefined;
function nudge(event: KeyboardEvent, what: Held["what"], key: string): void {
  if (store.readOnly) return;
  if (what === "bend" && (event.key === "Delete" || event.key === "Backspace")) {
    held.value = null;
    if (store.at(`/wiring/branches/${key}/bend`)) void store.set(`/wiring/branches/${key}/bend`, undefined);
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
</script>

<template>
  <path
    v-for="b in wiring.branches"
    :key="b.key"
    :d="line(points(b, width))"
    fill="none"
    stroke="transparent"
    stroke-width="22"
    class="cursor-pointer"
    @click="emit('look', b.key)"
  />
  <rect
    v-for="n in wiring.nodes"
    :id="`f/wiring/nodes/${n.key}`"
    :key="n.key"
    :x="x(width)(at(n.key).x) - 15"
    :y="y(at(n.key).y) - 15"
    width="30"
    height="30"
    fill="transparent"
    class="cursor-move touch-none"
    tabindex="0"
    role="button"
    :aria-label="`${n.name}: move with the arrow keys`"
    @pointerdown="drag($event, 'place', n.key)"
    @keydown="nudge($event, 'place', n.key)"
  />
  <circle
    v-if="branch && bend"
    :cx="bend[0]"
    :cy="bend[1]"
    r="9"
    fill="var(--sheet)"
    stroke="var(--spark)"
    stroke-width="2.5"
    class="cursor-move touch-none"
    tabindex="0"
    role="button"
    aria-label="Bend of this branch: move with the arrow keys, Delete takes it away"
    @pointerdown="drag($event, 'bend', branch)"
    @keydown="nudge($event, 'bend', branch)"
  />
</template>
