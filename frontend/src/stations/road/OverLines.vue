<script setup lang="ts">
// Lines laid over each other: how far off the mixture was, lean above the line and rich below it; the middle of them strong.
import { scaleLinear } from "d3-scale";
import { curveMonotoneX, line as path } from "d3-shape";
import { computed } from "vue";
import AxisX from "@/figures/AxisX.vue";
import Drawing from "@/figures/Drawing.vue";
import type { RoadLine } from "./asks";

const props = defineProps<{
  title: string;
  lines: RoadLine[];
  middle?: RoadLine | null;
  xLabel: string;
  empty: string;
  points?: boolean;
  doubt?: number[];
}>();
const H = 250;
const LEFT = 52;
const FOOT = H - 40;
const xs = computed(() => props.lines.flatMap((l) => l.x));
const most = computed(() => Math.max(0.05, ...props.lines.flatMap((l) => l.y.map(Math.abs))) * 1.08);
const x = (width: number) =>
  scaleLinear()
    .domain([Math.min(...xs.value), Math.max(...xs.value)])
    .range([LEFT, width - 22]);
const y = computed(() => scaleLinear().domain([-most.value, most.value]).range([FOOT, 14]));
const draw = (l: RoadLine, width: number) =>
  path<number>()
    .x((_, i) => x(width)(l.x[i]!))
    .y((v) => y.value(v))
    .curve(curveMonotoneX)(l.y) ?? "";
const words = computed(
  () =>
    `${props.title}: ${props.lines.length} ${props.lines.length === 1 ? "line" : "lines"}; at most ${(Math.max(...props.lines.flatMap((l) => l.y), 0) * 100).toFixed(1)} % too lean.`,
);
const ticks = computed(() => y.value.ticks(5));
</script>

<template>
  <p v-if="!lines.length" class="mt-3 border-l-4 border-line pl-3 leading-snug text-soft">{{ empty }}</p>
  <Drawing v-else :title="title" :height="H" :words="words">
    <template #default="{ width }">
      <rect :x="LEFT" :y="14" :width="width - LEFT - 14" :height="y(0) - 14" fill="var(--wash)" opacity="0.5" />
      <g v-for="t in ticks" :key="t">
        <path :d="`M${LEFT} ${y(t)}H${width - 14}`" :stroke="t ? 'var(--hair)' : 'var(--ink)'" />
        <text :x="LEFT - 5" :y="y(t) + 4" text-anchor="end" font-size="12" class="num">{{
          `${(t * 100).toFixed(0).replace("-", "−")} %`
        }}</text>
      </g>
      <text :x="width - 18" y="28" text-anchor="end" font-size="12">too lean</text>
      <text :x="width - 18" :y="FOOT - 6" text-anchor="end" font-size="12">too rich</text>
      <path
        v-for="l in lines"
        :key="l.label"
        :d="draw(l, width)"
        fill="none"
        stroke="var(--ink)"
        :stroke-width="middle || lines.length > 1 ? 1 : 2"
        :opacity="middle ? 0.45 : 0.9"
      />
      <template v-if="points"
        ><g v-for="(v, i) in lines[0]!.y" :key="i">
          <path
            v-if="doubt"
            :d="`M${x(width)(lines[0]!.x[i]!)} ${y(v - 2 * doubt[i]!)}V${y(v + 2 * doubt[i]!)}`"
            stroke="var(--spark)"
            stroke-width="3" /><circle :cx="x(width)(lines[0]!.x[i]!)" :cy="y(v)" r="4.5" fill="var(--spark)" /></g
      ></template>
      <path v-if="middle" :d="draw(middle, width)" fill="none" stroke="var(--spark)" stroke-width="3" />
      <path v-if="x(width).domain()[0]! < 0" :d="`M${x(width)(0)} 14V${FOOT}`" stroke="var(--ink)" stroke-dasharray="3 3" />
      <AxisX :scale="x(width)" :y="FOOT" :label="xLabel" :count="width < 500 ? 4 : 6" />
    </template>
  </Drawing>
</template>
