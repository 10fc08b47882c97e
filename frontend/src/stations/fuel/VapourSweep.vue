<script setup lang="ts">
// How hot the fuel may get before the pump draws vapour: margin at the inlet over fuel temperature.
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { computed } from "vue";
import AxisX from "@/figures/AxisX.vue";
import AxisY from "@/figures/AxisY.vue";
import Drawing from "@/figures/Drawing.vue";
import type { FuelResult } from "./states";
import { useScales } from "@/figures/owners";

const props = defineProps<{ inlet: FuelResult["inlet"] }>();
const own = useScales();
const H = 210;
const LEFT = 52;
const [FROZEN, HOT] = [273.15, 353.15]; // K, how far the drawing goes
const degrees = (k: number) => own.value.heat.of(k);
const metres = (m: number) => own.value.distance.of(m);
const shown = computed(() => props.inlet.sweep.filter((p) => p[0] >= FROZEN));
const y = computed(() => scaleLinear().domain([metres(Math.max(Math.min(...shown.value.map((p) => p[1])), -4)), metres(Math.max(...shown.value.map((p) => p[1]), 3))]).range([H - 44, 22])); // prettier-ignore
const x = (width: number) => scaleLinear().domain([degrees(FROZEN), degrees(HOT)]).range([LEFT, width - 20]); // prettier-ignore
const curve = (width: number) => line<[number, number]>().x((p) => x(width)(degrees(p[0]))).y((p) => y.value(metres(p[1])))(shown.value as [number, number][]) ?? ""; // prettier-ignore
const hottest = computed(() => props.inlet.hottest_k);
const expected = computed(() => props.inlet.fuel_k);
const words = computed(
  () =>
    `Margin over boiling at the pump's inlet: ${own.value.distance.tell(props.inlet.margin_m)} of fuel at the ${own.value.heat.tell(expected.value)} expected; ${hottest.value == null ? "it boils at any temperature" : `none left at ${own.value.heat.tell(hottest.value)}`}.`,
);
</script>

<template>
  <Drawing
    :title="
      hottest == null
        ? 'The pump draws vapour whatever the fuel'
        : `It takes ${hottest >= HOT ? 'any ' : ''}fuel up to ${own.heat.tell(Math.min(hottest, HOT))}`
    "
    :height="H"
    :words="words"
  >
    <template #default="{ width }">
      <defs
        ><clipPath id="sweep"><rect :x="LEFT" y="14" :width="width - LEFT - 20" :height="H - 58" /></clipPath
      ></defs>
      <rect :x="LEFT" :width="width - LEFT - 20" :y="y(0)" :height="y.range()[0]! - y(0)" fill="var(--info)" opacity="0.22" />
      <text :x="LEFT + 8" :y="y.range()[0]! - 6" font-size="12" style="fill: var(--info)">draws vapour</text>
      <AxisY :scale="y" :x="LEFT" :label="`${own.distance.unit} of fuel above boiling`" :wide="width - LEFT - 20" :count="4" />
      <AxisX :scale="x(width)" :y="H - 44" :label="`fuel, ${own.heat.unit}`" />
      <path :d="`M${LEFT} ${y(own.distance.of(inlet.enough_m))}H${width - 20}`" stroke="var(--line)" stroke-dasharray="6 4" />
      <text :x="width - 22" :y="y(own.distance.of(inlet.enough_m)) - 4" text-anchor="end" font-size="12" style="fill: var(--soft)"
        >enough</text
      >
      <path :d="curve(width)" clip-path="url(#sweep)" fill="none" stroke="var(--ink)" stroke-width="2.4" />
      <path
        :d="`M${x(width)(own.heat.of(expected))} ${y(own.distance.of(inlet.margin_m))}V${H - 44}`"
        stroke="var(--good)"
        stroke-width="1.6"
        stroke-dasharray="4 3"
      />
      <circle
        :cx="x(width)(own.heat.of(expected))"
        :cy="y(Math.max(own.distance.of(inlet.margin_m), y.domain()[0]!))"
        r="5.5"
        :fill="inlet.margin_m < 0 ? 'var(--spark)' : 'var(--good)'"
      />
      <text
        class="halo"
        :x="x(width)(own.heat.of(expected)) - 8"
        :y="y(Math.max(own.distance.of(inlet.margin_m), y.domain()[0]!)) + 16"
        text-anchor="end"
        font-size="12.5"
        font-weight="600"
      >
        {{ own.distance.tell(inlet.margin_m) }} at {{ own.heat.tell(expected) }}
      </text>
    </template>
  </Drawing>
</template>
