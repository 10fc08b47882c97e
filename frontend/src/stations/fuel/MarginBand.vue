<script setup lang="ts">
// The margin at full power with its doubt: how the draws fall, the need, and what is wanted.
import { scaleLinear } from "d3-scale";
import { computed } from "vue";
import type { FuelDepth, Stages } from "@/api/types";
import AxisX from "@/figures/AxisX.vue";
import Drawing from "@/figures/Drawing.vue";

const props = defineProps<{ band: Stages["doubt"]; shape: FuelDepth["shape"]; wanted: number }>();
const H = 176;
const x = (width: number) =>
  scaleLinear()
    .domain([Math.min(0.8, props.shape.edges[0]!), Math.max(props.wanted * 1.15, props.shape.edges[props.shape.edges.length - 1]!)])
    .range([24, width - 24]);
const words = computed(
  () =>
    `Pump capacity over need between ${props.band.low.toFixed(2)} and ${props.band.high.toFixed(2)}, nine times in ten; ${Math.round(props.band.enough * 100)} percent of draws reach what is wanted.`,
);
</script>

<template>
  <Drawing
    :title="`Margin with its doubt: ${band.low.toFixed(2)} to ${band.high.toFixed(2)}, nine times in ten`"
    :height="H"
    :words="words"
  >
    <template #default="{ width }">
      <rect
        v-for="(h, i) in shape.heights"
        :key="i"
        :x="x(width)(shape.edges[i]!)"
        :width="Math.max(x(width)(shape.edges[i + 1]!) - x(width)(shape.edges[i]!) - 1, 0.5)"
        :y="128 - h * 84"
        :height="h * 84"
        :fill="shape.edges[i]! < 1 ? 'var(--spark)' : shape.edges[i]! < wanted ? 'var(--care)' : 'var(--good)'"
      />
      <g
        v-for="[at, word] in [
          [1, 'just enough'],
          [wanted, 'wanted'],
        ] as [number, string][]"
        :key="word"
      >
        <path :d="`M${x(width)(at)} 34V128`" stroke="var(--ink)" stroke-width="1.6" :stroke-dasharray="at === 1 ? undefined : '5 4'" />
        <text
          :x="x(width)(at) + (at === 1 && x(width)(1) > 90 ? -5 : 5)"
          :y="at === 1 && x(width)(1) <= 90 ? 16 : 30"
          font-size="12"
          :text-anchor="at === 1 && x(width)(1) > 90 ? 'end' : 'start'"
          >{{ word }}</text
        >
      </g>
      <path :d="`M${x(width)(band.low)} 40H${x(width)(band.high)}`" stroke="var(--ink)" stroke-width="2" />
      <circle :cx="x(width)(band.middle)" cy="40" r="4.5" fill="var(--ink)" />
      <AxisX :scale="x(width)" :y="130" label="pump capacity over need at full power" />
    </template>
  </Drawing>
</template>
