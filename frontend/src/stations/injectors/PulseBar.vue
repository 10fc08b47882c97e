<script setup lang="ts">
// One cycle at full power to scale: the time there is, the pulse in it, the dead time before it.
import { scaleLinear } from "d3-scale";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import AxisX from "@/figures/AxisX.vue";
import Drawing from "@/figures/Drawing.vue";

const props = defineProps<{ injectors: Stages["injectors"]; limit: number }>();
const ms = (s: number) => s * 1e3;
const period = computed(() => ms(props.injectors.period_full_s));
const dead = computed(() => ms(props.injectors.dead_time_full_s));
const pulse = computed(() => ms(props.injectors.pulse_full_s));
const x = (width: number) =>
  scaleLinear()
    .domain([0, Math.max(period.value, dead.value + pulse.value)])
    .range([24, width - 24]);
const words = computed(
  () => `At full power ${dead.value.toFixed(2)} ms dead time and ${pulse.value.toFixed(2)} ms pulse of ${period.value.toFixed(2)} ms.`,
);
</script>

<template>
  <Drawing title="One squirt at full power, to scale" :height="118" :words="words">
    <template #default="{ width }">
      <rect :x="x(width)(0)" :width="x(width)(period) - x(width)(0)" y="30" height="34" fill="none" stroke="var(--ink)" />
      <rect :x="x(width)(0)" :width="x(width)(dead) - x(width)(0)" y="30" height="34" fill="var(--line)" />
      <rect :x="x(width)(dead)" :width="x(width)(dead + pulse) - x(width)(dead)" y="30" height="34" fill="var(--good)" />
      <path :d="`M${x(width)(period * limit)} 22V74`" stroke="var(--spark)" stroke-width="2" stroke-dasharray="5 3" />
      <text :x="x(width)(period * limit)" y="17" text-anchor="middle" font-size="12">limit {{ Math.round(limit * 100) }} %</text>
      <text :x="x(width)(dead) + 8" y="52" font-size="13" style="fill: var(--on-ink)" class="num">{{ pulse.toFixed(2) }} ms flowing</text>
      <text :x="x(width)(0)" y="24" font-size="12">{{ dead.toFixed(2) }} ms opening</text>
      <AxisX :scale="x(width)" :y="80" label="ms" />
    </template>
  </Drawing>
</template>
