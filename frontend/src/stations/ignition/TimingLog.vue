<script setup lang="ts">
// What the timing light showed against what was locked, over speed: one step off all along is the trigger angle, a slope is polarity or a delay.
import { scaleLinear } from "d3-scale";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import AxisX from "@/figures/AxisX.vue";
import AxisY from "@/figures/AxisY.vue";
import Drawing from "@/figures/Drawing.vue";

const props = defineProps<{ ignition: Stages["ignition"] }>();
const H = 200;
const rows = computed(() => props.ignition.timing.map((r) => ({ rpm: r.speed_rev_s * 60, off: r.offset_deg })));
const most = computed(() => Math.max(2, ...rows.value.map((r) => Math.abs(r.off) * 1.25)));
const x = (width: number) =>
  scaleLinear()
    .domain([0, Math.max(...rows.value.map((r) => r.rpm), 1000) * 1.08])
    .range([56, width - 20]);
const y = computed(() =>
  scaleLinear()
    .domain([-most.value, most.value])
    .range([H - 44, 26]),
);
const fit = computed(() => {
  const d = props.ignition.drift_deg;
  if (d === null) return null;
  const n = rows.value.length;
  const [rpm, off] = [rows.value.reduce((s, r) => s + r.rpm, 0) / n, rows.value.reduce((s, r) => s + r.off, 0) / n];
  return (at: number) => off + (d * (at - rpm)) / 1000;
});
const words = computed(
  () =>
    `Timing light: ${rows.value.map((r) => `${r.off.toFixed(1)} degrees at ${r.rpm.toFixed(0)} rpm`).join(", ")}${props.ignition.drift_deg === null ? "" : `; it drifts ${props.ignition.drift_deg.toFixed(2)} degrees in 1,000 rpm`}`,
);
</script>

<template>
  <Drawing title="Timing light against the locked angle" :height="H" :words="words">
    <template #default="{ width }">
      <rect x="56" :width="width - 76" :y="y(1)" :height="y(-1) - y(1)" fill="var(--good)" opacity="0.14" />
      <AxisY :scale="y" :x="56" label="° early" :wide="width - 76" />
      <AxisX :scale="x(width)" :y="H - 42" label="rpm" />
      <path :d="`M56 ${y(0)}H${width - 20}`" stroke="var(--ink)" />
      <path
        v-if="fit"
        :d="`M${x(width)(rows[0]!.rpm)} ${y(fit(rows[0]!.rpm))}L${x(width)(rows.at(-1)!.rpm)} ${y(fit(rows.at(-1)!.rpm))}`"
        stroke="var(--care)"
        stroke-width="2"
      />
      <circle
        v-for="r in rows"
        :key="r.rpm"
        :cx="x(width)(r.rpm)"
        :cy="y(r.off)"
        r="5"
        fill="var(--sheet)"
        stroke="var(--ink)"
        stroke-width="2"
      />
      <text v-if="ignition.drift_deg !== null" :x="width - 26" y="20" text-anchor="end" font-size="12.5" class="num"
        >{{ ignition.drift_deg > 0 ? "+" : "" }}{{ ignition.drift_deg.toFixed(2) }}° in 1,000 rpm</text
      >
    </template>
  </Drawing>
</template>
