<script setup lang="ts">
// The coil's current as it charges at three voltages, against the current that is wanted, and the time there is at the rev limit.
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import AxisX from "@/figures/AxisX.vue";
import AxisY from "@/figures/AxisY.vue";
import Drawing from "@/figures/Drawing.vue";

const props = defineProps<{ ignition: Stages["ignition"]; wanted: number }>();
const H = 230;
const last = computed(() => props.ignition.ramp.at(-1)!);
const room = computed(() => (props.ignition.period_limit_s - props.ignition.spark_time_s) * 1e3);
const x = (width: number) =>
  scaleLinear()
    .domain([0, last.value.time_s * 1e3])
    .range([52, width - 64]);
const y = computed(() =>
  scaleLinear()
    .domain([0, Math.max(props.wanted * 1.15, Math.min(Math.max(...last.value.amps), props.wanted * 1.6))])
    .range([H - 44, 30])
    .clamp(true),
);
const curve = (width: number, k: number) =>
  line<Stages["ignition"]["ramp"][number]>(
    (p) => x(width)(p.time_s * 1e3),
    (p) => y.value(p.amps[k]!),
  )(props.ignition.ramp.filter((p) => p.amps[k]! <= y.value.domain()[1]! * 1.02)) ?? "";
const words = computed(
  () =>
    `Coil current: ${props.ignition.dwell.map((d) => `at ${d.volts} V ${d.dwell_s === null ? `never more than ${d.reached_a.toFixed(1)} A` : `${(d.dwell_s * 1e3).toFixed(2)} ms`}`).join(", ")}. At the rev limit there are ${room.value.toFixed(2)} ms.`,
);
</script>

<template>
  <Drawing title="The coil charges" :height="H" :words="words">
    <template #default="{ width }">
      <rect
        v-if="room < last.time_s * 1e3"
        :x="x(width)(Math.max(room, 0))"
        :width="x(width)(last.time_s * 1e3) - x(width)(Math.max(room, 0))"
        y="26"
        :height="H - 70"
        fill="var(--wash)"
      />
      <text v-if="room < last.time_s * 1e3" :x="x(width)(Math.max(room, 0)) + 6" y="40" font-size="12"
        >no time for more at the rev limit</text
      >
      <AxisY :scale="y" :x="52" label="A" :wide="width - 116" />
      <AxisX :scale="x(width)" :y="H - 44" label="ms" />
      <path :d="`M52 ${y(wanted)}H${width - 64}`" stroke="var(--ink)" stroke-dasharray="6 4" />
      <text :x="width - 58" :y="y(wanted) + 4" font-size="12" class="num">{{ wanted }} A</text>
      <g v-for="(v, k) in ignition.ramp_volts" :key="v">
        <path :d="curve(width, k)" fill="none" :stroke="['var(--spark)', 'var(--care)', 'var(--good)'][k]" stroke-width="2.2" />
        <text
          :x="x(width)(last.time_s * 1e3 * [width < 480 ? 0.84 : 0.96, 0.72, 0.5][k]!)"
          :y="
            y(ignition.ramp[Math.round((ignition.ramp.length - 1) * [width < 480 ? 0.84 : 0.96, 0.72, 0.5][k]!)]!.amps[k]!) +
            [16, 16, -8][k]!
          "
          :text-anchor="k === 2 ? 'end' : 'start'"
          font-size="12"
          >{{ v }} V</text
        >
      </g>
    </template>
  </Drawing>
</template>
