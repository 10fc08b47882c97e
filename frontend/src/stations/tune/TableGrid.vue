<script setup lang="ts">
// A table as a shaded grid, with the two slices through the chosen cell along its edges.
import { useMediaQuery } from "@vueuse/core";
import { scaleLinear } from "d3-scale";
import { curveMonotoneX, line } from "d3-shape";
import { computed, ref, watch } from "vue";
import type { Table } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";
import TableNear from "./TableNear.vue";

const props = defineProps<{ table: Table; doubt?: number[][] }>();
const H = 446;
const slice = 74;
const left = 62;
const bottom = 52;
const row = ref(0);
const column = ref(0);
watch(
  () => props.table.key,
  () => {
    row.value = Math.floor(props.table.rows.length * 0.6);
    column.value = Math.floor(props.table.x.length * 0.6);
  },
  { immediate: true },
);
const all = computed(() => props.table.rows.flat());
const low = computed(() => Math.min(...all.value));
const high = computed(() => Math.max(...all.value));
const share = (v: number) => (high.value > low.value ? (v - low.value) / (high.value - low.value) : 0.5);
const grid = (width: number) => ({ x: left, y: slice + 14, w: width - left - slice - 22, h: H - slice - 14 - bottom });
const cell = (width: number) => ({ w: grid(width).w / props.table.x.length, h: grid(width).h / props.table.rows.length });
const cx = (width: number, j: number) => grid(width).x + (j + 0.5) * cell(width).w;
const cy = (width: number, i: number) => grid(width).y + grid(width).h - (i + 0.5) * cell(width).h;
const value = computed(() => props.table.rows[row.value]?.[column.value] ?? 0);
const across = (width: number) => {
  const s = scaleLinear()
    .domain([low.value, high.value])
    .range([slice + 4, 16]);
  return (
    line<number>()
      .x((_, j) => cx(width, j))
      .y((v) => s(v))
      .curve(curveMonotoneX)(props.table.rows[row.value] ?? []) ?? ""
  );
};
const along = (width: number) => {
  const s = scaleLinear()
    .domain([low.value, high.value])
    .range([width - slice - 14, width - 10]);
  return (
    line<number>()
      .x((v) => s(v))
      .y((_, i) => cy(width, i))
      .curve(curveMonotoneX)(props.table.rows.map((r) => r[column.value]!)) ?? ""
  );
};
/** How wide a cell is hatched for its doubt: not at all where it is sure. */
const HATCHES = [
  { key: "fine", from: 0.06, step: 9 },
  { key: "wide", from: 0.1, step: 5 },
] as const;
const hatch = (i: number, j: number) => {
  const d = props.doubt?.[i]?.[j] ?? 0;
  return [...HATCHES].reverse().find((h) => d >= h.from)?.key ?? null;
};
const sure = computed(() => {
  const d = props.doubt?.[row.value]?.[column.value];
  return d === undefined ? "" : `, ± ${(d * 100).toFixed(0)} %`;
});
const words = computed(
  () =>
    `${props.table.title}: ${props.table.rows.length} rows of ${props.table.y_label}, ${props.table.x.length} columns of ${props.table.x_label}; at ${props.table.y[row.value]} and ${props.table.x[column.value]} rpm ${value.value} ${props.table.unit}.`,
);
function key(event: KeyboardEvent): void {
  const by: Record<string, [number, number]> = { ArrowUp: [1, 0], ArrowDown: [-1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] };
  const step = by[event.key];
  if (!step) return;
  event.preventDefault();
  row.value = Math.max(0, Math.min(props.table.rows.length - 1, row.value + step[0]));
  column.value = Math.max(0, Math.min(props.table.x.length - 1, column.value + step[1]));
}
const small = useMediaQuery("(width < 40rem)");
const told = (v: number) => (props.table.unit === "lambda" ? v.toFixed(2) : String(Math.round(v)));
const size = (width: number) => Math.max(8, Math.min(12.5, cell(width).w / 2.9));
</script>

<template>
  <div tabindex="0" role="group" :aria-label="`${table.title}. Arrow keys move through the cells.`" @keydown="key">
    <Drawing :title="`${table.title}, ${table.unit}`" :height="H" :words="words">
      <template #tools>
        <span class="num text-[0.9rem]"
          >{{ table.y[row] }} {{ table.y_label?.split(", ")[1] }}, {{ table.x[column]?.toLocaleString("en-GB") }} rpm: <b>{{ value }}</b>{{
            sure
          }}</span
        >
      </template>
      <template #default="{ width }">
        <defs v-if="doubt">
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
          <g v-for="(v, j) in r" :key="j" style="cursor: pointer" @click="((row = i), (column = j))">
            <rect
              :x="grid(width).x + j * cell(width).w"
              :y="cy(width, i) - cell(width).h / 2"
              :width="cell(width).w"
              :height="cell(width).h"
              fill="var(--good)"
              :fill-opacity="0.06 + 0.6 * share(v)"
              stroke="var(--sheet)"
              stroke-width="1"
            />
            <rect
              v-if="hatch(i, j)"
              :x="grid(width).x + j * cell(width).w"
              :y="cy(width, i) - cell(width).h / 2"
              :width="cell(width).w"
              :height="cell(width).h"
              :fill="`url(#hatch-${hatch(i, j)})`"
            />
            <text
              v-if="cell(width).w > 24"
              :x="cx(width, j)"
              :y="cy(width, i) + 4"
              text-anchor="middle"
              :font-size="size(width)"
              class="num halo"
              >{{ told(v) }}</text
            >
          </g>
          <text v-if="i % 2 === 0 || cell(width).h > 16" :x="left - 8" :y="cy(width, i) + 4" text-anchor="end" font-size="12" class="num">{{
            table.y[i]
          }}</text>
        </g>
        <rect
          :x="grid(width).x + column * cell(width).w"
          :y="cy(width, row) - cell(width).h / 2"
          :width="cell(width).w"
          :height="cell(width).h"
          fill="none"
          stroke="var(--spark)"
          stroke-width="2.6"
        />
        <template v-for="(v, j) in table.x" :key="v"
          ><text
            v-if="j % (cell(width).w < 20 ? 3 : cell(width).w < 38 ? 2 : 1) === 0"
            :x="cx(width, j)"
            :y="H - bottom + 16"
            text-anchor="middle"
            font-size="12"
            class="num"
            >{{ v }}</text
          ></template
        >
        <text :x="grid(width).x + grid(width).w" :y="H - 14" text-anchor="end" font-size="12">{{ table.x_label }}</text>
        <text :x="8" :y="slice + 6" font-size="12">{{ table.y_label }}</text>
        <path :d="across(width)" fill="none" stroke="var(--ink)" stroke-width="1.8" />
        <path :d="along(width)" fill="none" stroke="var(--ink)" stroke-width="1.8" />
        <path
          :d="`M${cx(width, column)} 12V${grid(width).y}M${grid(width).x + grid(width).w} ${cy(width, row)}H${width - 8}`"
          stroke="var(--spark)"
          stroke-dasharray="2 3"
        />
      </template>
    </Drawing>
    <TableNear v-if="small" :table="table" :row="row" :column="column" :told="told" @move="(i, j) => ((row = i), (column = j))" />
  </div>
</template>
