<script setup lang="ts">
// The run from rest as worked out: speed over time with each change of gear, the goal, and what the tyres alone allow.
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import AxisX from "@/figures/AxisX.vue";
import AxisY from "@/figures/AxisY.vue";
import Drawing from "@/figures/Drawing.vue";
import { useScales } from "@/figures/owners";

const props = defineProps<{ run: NonNullable<Stages["engine"]["run"]> }>();
const own = useScales();
const H = 230;
const LEFT = 58;
const points = computed(() => props.run.points.map((p) => ({ t: p.time_s, v: own.value.road.of(p.speed_m_s), gear: p.gear })));
const last = computed(() => points.value.at(-1)!);
const y = computed(() =>
  scaleLinear()
    .domain([0, last.value.v * 1.12])
    .range([H - 42, 34]),
);
const x = (width: number) =>
  scaleLinear()
    .domain([0, Math.max(last.value.t, props.run.grip_time_s) * 1.1])
    .range([LEFT, width - 24]);
const curve = (width: number) =>
  line<{ t: number; v: number }>(
    (p) => x(width)(p.t),
    (p) => y.value(p.v),
  )(points.value) ?? "";
/** Where the next gear comes in. */
const shifts = computed(() => points.value.filter((p, i) => i > 0 && p.gear > points.value[i - 1]!.gear));
const words = computed(
  () =>
    `${props.run.middle === null ? "No power does it: " : `${own.value.power.tell(props.run.middle)} does it: `}${last.value.v.toFixed(0)} ${own.value.road.unit} after ${last.value.t.toFixed(1)} s with changes of gear at ${shifts.value.map((s) => `${s.v.toFixed(0)} ${own.value.road.unit}`).join(", ") || "none"}; grip alone would take ${props.run.grip_time_s.toFixed(1)} s`,
);
</script>

<template>
  <Drawing title="The run, step by step" :height="H" :words="words">
    <template #default="{ width }">
      <AxisY :scale="y" :x="LEFT" :label="own.road.unit" :wide="width - LEFT - 24" />
      <path
        :d="`M${x(width)(0)} ${y(0)}L${x(width)(run.grip_time_s)} ${y(last.v)}`"
        stroke="var(--soft)"
        stroke-dasharray="5 4"
        fill="none"
      />
      <text
        v-if="width >= 480"
        :x="x(width)(run.grip_time_s * 0.6) - 10"
        :y="y(last.v * 0.6) - 4"
        text-anchor="end"
        font-size="12"
        style="fill: var(--soft)"
        >as far as the tyres hold</text
      >
      <path :d="curve(width)" stroke="var(--ink)" stroke-width="2.2" fill="none" />
      <g v-for="s in shifts" :key="s.gear">
        <circle :cx="x(width)(s.t)" :cy="y(s.v)" r="4" fill="var(--sheet)" stroke="var(--ink)" stroke-width="1.6" />
        <text :x="x(width)(s.t) + 9" :y="y(s.v) + 12" font-size="12">into gear {{ s.gear }}</text>
      </g>
      <circle :cx="x(width)(last.t)" :cy="y(last.v)" r="5.5" fill="var(--good)" />
      <text :x="x(width)(last.t)" :y="y(last.v) - 11" text-anchor="end" font-size="13" font-weight="600" class="num"
        >{{ last.v.toFixed(0) }} {{ own.road.unit }} after {{ last.t.toFixed(1) }} s</text
      >
      <AxisX :scale="x(width)" :y="H - 40" label="s from rest" />
    </template>
  </Drawing>
</template>
