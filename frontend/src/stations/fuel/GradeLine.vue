<script setup lang="ts">
// The fuel's way from tank to rail and back, unrolled along its true length: the pressure in it above, the height of the line below.
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";
import AxisY from "@/figures/AxisY.vue";

const props = defineProps<{ fuel: Stages["fuel"] }>();
const H = 290;
const left = 52;
const grade = computed(() => props.fuel.grade);
const most = computed(() => Math.max(...grade.value.map((g) => g.pressure_pa)) / 1e3);
const length = computed(() => Math.max(...grade.value.map((g) => g.run_m)));
const heights = computed(() => grade.value.map((g) => g.height_m));
const y = computed(() =>
  scaleLinear()
    .domain([0, most.value * 1.16])
    .range([186, 24]),
);
const z = computed(() =>
  scaleLinear()
    .domain([Math.min(0, ...heights.value), Math.max(0.3, ...heights.value)])
    .range([262, 218]),
);
const x = (width: number) =>
  scaleLinear()
    .domain([0, length.value])
    .range([left + 16, width - 22]);
const rail = computed(() => grade.value.find((g) => g.label === "rail")!);
const at = (label: string) => grade.value.find((g) => g.label === label)!;
const kpa = (pa: number) => Math.round(pa / 1e3);
const path = (width: number) =>
  line<(typeof grade.value)[number]>()
    .x((g) => x(width)(g.run_m))
    .y((g) => y.value(g.pressure_pa / 1e3))(grade.value) ?? "";
const high = (width: number) =>
  line<(typeof grade.value)[number]>()
    .x((g) => x(width)(g.run_m))
    .y((g) => z.value(g.height_m))(grade.value) ?? "";
const full = computed(() => props.fuel.points.full!);
const words = computed(
  () =>
    `At full power: ${kpa(full.value.pump_pressure_pa)} kPa at the pump, ${kpa(full.value.filter_drop_pa)} kPa lost in the filter, ${kpa(full.value.line_loss_pa)} kPa in the line, ${kpa(full.value.rail_pressure_pa)} kPa at the rail, ${kpa(full.value.return_pressure_pa)} kPa in the return.`,
);
</script>

<template>
  <Drawing title="Pressure along the way, at full power" :height="H" :words="words">
    <template #default="{ width }">
      <AxisY :scale="y" :x="left" label="kPa" :wide="width - left - 14" :count="4" />
      <path :d="`${path(width)}L${x(width)(length)} ${y(0)}L${x(width)(0)} ${y(0)}Z`" fill="var(--wash)" opacity="0.7" />
      <path :d="path(width)" fill="none" stroke="var(--good)" stroke-width="2.6" stroke-linejoin="round" />
      <g font-size="12.5">
        <text :x="x(width)(0) + 4" :y="y(at('pump').pressure_pa / 1e3) - 8" font-weight="600"
          >{{ kpa(at("pump").pressure_pa) }} at the pump</text
        >
        <text :x="x(width)(at('filter out').run_m) + 6" :y="y(at('filter out').pressure_pa / 1e3) + 20"
          >filter −{{ kpa(full.filter_drop_pa) }}</text
        >
        <text
          :x="(x(width)(at('filter out').run_m) + x(width)(rail.run_m)) / 2 + 24"
          :y="y(at('filter out').pressure_pa / 1e3) + 38"
          text-anchor="middle"
          >line −{{ kpa(full.line_loss_pa) }}, lift −{{ kpa(full.head_pa) }}</text
        >
        <text :x="x(width)(rail.run_m) + 6" :y="y(rail.pressure_pa / 1e3) - 8" font-weight="600"
          >{{ kpa(rail.pressure_pa) }} at the rail</text
        >
        <text :x="x(width)(rail.run_m) + 6" :y="y(rail.pressure_pa / 2e3)">regulator</text>
        <text :x="(x(width)(rail.run_m) + x(width)(length)) / 2" :y="y(at('after regulator').pressure_pa / 1e3) - 8" text-anchor="middle"
          >return {{ kpa(full.return_pressure_pa) }}</text
        >
      </g>
      <path :d="`M${x(width)(rail.run_m)} 30V262`" stroke="var(--line)" stroke-dasharray="2 4" />
      <path :d="high(width)" fill="none" stroke="var(--ink)" stroke-width="3" stroke-linejoin="round" />
      <circle :cx="x(width)(0)" :cy="z(0)" r="7" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
      <rect
        :x="x(width)(at('filter in').run_m) - 9"
        :y="z(at('filter in').height_m) - 6"
        width="18"
        height="12"
        fill="var(--sheet)"
        stroke="var(--ink)"
        stroke-width="1.6"
      />
      <rect :x="x(width)(rail.run_m) - 16" :y="z(rail.height_m) - 4" width="32" height="8" fill="var(--ink)" />
      <g font-size="12" style="fill: var(--soft)">
        <text :x="x(width)(0) - 6" y="284">pump</text>
        <text :x="x(width)(rail.run_m)" y="284" text-anchor="middle"
          >{{ rail.run_m.toFixed(1) }} m, {{ rail.height_m.toFixed(2) }} m up</text
        >
        <text :x="x(width)(length)" y="284" text-anchor="end">tank, {{ length.toFixed(1) }} m</text>
      </g>
    </template>
  </Drawing>
</template>
