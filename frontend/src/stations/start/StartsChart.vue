<script setup lang="ts">
// Starts by cold and battery: how many of those that were drawn there caught and idled, as shade and as a number.
import { computed } from "vue";
import type { Asked } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";
import { useScales } from "@/figures/owners";

const props = defineProps<{ squares: Asked["rehearsal"]["chart"] }>();
const own = useScales();
const H = 300;
const [LEFT, FOOT, TOP] = [70, 44, 12];
const NARROW = 480; // px, under which a square has room for its number only
const colds = computed(() => [...new Set(props.squares.map((s) => s.cold))]);
const volts = computed(() => [...new Set(props.squares.map((s) => s.low_v))]);
const celsius = (c: number) => own.value.temperature.tell(c + 273.15);
const cell = (width: number) => ({ w: (width - LEFT - 12) / colds.value.length, h: (H - TOP - FOOT) / volts.value.length });
const x = (width: number, cold: number) => LEFT + colds.value.indexOf(cold) * cell(width).w;
const y = (width: number, low: number) => TOP + (volts.value.length - 1 - volts.value.indexOf(low)) * cell(width).h;
const share = (s: (typeof props.squares)[number]) => (s.runs ? s.good / s.runs : 0);
const words = computed(
  () =>
    `Starts that catch and idle: ${props.squares.map((s) => `${celsius(s.cold)} to ${celsius(s.warm)}, battery ${s.low_v} to ${s.high_v} V: ${s.good} of ${s.runs}`).join("; ")}.`,
);
</script>

<template>
  <Drawing title="Starts by cold and battery" :height="H" :words="words">
    <template #default="{ width }">
      <g v-for="s in squares" :key="`${s.cold} ${s.low_v}`">
        <rect
          :x="x(width, s.cold)"
          :y="y(width, s.low_v)"
          :width="cell(width).w - 2"
          :height="cell(width).h - 2"
          :fill="share(s) < 0.5 ? 'var(--spark)' : 'var(--good)'"
          :fill-opacity="share(s) < 0.5 ? 0.15 + 0.4 * (1 - share(s)) : 0.1 + 0.5 * share(s)"
          stroke="var(--line)"
        />
        <text
          :x="x(width, s.cold) + cell(width).w / 2"
          :y="y(width, s.low_v) + cell(width).h / 2 + 5"
          text-anchor="middle"
          font-size="14"
          font-weight="700"
          class="num halo"
          >{{ s.good }}<tspan v-if="width >= NARROW" font-size="12" font-weight="400"> of {{ s.runs }}</tspan></text
        >
      </g>
      <text
        v-for="low in volts"
        :key="low"
        :x="LEFT - 8"
        :y="y(width, low) + cell(width).h / 2 + 4"
        text-anchor="end"
        font-size="12"
        class="num"
        >{{ low }} V up</text
      >
      <text
        v-for="c in colds"
        :key="c"
        :x="x(width, c) + cell(width).w / 2"
        :y="H - FOOT + 16"
        text-anchor="middle"
        font-size="12"
        class="num"
        >{{ width < NARROW ? celsius(c) : `from ${celsius(c)}` }}</text
      >
      <text :x="width - 12" :y="H - 8" text-anchor="end" font-size="12">coolant</text>
      <text x="8" :y="H - 8" font-size="12">battery at rest</text>
    </template>
  </Drawing>
</template>
