<script setup lang="ts">
// Pressure in the cylinder of one cell, from where the inlet shuts to where the exhaust opens.
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { computed } from "vue";
import type { CycleDepth } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";

const props = defineProps<{ depth: CycleDepth; row: number; column: number }>();
const H = 140;
const values = computed(() => props.depth.traces.kpa[props.row]![props.column]!);
const degrees = computed(() => props.depth.traces.degrees);
const most = computed(() => Math.max(...values.value));
const top = computed(() => degrees.value[values.value.indexOf(most.value)]!);
const y = computed(() =>
  scaleLinear()
    .domain([0, most.value * 1.15])
    .range([H - 26, 12]),
);
const x = (width: number) =>
  scaleLinear()
    .domain([degrees.value[0]!, degrees.value.at(-1)!])
    .range([12, width - 12]);
const path = (width: number) =>
  line<number>()
    .x((_, k) => x(width)(degrees.value[k]!))
    .y((v) => y.value(v))(values.value) ?? "";
const words = computed(() => `Pressure in the cylinder: at most ${(most.value / 100).toFixed(0)} bar, ${top.value} degrees after top.`);
</script>

<template>
  <Drawing title="Pressure in the cylinder" :height="H" :words="words">
    <template #default="{ width }">
      <path :d="`M${x(width)(0)} 8V${H - 26}`" stroke="var(--line)" stroke-dasharray="3 3" />
      <path :d="`M10 ${y(0)}H${width - 10}`" stroke="var(--line)" />
      <path :d="path(width)" fill="none" stroke="var(--ink)" stroke-width="2" />
      <circle :cx="x(width)(top)" :cy="y(most)" r="3.5" fill="var(--spark)" />
      <text :x="x(width)(top) + 8" :y="y(most) + 4" font-size="12" font-weight="600" class="num halo"
        >{{ (most / 100).toFixed(0) }} bar at {{ top }}°</text
      >
      <text :x="x(width)(0)" :y="H - 8" text-anchor="middle" font-size="12">top</text>
      <text x="12" :y="H - 8" font-size="12">inlet shuts</text>
      <text :x="width - 12" :y="H - 8" text-anchor="end" font-size="12">exhaust opens</text>
    </template>
  </Drawing>
</template>
