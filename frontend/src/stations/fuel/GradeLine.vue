<script setup lang="ts">
// The fuel's way from tank to rail and back, unrolled along its true length: the pressure in it above, the height of the line below.
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { computed, ref } from "vue";
import type { Stages } from "@/api/types";
import { pointOf, wordOf, type StateName } from "./states";
import Drawing from "@/figures/Drawing.vue";
import AxisY from "@/figures/AxisY.vue";

const props = defineProps<{ fuel: Stages["fuel"]; ambientPa: number; state: StateName; rise: number; fixed: boolean }>();
const H = 300;
const left = 52;
const emit = defineEmits<{ rise: [number] }>();
const grade = computed(() => props.fuel.grades[props.state]!);
const most = computed(() => Math.max(...grade.value.map((g) => g.pressure_pa)) / 1e3);
const length = computed(() => Math.max(...grade.value.map((g) => g.run_m)));
const heights = computed(() => grade.value.map((g) => g.height_m));
const y = computed(() =>
  scaleLinear()
    .domain([Math.min(-45, tide.value - 25), most.value * 1.16])
    .range([198, 24]),
);
const z = computed(() =>
  scaleLinear()
    .domain([Math.min(0, ...heights.value), Math.max(0.3, ...heights.value)])
    .range([272, 226]),
);
const x = (width: number) =>
  scaleLinear()
    .domain([0, length.value])
    .range([left + 16, width - 22]);
const rail = computed(() => grade.value.find((g) => g.label === "rail")!);
const at = (label: string) => grade.value.find((g) => g.label === label) ?? grade.value[grade.value.length - 1]!;
const back = computed(() => grade.value.some((g) => g.label === "after regulator"));
/** The fuel's vapour pressure and the pump's inlet, as gauge pressures. */
const tide = computed(() => (props.fuel.inlet.vapour_pa - props.ambientPa) / 1e3);
const inlet = computed(() => (props.fuel.inlet.pressure_pa - props.ambientPa) / 1e3);
const kpa = (pa: number) => Math.round(pa / 1e3);
const path = (width: number) =>
  line<(typeof grade.value)[number]>()
    .x((g) => x(width)(g.run_m))
    .y((g) => y.value(g.pressure_pa / 1e3))(grade.value) ?? "";
const high = (width: number) =>
  line<(typeof grade.value)[number]>()
    .x((g) => x(width)(g.run_m))
    .y((g) => z.value(g.height_m))(grade.value) ?? "";
const full = computed(() => pointOf(props.fuel, props.state));
/** Height of the rail while it is dragged, metres above the pump. */
const dragged = ref<number | null>(null);
function drag(event: PointerEvent): void {
  if (props.fixed || dragged.value === null) return;
  const box = (event.currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect();
  dragged.value = Math.max(-1, Math.min(2, z.value.invert(event.clientY - box.top)));
}
function grab(event: PointerEvent): void {
  if (props.fixed) return;
  dragged.value = props.rise;
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
}
function drop(): void {
  if (dragged.value !== null && Math.abs(dragged.value - props.rise) > 0.004) emit("rise", Math.round(dragged.value * 100) / 100);
  dragged.value = null;
}
function nudge(event: KeyboardEvent): void {
  const by = { ArrowUp: 0.05, ArrowDown: -0.05 }[event.key];
  if (!by || props.fixed) return;
  event.preventDefault();
  emit("rise", Math.round((props.rise + by) * 100) / 100);
}
const words = computed(
  () =>
    `At ${wordOf(props.state)}: ${kpa(full.value.pump_pressure_pa)} kPa at the pump, ${kpa(full.value.filter_drop_pa)} kPa lost in the filter, ${kpa(full.value.line_loss_pa)} kPa in the line, ${kpa(full.value.rail_pressure_pa)} kPa at the rail, ${kpa(full.value.return_pressure_pa)} kPa in the return.`,
);
</script>

<template>
  <Drawing interactive :title="`Pressure along the way, ${wordOf(state)}`" :height="H" :words="words">
    <template #default="{ width }">
      <AxisY :scale="y" :x="left" label="kPa" :wide="width - left - 14" :count="4" />
      <rect
        :x="left"
        :width="width - left - 14"
        :y="y(tide)"
        :height="Math.max(y.range()[0]! - y(tide), 0)"
        fill="var(--info)"
        opacity="0.22"
      />
      <text :x="width - 20" :y="y.range()[0]! - 5" text-anchor="end" font-size="11.5" style="fill: var(--info)"
        >boils below this, fuel at {{ (fuel.inlet.fuel_k - 273.15).toFixed(0) }} °C</text
      >
      <path :d="`${path(width)}L${x(width)(length)} ${y(0)}L${x(width)(0)} ${y(0)}Z`" fill="var(--wash)" opacity="0.7" />
      <path :d="path(width)" fill="none" stroke="var(--good)" stroke-width="2.6" stroke-linejoin="round" />
      <template v-if="fuel.inlet.known">
        <path
          :d="`M${x(width)(0)} ${y(inlet)}V${y(at('pump').pressure_pa / 1e3)}`"
          stroke="var(--good)"
          stroke-width="1.6"
          stroke-dasharray="3 3"
        />
        <circle
          :cx="x(width)(0)"
          :cy="y(inlet)"
          r="5"
          fill="var(--sheet)"
          :stroke="fuel.inlet.margin_m < 0 ? 'var(--spark)' : 'var(--good)'"
          stroke-width="2.4"
        />
        <text :x="x(width)(0) + 10" :y="y(inlet) - 5" font-size="12">inlet, {{ fuel.inlet.margin_m.toFixed(1) }} m above boiling</text>
      </template>
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
        <text v-if="back" :x="x(width)(rail.run_m) + 6" :y="y(rail.pressure_pa / 2e3)">regulator</text>
        <text
          v-if="back"
          :x="(x(width)(rail.run_m) + x(width)(length)) / 2"
          :y="y(at('after regulator').pressure_pa / 1e3) - 8"
          text-anchor="middle"
          >return {{ kpa(full.return_pressure_pa) }}</text
        >
      </g>
      <path :d="`M${x(width)(rail.run_m)} 30V272`" stroke="var(--line)" stroke-dasharray="2 4" />
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
      <g
        :tabindex="fixed ? undefined : 0"
        role="slider"
        aria-label="Height of the rail above the pump"
        :aria-valuenow="rise"
        :aria-valuetext="`${rise.toFixed(2)} m`"
        aria-valuemin="-1"
        aria-valuemax="2"
        style="cursor: ns-resize; touch-action: none"
        @pointerdown="grab"
        @pointermove="drag"
        @pointerup="drop"
        @pointercancel="dragged = null"
        @keydown="nudge"
      >
        <rect :x="x(width)(rail.run_m) - 22" :y="z(rail.height_m) - 22" width="44" height="44" fill="transparent" />
        <rect
          :x="x(width)(rail.run_m) - 16"
          :y="z(dragged ?? rail.height_m) - 4"
          width="32"
          height="8"
          :fill="dragged === null ? 'var(--ink)' : 'var(--spark)'"
        />
        <text v-if="dragged !== null" :x="x(width)(rail.run_m) + 22" :y="z(dragged) + 4" font-size="12" class="num"
          >{{ dragged.toFixed(2) }} m</text
        >
      </g>
      <g font-size="12" style="fill: var(--soft)">
        <text :x="x(width)(0) - 6" y="294">pump</text>
        <text :x="x(width)(rail.run_m)" y="294" text-anchor="middle"
          >{{ rail.run_m.toFixed(1) }} m, {{ rail.height_m.toFixed(2) }} m up</text
        >
        <text v-if="back" :x="x(width)(length)" y="294" text-anchor="end">tank, {{ length.toFixed(1) }} m</text>
      </g>
    </template>
  </Drawing>
</template>
