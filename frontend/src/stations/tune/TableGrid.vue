<script setup lang="ts">
// A table as a shaded grid, with the two slices through the chosen cell along its edges; hatched where it is not sure, a corner turned where a person wrote.
import { useMediaQuery } from "@vueuse/core";
import { scaleLinear } from "d3-scale";
import { curveMonotoneX, line } from "d3-shape";
import { computed } from "vue";
import type { Landmark, Table } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";
import GridCells from "./GridCells.vue";
import GridMarks from "./GridMarks.vue";
import TableNear from "./TableNear.vue";
import { covered, grid, HEIGHT as H, LEFT, marked, SLICE } from "./layout";
import { useCells, type UseCellsReturn } from "./useCells";

const props = defineProps<{ table: Table; doubt?: number[][]; marks?: Landmark[]; cells?: UseCellsReturn; spread?: boolean }>();
const own = useCells(() => props.table, false);
const cells = computed(() => props.cells ?? own);
const row = computed(() => cells.value.chosen.value.toRow);
const column = computed(() => cells.value.chosen.value.toColumn);
const all = computed(() => props.table.rows.flat());
const low = computed(() => Math.min(...all.value));
const high = computed(() => Math.max(...all.value));
const value = computed(() => props.table.rows[row.value]?.[column.value] ?? 0);
const doubts = computed(() => props.doubt ?? (props.table.doubts?.length ? props.table.doubts : undefined));
const at = (width: number) => grid(width, props.table);
const across = (width: number) => {
  const s = scaleLinear()
    .domain([low.value, high.value])
    .range([SLICE - 10, 14]);
  return (
    line<number>()
      .x((_, j) => at(width).cx(j))
      .y((v) => s(v))
      .curve(curveMonotoneX)(props.table.rows[row.value] ?? []) ?? ""
  );
};
const along = (width: number) => {
  const s = scaleLinear()
    .domain([low.value, high.value])
    .range([width - SLICE - 14, width - 10]);
  return (
    line<number>()
      .x((v) => s(v))
      .y((_, i) => at(width).cy(i))
      .curve(curveMonotoneX)(props.table.rows.map((r) => r[column.value]!)) ?? ""
  );
};
const sure = computed(() => {
  const d = doubts.value?.[row.value]?.[column.value];
  return d === undefined ? "" : `, ± ${(d * 100).toFixed(0)} %`;
});
const words = computed(
  () =>
    `${props.table.title}: ${props.table.rows.length} rows of ${props.table.y_label}, ${props.table.x.length} columns of ${props.table.x_label}; at ${props.table.y[row.value]} and ${props.table.x[column.value]} rpm ${value.value} ${props.table.unit}.`,
);
const small = useMediaQuery("(width < 40rem)");
const told = (v: number) =>
  props.table.unit === "lambda" ? v.toFixed(2) : props.table.unit === "times" ? v.toFixed(2) : String(Math.round(v));
</script>

<template>
  <div
    tabindex="0"
    role="group"
    :aria-label="`${table.title}. Arrow keys move through the cells${props.cells ? ', with Shift a range' : ''}.`"
    @keydown="cells.key($event)"
  >
    <Drawing :title="`${table.title}, ${table.unit}`" :height="H" :words="words">
      <template #tools>
        <span class="num text-[0.9rem]"
          >{{ table.y[row] }} {{ table.y_label?.split(", ")[1] }}, {{ table.x[column]?.toLocaleString("en-GB") }} rpm: <b>{{ value }}</b>{{
            sure
          }}</span
        >
      </template>
      <template #default="{ width }">
        <GridCells
          :table="table"
          :width="width"
          :low="low"
          :high="high"
          :doubts="doubts"
          :cells="cells"
          :told="told"
          :spread="spread"
          :under="marks ? covered(marked(marks, table, width), table, width) : undefined"
        />
        <template v-for="(v, i) in table.y" :key="v">
          <text
            v-if="i % 2 === 0 || at(width).height > 16"
            :x="LEFT - 8"
            :y="at(width).cy(i) + 4"
            text-anchor="end"
            font-size="12"
            class="num"
            >{{ v }}</text
          >
        </template>
        <template v-for="(v, j) in table.x" :key="v"
          ><text
            v-if="j % (at(width).width < 20 ? 3 : at(width).width < 38 ? 2 : 1) === 0"
            :x="at(width).cx(j)"
            :y="at(width).foot + 16"
            text-anchor="middle"
            font-size="12"
            class="num"
            >{{ v }}</text
          ></template
        >
        <text :x="at(width).x + at(width).w" :y="H - 14" text-anchor="end" font-size="12">{{ table.x_label }}</text>
        <text :x="8" :y="SLICE + 6" font-size="12">{{ table.y_label }}</text>
        <path :d="across(width)" fill="none" stroke="var(--ink)" stroke-width="1.8" />
        <path :d="along(width)" fill="none" stroke="var(--ink)" stroke-width="1.8" />
        <path
          :d="`M${at(width).cx(column)} 12V${at(width).y}M${at(width).x + at(width).w} ${at(width).cy(row)}H${width - 8}`"
          stroke="var(--spark)"
          stroke-dasharray="2 3"
        />
        <GridMarks v-if="marks" :places="marked(marks, table, width)" />
      </template>
    </Drawing>
    <TableNear
      v-if="small"
      :table="table"
      :row="row"
      :column="column"
      :told="told"
      @move="(i: number, j: number) => cells.press(i, j, false)"
    />
  </div>
</template>
