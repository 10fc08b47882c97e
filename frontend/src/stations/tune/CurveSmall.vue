<script setup lang="ts">
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { computed } from "vue";
import type { Table } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";

const props = defineProps<{ table: Table; tall?: boolean }>();
const H = computed(() => (props.tall ? 300 : 150));
const values = computed(() => props.table.rows[0]!);
const y = computed(() => {
  const [low, high] = [Math.min(0, ...values.value), Math.max(...values.value, 1e-9)];
  return scaleLinear()
    .domain([low * 1.25, high * 1.25])
    .range([H.value - 30, 14]);
});
const x = (width: number) =>
  scaleLinear()
    .domain([Math.min(...props.table.x), Math.max(...props.table.x)])
    .range([30, width - 34]);
const path = (width: number) =>
  line<number>()
    .x((_, i) => x(width)(props.table.x[i]!))
    .y((v) => y.value(v))(values.value) ?? "";
const words = computed(() => `${props.table.title}: ${props.table.x.map((v, i) => `${v} gives ${values.value[i]}`).join(", ")}`);
</script>

<template>
  <Drawing :title="`${table.title}${table.unit === '1' ? '' : `, ${table.unit}`}`" :height="H" :words="words">
    <template #default="{ width }">
      <path :d="`M20 ${y(0)}H${width - 16}`" stroke="var(--line)" />
      <path :d="path(width)" fill="none" stroke="var(--good)" stroke-width="2.2" />
      <g v-for="(v, i) in values" :key="i" :transform="`translate(${x(width)(table.x[i]!)} 0)`">
        <circle :cy="y(v)" r="3.5" fill="var(--good)" /><text
          :y="y(v) - 8"
          text-anchor="middle"
          font-size="12"
          font-weight="600"
          class="num"
          >{{ v }}</text
        >
        <text :y="H - 12" text-anchor="middle" font-size="12" class="num" style="fill: var(--soft)">{{ table.x[i] }}</text>
      </g>
    </template>
    <template #under
      ><p class="text-[0.8rem] text-soft">Over {{ table.x_label }}. {{ table.doubt }}</p></template
    >
  </Drawing>
</template>
