<script setup lang="ts">
// A log scale of rated flow with the window that passes both ends, and the injector as a peg, in or out.
import { scaleLog } from "d3-scale";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import AxisX from "@/figures/AxisX.vue";
import Drawing from "@/figures/Drawing.vue";
import { useScales } from "@/figures/owners";

const props = defineProps<{ injectors: Stages["injectors"]; name: string }>();
const own = useScales();
const H = 190;
const low = computed(() => own.value.injector.of(props.injectors.window_low_kg_s));
const high = computed(() => own.value.injector.of(props.injectors.window_high_kg_s));
const watch_ = computed(() => own.value.injector.of(props.injectors.window_watch_kg_s));
const mine = computed(() => own.value.injector.of(props.injectors.flow_rated_kg_s));
const pegs = computed(() => props.injectors.box.slice(0, 40).map((c) => ({ ...c, g: own.value.injector.of(c.flow_kg_s) })));
const open = computed(() => high.value > low.value);
const x = (width: number) =>
  scaleLog()
    .domain([
      Math.min(low.value, mine.value, high.value, ...pegs.value.map((p) => p.g)) / 1.8,
      Math.max(watch_.value, mine.value, low.value, ...pegs.value.map((p) => p.g)) * 1.5,
    ])
    .range([24, width - 24]);
const ticks = (width: number) => {
  const [a, b] = x(width).domain() as [number, number];
  return [2, 3, 5, 7, 10, 15, 20, 30, 50, 70, 100, 150, 200, 300, 400, 500, 700, 1000, 1500, 2000, 3000, 5000].filter(
    (t) => t > a && t < b,
  );
};
const inside = computed(() => mine.value >= low.value && mine.value <= high.value);
const words = computed(
  () =>
    `Rated flows from ${low.value.toFixed(0)} to ${high.value.toFixed(0)} ${own.value.injector.unit} pass both ends; this one has ${mine.value.toFixed(0)}.`,
);
</script>

<template>
  <Drawing title="Which rated flow passes both ends" :height="H" :words="words">
    <template #default="{ width }">
      <rect v-if="open" :x="x(width)(low)" :width="x(width)(high) - x(width)(low)" y="64" height="70" fill="var(--good)" opacity="0.2" />
      <rect
        :x="x(width)(Math.max(high, low))"
        :width="Math.max(x(width)(watch_) - x(width)(Math.max(high, low)), 0)"
        y="64"
        height="70"
        fill="var(--care)"
        opacity="0.2"
      />
      <path :d="`M${x(width)(low)} 52V134`" stroke="var(--good)" stroke-width="2.4" />
      <path :d="`M${x(width)(high)} 52V134`" stroke="var(--good)" stroke-width="2.4" />
      <text
        :x="x(width)(low)"
        y="28"
        font-size="12.5"
        :text-anchor="x(width)(low) > width - (width < 480 ? 75 : 150) ? 'end' : open ? 'middle' : 'start'"
        >{{ width < 480 ? "full power" : "large enough at full power" }}</text
      >
      <text :x="x(width)(low)" y="44" font-size="13" font-weight="600" :text-anchor="open ? 'middle' : 'start'" class="num">{{
        low.toFixed(0)
      }}</text>
      <text :x="x(width)(high)" y="28" font-size="12.5" :text-anchor="open ? 'middle' : 'end'">{{
        width < 480 ? "idle" : "small enough to idle"
      }}</text>
      <text :x="x(width)(high)" y="44" font-size="13" font-weight="600" :text-anchor="open ? 'middle' : 'end'" class="num">{{
        high.toFixed(0)
      }}</text>
      <text v-if="!open" :x="(x(width)(low) + x(width)(high)) / 2" y="13" text-anchor="middle" font-size="12" style="fill: var(--spark)"
        >no size passes both ends</text
      >
      <g v-for="p in pegs" :key="p.index" :transform="`translate(${x(width)(p.g)} 0)`">
        <title>{{ p.name }}</title>
        <path d="M0 134V124" :stroke="p.passes ? 'var(--ink)' : 'var(--spark)'" stroke-width="2" />
        <circle
          cy="120"
          r="5"
          :fill="p.passes ? 'var(--sheet)' : 'var(--spark)'"
          :stroke="p.passes ? 'var(--ink)' : 'var(--spark)'"
          stroke-width="1.6"
        />
        <text y="124" x="8" font-size="12" class="num">{{ p.rank }}</text>
      </g>
      <g :transform="`translate(${x(width)(mine)} 0)`">
        <path d="M0 134V84" :stroke="inside ? 'var(--ink)' : 'var(--spark)'" stroke-width="3" />
        <circle cy="80" r="8" :fill="inside ? 'var(--ink)' : 'var(--spark)'" />
        <text y="84" x="13" font-size="13" font-weight="600" class="num">{{ mine.toFixed(0) }}</text>
        <text y="99" x="13" font-size="12" class="halo">{{ name }}</text>
      </g>
      <AxisX :scale="x(width)" :y="134" :label="`rated flow, ${own.injector.unit} each`" :ticks="ticks(width)" />
    </template>
  </Drawing>
</template>
