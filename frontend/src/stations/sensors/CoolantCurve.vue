<script setup lang="ts">
import { scaleLinear } from "d3-scale";
import { curveMonotoneX, line } from "d3-shape";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import AxisX from "@/figures/AxisX.vue";
import AxisY from "@/figures/AxisY.vue";
import Drawing from "@/figures/Drawing.vue";

const props = defineProps<{ coolant: NonNullable<Stages["sensors"]["coolant"]> }>();
const H = 220;
const points = computed(() => props.coolant.temperature_k.map((t, i) => ({ t: t - 273.15, v: props.coolant.volts[i]! })));
const y = scaleLinear()
  .domain([0, 5])
  .range([H - 44, 24]);
const x = (width: number) =>
  scaleLinear()
    .domain([-20, 120])
    .range([46, width - 22]);
const at = (t: number) => points.value.find((p) => Math.round(p.t) === t)!;
const path = (width: number) =>
  line<{ t: number; v: number }>()
    .x((p) => x(width)(p.t))
    .y((p) => y(p.v))
    .curve(curveMonotoneX)(points.value) ?? "";
const words = computed(() => `Coolant signal: ${at(20).v.toFixed(2)} V at 20 degrees, ${at(90).v.toFixed(2)} V at 90.`);
</script>

<template>
  <Drawing title="Coolant sender: volts at the control unit" :height="H" :words="words">
    <template #default="{ width }">
      <AxisY :scale="y" :x="46" label="V" :wide="width - 68" />
      <AxisX :scale="x(width)" :y="H - 44" label="°C" />
      <path :d="path(width)" fill="none" stroke="var(--ink)" stroke-width="2.4" />
      <g v-for="t in [0, 20, 90]" :key="t"
        ><circle :cx="x(width)(t)" :cy="y(at(t).v)" r="4.5" fill="var(--good)" /><text
          :x="x(width)(t) + 8"
          :y="y(at(t).v) - 6"
          font-size="12.5"
          font-weight="600"
          class="num"
          >{{ at(t).v.toFixed(2) }} V</text
        ></g
      >
    </template>
  </Drawing>
</template>
