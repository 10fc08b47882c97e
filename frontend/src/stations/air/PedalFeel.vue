<script setup lang="ts">
// The plate edge-on at a pedal, and how much air it lets in: the curve that the foot feels.
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { computed, ref } from "vue";
import type { Stages } from "@/api/types";
import AxisX from "@/figures/AxisX.vue";
import AxisY from "@/figures/AxisY.vue";
import Drawing from "@/figures/Drawing.vue";
import { useScales } from "@/figures/owners";

const props = defineProps<{ air: Stages["air"]; closedDeg: number; bore: number }>();
const own = useScales();
const H = 250;
const pedal = ref(0.15);
const at = computed(() => {
  const k = pedal.value * (props.air.feel.length - 1);
  const a = props.air.feel[Math.floor(k)]!;
  const b = props.air.feel[Math.min(Math.floor(k) + 1, props.air.feel.length - 1)]!;
  const mix = (key: "opening" | "flow") => a[key] + (k % 1) * (b[key] - a[key]);
  return { opening: mix("opening"), flow: mix("flow"), choked: a.choked };
});
/** Angle of the plate from shut across the bore, degrees. */
const angle = computed(() => props.closedDeg + at.value.opening * (90 - props.closedDeg));
const y = scaleLinear().domain([0, 100]).range([H - 44, 24]); // prettier-ignore
const x = (width: number) => scaleLinear().domain([0, 100]).range([Math.min(250, width * 0.42) + 40, width - 18]); // prettier-ignore
const curve = (width: number) => line<{ pedal: number; flow: number }>().x((p) => x(width)(p.pedal * 100)).y((p) => y(p.flow * 100))(props.air.feel) ?? ""; // prettier-ignore
const middle = (width: number) => Math.min(250, width * 0.42) / 2;
const words = computed(
  () =>
    `At ${Math.round(pedal.value * 100)} percent pedal the plate stands at ${Math.round(angle.value)} degrees and ${Math.round(at.value.flow * 100)} percent of the air flows${at.value.choked ? ", choked" : ""}.`,
);
</script>

<template>
  <Drawing title="What the foot feels, at 2,500 rpm" :height="H" :words="words">
    <template #default="{ width }">
      <g :transform="`translate(${middle(width)} ${H / 2 - 6})`">
        <path d="M-58 -82V82M58 -82V82" stroke="var(--ink)" stroke-width="3" />
        <path d="M-30 -104V-90M0 -104V-90M30 -104V-90" stroke="var(--info)" stroke-width="1.6" marker-end="" />
        <text y="-92" x="40" font-size="12" style="fill: var(--info)">air</text>
        <g :transform="`rotate(${angle})`"><path d="M-57 0H57" stroke="var(--ink)" stroke-width="5" stroke-linecap="round" /></g>
        <circle r="6" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
        <text y="104" text-anchor="middle" font-size="12.5" class="num">{{ Math.round(angle) }}°, bore {{ own.length.tell(bore) }}</text>
      </g>
      <AxisY :scale="y" :x="x(width).range()[0]!" label="air, %" :wide="width - x(width).range()[0]! - 18" :count="4" />
      <AxisX :scale="x(width)" :y="H - 44" label="pedal, %" :count="5" />
      <path :d="curve(width)" fill="none" stroke="var(--ink)" stroke-width="2.4" />
      <path
        :d="`M${x(width)(pedal * 100)} ${y(0)}V${y(at.flow * 100)}H${x(width).range()[0]!}`"
        fill="none"
        stroke="var(--good)"
        stroke-dasharray="4 3"
      />
      <circle :cx="x(width)(pedal * 100)" :cy="y(at.flow * 100)" r="6" fill="var(--good)" />
    </template>
    <template #under>
      <label class="no-print mt-1 block text-[0.86rem] text-soft">
        Press the pedal: {{ Math.round(pedal * 100) }} %, air {{ Math.round(at.flow * 100) }} %{{ at.choked ? ", choked" : "" }}
        <input v-model.number="pedal" type="range" min="0" max="1" step="0.01" class="h-11 w-full" :aria-valuetext="words" />
      </label>
    </template>
  </Drawing>
</template>
