<script setup lang="ts">
// The cells themselves: shade by value, hatching by doubt, a turned corner for ink, a frame round what is chosen.
import { useEventListener } from "@vueuse/core";
import { computed, ref } from "vue";
import type { Table } from "@/api/types";
import { grid } from "./layout";
import type { UseCellsReturn } from "./useCells";

const props = defineProps<{
  table: Table;
  width: number;
  low: number;
  high: number;
  doubts?: number[][];
  cells: UseCellsReturn;
  told: (v: number) => string;
  /** Shaded both ways from nought, as a difference is. */
  spread?: boolean;
  /** Cells whose numbers would stand under something else. */
  under?: Set<string>;
}>();
const at = computed(() => grid(props.width, props.table));
const share = (v: number) => (props.high > props.low ? (v - props.low) / (props.high - props.low) : 0.5);
const most = computed(() => Math.max(Math.abs(props.low), Math.abs(props.high), 1e-9));
const shade = (v: number) => (props.spread ? 0.7 * (Math.abs(v) / most.value) : 0.06 + 0.6 * share(v));
const paint = (v: number) => (props.spread && v < 0 ? "var(--ink)" : props.spread ? "var(--spark)" : "var(--good)");
/** How wide a cell is hatched for its doubt: not at all where it is sure. */
const HATCHES = [
  { key: "fine", from: 0.06, step: 9 },
  { key: "wide", from: 0.1, step: 5 },
] as const;
const hatch = (i: number, j: number) => {
  const d = props.doubts?.[i]?.[j] ?? 0;
  return [...HATCHES].reverse().find((h) => d >= h.from)?.key ?? null;
};
const ink = computed(() => new Set((props.table.ink ?? []).map(([i, j]) => `${i} ${j}`)));
const size = computed(() => Math.max(8, Math.min(12.5, at.value.width / 2.9)));
const frame = computed(() => {
  const c = props.cells.chosen.value;
  const [left, right] = [Math.min(c.column, c.toColumn), Math.max(c.column, c.toColumn)];
  const [foot, top] = [Math.min(c.row, c.toRow), Math.max(c.row, c.toRow)];
  return {
    x: at.value.x + left * at.value.width,
    y: at.value.cy(top) - at.value.height / 2,
    width: (right - left + 1) * at.value.width,
    height: (top - foot + 1) * at.value.height,
  };
});
const dragging = ref(false);
useEventListener(window, "pointerup", () => (dragging.value = false));
function press(event: PointerEvent, i: number, j: number): void {
  props.cells.press(i, j, event.shiftKey);
  dragging.value = event.pointerType === "mouse";
}
</script>

<template>
  <defs v-if="doubts">
    <pattern
      v-for="h in HATCHES"
      :id="`hatch-${h.key}`"
      :key="h.key"
      :width="h.step"
      :height="h.step"
      patternUnits="userSpaceOnUse"
      patternTransform="rotate(45)"
    >
      <path :d="`M0 0V${h.step}`" stroke="var(--ink)" stroke-width="1" stroke-opacity="0.45" />
    </pattern>
  </defs>
  <g v-for="(r, i) in table.rows" :key="i">
    <g
      v-for="(v, j) in r"
      :key="j"
      style="cursor: pointer"
      :data-cell="`${i} ${j}`"
      @pointerdown="press($event, i, j)"
      @pointerenter="dragging && cells.drag(i, j)"
    >
      <rect
        :x="at.x + j * at.width"
        :y="at.cy(i) - at.height / 2"
        :width="at.width"
        :height="at.height"
        :fill="paint(v)"
        :fill-opacity="shade(v)"
        stroke="var(--sheet)"
        stroke-width="1"
      />
      <rect
        v-if="hatch(i, j)"
        :x="at.x + j * at.width"
        :y="at.cy(i) - at.height / 2"
        :width="at.width"
        :height="at.height"
        :fill="`url(#hatch-${hatch(i, j)})`"
      />
      <path
        v-if="ink.has(`${i} ${j}`)"
        :d="`M${at.x + j * at.width + 1} ${at.cy(i) - at.height / 2 + 1}h8l-8 8z`"
        fill="var(--ink)"
        class="ink-corner"
      />
      <text
        v-if="at.width > 24 && !under?.has(`${i} ${j}`)"
        :x="at.cx(j)"
        :y="at.cy(i) + 4"
        text-anchor="middle"
        :font-size="size"
        :font-weight="ink.has(`${i} ${j}`) ? 700 : 400"
        class="num halo"
        >{{ told(v) }}</text
      >
    </g>
  </g>
  <rect v-bind="frame" fill="none" stroke="var(--spark)" stroke-width="2.6" style="pointer-events: none" />
</template>
