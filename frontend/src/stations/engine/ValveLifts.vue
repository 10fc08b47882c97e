<script setup lang="ts">
// Both valves over crank angle, about the top at which it breathes: lift as lines, the area that is free to flow as a shade.
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { computed } from "vue";
import type { CycleDepth } from "@/api/types";
import AxisX from "@/figures/AxisX.vue";
import AxisY from "@/figures/AxisY.vue";
import Drawing from "@/figures/Drawing.vue";
import { useScales } from "@/figures/owners";

const props = defineProps<{ valves: CycleDepth["valves"] }>();
const own = useScales();
const H = 230;
const LEFT = 52;
const v = computed(() => props.valves);
const lift = (m: number) => own.value.length.of(m);
const y = computed(() =>
  scaleLinear()
    .domain([0, lift(Math.max(...v.value.inlet_lift_m, ...v.value.exhaust_lift_m)) * 1.15])
    .range([H - 44, 30]),
);
const area = computed(() =>
  scaleLinear()
    .domain([0, Math.max(...v.value.inlet_m2, ...v.value.exhaust_m2) * 1.6])
    .range([H - 44, 30]),
);
const x = (width: number) =>
  scaleLinear()
    .domain([-220, 260])
    .range([LEFT, width - 20]);
type P = [number, number];
const path = (width: number, values: number[], of: (n: number) => number) =>
  line<P>(
    (p) => x(width)(p[0]),
    (p) => of(p[1]),
  )(values.map((n, i): P => [v.value.degrees[i]!, n])) ?? "";
const shade = (width: number, values: number[]) => `${path(width, values, (n) => area.value(n))}V${H - 44}H${x(width)(-220)}Z`;
const open = (values: number[]) => v.value.degrees.filter((_, i) => values[i]! > 0);
const words = computed(() => {
  const [i, e] = [open(v.value.inlet_lift_m), open(v.value.exhaust_lift_m)];
  return `Exhaust open from ${e[0]} to ${e.at(-1)} degrees, inlet from ${i[0]} to ${i.at(-1)}; both from ${i[0]} to ${e.at(-1)}.`;
});
</script>

<template>
  <Drawing title="What the valves open" :height="H" :words="words">
    <template #default="{ width }">
      <AxisY :scale="y" :x="LEFT" :label="own.length.unit" :count="4" :wide="width - LEFT - 20" />
      <path :d="shade(width, v.exhaust_m2)" fill="var(--soft)" fill-opacity="0.16" />
      <path :d="shade(width, v.inlet_m2)" fill="var(--good)" fill-opacity="0.16" />
      <path :d="`M${x(width)(0)} 30V${H - 44}`" stroke="var(--line)" stroke-dasharray="4 4" />
      <path
        :d="path(width, v.exhaust_lift_m, (n) => y(lift(n)))"
        fill="none"
        stroke="var(--ink)"
        stroke-width="1.8"
        stroke-dasharray="6 4"
      />
      <path :d="path(width, v.inlet_lift_m, (n) => y(lift(n)))" fill="none" stroke="var(--ink)" stroke-width="2.2" />
      <text :x="x(width)(-110)" y="24" text-anchor="middle" font-size="12.5" font-weight="600">exhaust</text>
      <text :x="x(width)(110)" y="24" text-anchor="middle" font-size="12.5" font-weight="600">inlet</text>
      <AxisX :scale="x(width)" :y="H - 42" label="degrees from the top at which it breathes" :ticks="[-180, -90, 0, 90, 180]" />
    </template>
  </Drawing>
</template>
