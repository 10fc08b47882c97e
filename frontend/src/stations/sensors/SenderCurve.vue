<script setup lang="ts">
// A resistive sender as the control unit sees it: volts over temperature, where a fault begins, and what one step of the input is worth.
import { scaleLinear } from "d3-scale";
import { curveMonotoneX, line } from "d3-shape";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import AxisX from "@/figures/AxisX.vue";
import AxisY from "@/figures/AxisY.vue";
import Drawing from "@/figures/Drawing.vue";
import { useScales } from "@/figures/owners";

const props = defineProps<{
  curve: NonNullable<Stages["sensors"]["coolant"]>;
  title: string;
  points: { kelvin: number; ohm: number }[];
  pullUp: number;
}>();
const own = useScales();
const H = 240;
const rows = computed(() =>
  props.curve.temperature_k.map((t, i) => ({ t: own.value.temperature.of(t), v: props.curve.volts[i]!, step: props.curve.step_k[i]! })),
);
const y = scaleLinear()
  .domain([0, 5])
  .range([H - 44, 28]);
const x = (width: number) =>
  scaleLinear()
    .domain([rows.value[0]!.t, rows.value.at(-1)!.t])
    .range([46, width - 26]);
const path = (width: number) =>
  line<{ t: number; v: number }>()
    .x((p) => x(width)(p.t))
    .y((p) => y(p.v))
    .curve(curveMonotoneX)(rows.value) ?? "";
/** Kelvin to one step of the input, on a scale of its own at the right. */
const coarsest = computed(() => Math.max(0.5, ...rows.value.map((r) => r.step)) * 1.1);
const fine = computed(() =>
  scaleLinear()
    .domain([0, coarsest.value])
    .range([H - 44, 28]),
);
const steps = (width: number) =>
  line<{ t: number; step: number }>()
    .x((p) => x(width)(p.t))
    .y((p) => fine.value(p.step))
    .curve(curveMonotoneX)(rows.value) ?? "";
const told = computed(() => [0, Math.floor(rows.value.length / 2), rows.value.length - 1].map((i) => rows.value[i]!));
const better = computed(() => props.curve.worth_changing);
const words = computed(
  () =>
    `${props.title}: ${told.value.map((r) => `${r.v.toFixed(2)} V at ${r.t.toFixed(0)} ${own.value.temperature.unit}, ${r.step.toFixed(2)} K a step`).join("; ")}. Fault below ${props.curve.short_below_v.toFixed(2)} or above ${props.curve.open_above_v.toFixed(2)} V.`,
);
</script>

<template>
  <Drawing :title="title" :height="H" :words="words">
    <template #default="{ width }">
      <rect x="46" :width="width - 72" :y="y(5)" :height="y(curve.open_above_v) - y(5)" fill="var(--wash)" />
      <rect x="46" :width="width - 72" :y="y(curve.short_below_v)" :height="y(0) - y(curve.short_below_v)" fill="var(--wash)" />
      <text :x="width - 32" :y="y(5) + 14" text-anchor="end" font-size="12" style="fill: var(--soft)">open wire</text>
      <text x="54" :y="y(0) - 5" font-size="12" style="fill: var(--soft)">short to ground</text>
      <AxisY :scale="y" :x="46" label="V" :wide="width - 72" />
      <AxisX :scale="x(width)" :y="H - 44" :label="own.temperature.unit" />
      <path :d="steps(width)" fill="none" stroke="var(--care)" stroke-width="1.6" stroke-dasharray="5 3" />
      <text :x="width - 22" :y="fine(coarsest) - 8" text-anchor="end" font-size="12" style="fill: var(--care)">K a step</text>
      <text
        v-for="t in fine.ticks(3)"
        :key="t"
        :x="width - 3"
        :y="fine(t) + 4"
        text-anchor="end"
        font-size="12"
        class="num"
        style="fill: var(--care)"
        >{{ t }}</text
      >
      <path :d="path(width)" fill="none" stroke="var(--ink)" stroke-width="2.4" />
      <circle
        v-for="p in points"
        :key="p.kelvin"
        :cx="x(width)(own.temperature.of(p.kelvin))"
        :cy="y((5 * p.ohm) / (p.ohm + pullUp))"
        r="4.5"
        fill="var(--sheet)"
        stroke="var(--good)"
        stroke-width="2.4"
      />
    </template>
    <template #under>
      <p class="mt-1 text-[0.9rem]">
        <span class="num">A {{ curve.a.toExponential(5) }}, B {{ curve.b.toExponential(5) }}, C {{ curve.c.toExponential(5) }}</span
        >; the points miss by {{ curve.residual_k.toFixed(2) }} K at most.
        <template v-if="better"
          >A pull-up of {{ Math.round(curve.best_pull_up_ohm / 10) * 10 }} Ω would read {{ curve.best_step_k.toFixed(2) }} K a step at the
          coarsest instead of {{ curve.worst_step_k.toFixed(2) }}.</template
        >
      </p>
    </template>
  </Drawing>
</template>
