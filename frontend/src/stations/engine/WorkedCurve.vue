<script setup lang="ts">
// Power over speed as the engine gives it when it is worked from its measures, with its band; torque below; what is aimed at.
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { computed } from "vue";
import type { CycleDepth } from "@/api/types";
import AxisX from "@/figures/AxisX.vue";
import AxisY from "@/figures/AxisY.vue";
import Drawing from "@/figures/Drawing.vue";
import { useScales } from "@/figures/owners";

const props = defineProps<{ found: CycleDepth; limitRpm: number }>();
const own = useScales();
const H = 320;
const LEFT = 58;
const c = computed(() => props.found.curve);
const power = (w: number) => own.value.power.of(w);
const most = computed(() => Math.max(...c.value.high_w, props.found.target_w));
const y = computed(() =>
  scaleLinear()
    .domain([0, power(most.value) * 1.08])
    .range([H - 46, 36]),
);
const torque = computed(() =>
  scaleLinear()
    .domain([0, Math.max(...c.value.torque_nm) * 2.1])
    .range([H - 46, 36]),
);
const x = (width: number) =>
  scaleLinear()
    .domain([0, Math.max(...c.value.rpm, props.limitRpm) * 1.03])
    .range([LEFT, width - 26]);
type P = [number, number];
const path = (width: number, values: number[], of: (v: number) => number) =>
  line<P>(
    (p) => x(width)(p[0]),
    (p) => of(p[1]),
  )(values.map((v, i): P => [c.value.rpm[i]!, v])) ?? "";
const band = (width: number) => {
  const up = c.value.rpm.map((r, i): P => [x(width)(r), y.value(power(c.value.high_w[i]!))]);
  const down = c.value.rpm.map((r, i): P => [x(width)(r), y.value(power(c.value.low_w[i]!))]).reverse();
  return `M${[...up, ...down].map(([a, b]) => `${a.toFixed(1)} ${b.toFixed(1)}`).join("L")}Z`;
};
const words = computed(
  () =>
    `Worked: ${own.value.power.tell(props.found.power_w)} at ${Math.round(props.found.power_rpm)} rpm, give or take ${Math.round(props.found.doubt * 100)} %; ${Math.round(props.found.torque_nm)} N m at ${Math.round(props.found.torque_rpm)} rpm; ${own.value.power.tell(props.found.target_w)} are aimed at.`,
);
</script>

<template>
  <Drawing title="Power and torque, worked from its measures" :height="H" :words="words">
    <template #default="{ width }">
      <AxisY :scale="y" :x="LEFT" :label="own.power.unit" :wide="width - LEFT - 26" />
      <path :d="band(width)" fill="var(--good)" fill-opacity="0.16" />
      <path :d="`M${LEFT} ${y(power(found.target_w))}H${width - 26}`" stroke="var(--spark)" stroke-width="1.6" stroke-dasharray="6 4" />
      <text class="halo" :x="LEFT + 8" :y="y(power(found.target_w)) - 6" font-size="12"
        >aimed at, {{ own.power.tell(found.target_w) }}</text
      >
      <path :d="path(width, c.power_w, (v) => y(power(v)))" fill="none" stroke="var(--ink)" stroke-width="2.4" />
      <path
        :d="path(width, c.torque_nm, (v) => torque(v))"
        fill="none"
        stroke="var(--ink)"
        stroke-width="1.6"
        stroke-dasharray="2 4"
        stroke-linecap="round"
      />
      <circle :cx="x(width)(found.power_rpm)" :cy="y(power(found.power_w))" r="5" fill="var(--good)" />
      <text
        class="halo"
        :x="x(width)(found.power_rpm)"
        :y="y(power(found.power_w)) + 20"
        text-anchor="middle"
        font-size="12.5"
        font-weight="600"
        >{{ own.power.tell(found.power_w) }}</text
      >
      <circle
        :cx="x(width)(found.torque_rpm)"
        :cy="torque(found.torque_nm)"
        r="4"
        fill="var(--sheet)"
        stroke="var(--ink)"
        stroke-width="1.6"
      />
      <text class="halo" :x="x(width)(found.torque_rpm)" :y="torque(found.torque_nm) + 20" text-anchor="middle" font-size="12.5"
        >{{ Math.round(found.torque_nm) }} N m</text
      >
      <AxisX :scale="x(width)" :y="H - 44" label="rpm" />
    </template>
  </Drawing>
</template>
