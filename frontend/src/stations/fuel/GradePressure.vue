<script setup lang="ts">
// The pressure along the way: the grade line forth and back, what boils as a tide, and what is lost where.
import { line } from "d3-shape";
import { computed } from "vue";
import AxisY from "@/figures/AxisY.vue";
import type { Scale } from "@/figures/scale";
import { toldOf, type Grade, type Place } from "./grade";
import { partWord, type FuelResult } from "./states";
import { useScales } from "@/figures/owners";

const props = defineProps<{
  fuel: FuelResult;
  grade: Grade;
  point: FuelResult["points"][string];
  tide: number;
  x: Scale;
  y: Scale;
  left: number;
  width: number;
}>();
const own = useScales();
const LEFT = computed(() => props.left);
const bare = (pa: number) => own.value.pressure.bare(pa).replace("-", "−");
const at = (pa: number) => props.y(own.value.pressure.of(pa));
const pressureLine = (places: Place[]) => line<Place>().x((p) => props.x(p[1])).y((p) => at(p[3]))(places) ?? ""; // prettier-ignore
const last = (name: string) => props.grade.forth.filter((p) => p[0] === name).at(-1)!;
const rail = computed(() => last("rail"));
const pump = computed(() => last("pump"));
const inlet = computed(() => props.grade.forth.find((p) => p[0] === "pump")!);
const told = computed(() => toldOf(props.grade, pump.value[3]));
</script>

<template>
  <g>
    <AxisY :scale="y" :x="LEFT" :label="own.pressure.unit" :wide="width - LEFT - 14" :count="4" />
    <rect
      :x="LEFT"
      :width="width - LEFT - 14"
      :y="at(tide)"
      :height="Math.max(y.range()[0]! - at(tide), 0)"
      fill="var(--info)"
      opacity="0.22"
    />
    <text :x="width - 20" :y="y.range()[0]! - 5" text-anchor="end" font-size="12" style="fill: var(--info)"
      >boils below this, fuel at {{ own.heat.tell(fuel.inlet.fuel_k) }}</text
    >
    <path :d="`${pressureLine(grade.forth)}L${x(rail[1])} ${y(0)}L${x(0)} ${y(0)}Z`" fill="var(--wash)" opacity="0.7" />
    <path :d="pressureLine(grade.back)" fill="none" stroke="var(--good)" stroke-width="2" stroke-dasharray="6 3" stroke-linejoin="round" />
    <path :d="pressureLine(grade.forth)" fill="none" stroke="var(--good)" stroke-width="2.6" stroke-linejoin="round" />
    <template v-if="fuel.inlet.known">
      <circle
        :cx="x(inlet[1])"
        :cy="at(inlet[3])"
        r="5"
        fill="var(--sheet)"
        :stroke="point.inlet_margin_m < 0 ? 'var(--spark)' : 'var(--good)'"
        stroke-width="2.4"
      />
      <text v-if="width >= 480" :x="x(inlet[1]) + 10" :y="at(inlet[3]) - 5" font-size="12"
        >inlet, {{ own.distance.tell(point.inlet_margin_m) }} {{ point.inlet_margin_m < 0 ? "below" : "above" }} boiling</text
      >
    </template>
    <g font-size="12.5">
      <text :x="x(pump[1]) + 4" :y="at(pump[3]) - 8" font-weight="600">{{ bare(pump[3]) }} at the pump</text>
      <text
        v-for="(l, i) in told"
        :key="l.part"
        :x="x(l.run) + 4"
        :y="at(l.at[3]) + 20 + (i % 2) * 16"
        :text-anchor="x(l.run) > width * 0.6 ? 'end' : 'start'"
        style="paint-order: stroke; stroke: var(--sheet); stroke-width: 4px"
        >{{ partWord(l.part) }} −{{ bare(l.loss_pa) }}</text
      >
      <text
        :x="x(rail[1]) + (x(rail[1]) > width - 110 ? -6 : 6)"
        :y="at(rail[3]) - 8"
        :text-anchor="x(rail[1]) > width - 110 ? 'end' : 'start'"
        font-weight="600"
        >{{ bare(rail[3]) }} at the rail</text
      >
      <text
        v-if="grade.back.length > 2 && grade.back[0]![1] >= rail[1]"
        :x="(x(grade.back[0]![1]) + x(grade.back.at(-1)![1])) / 2"
        :y="at(point.return_pressure_pa) - 8"
        text-anchor="middle"
        style="paint-order: stroke; stroke: var(--sheet); stroke-width: 4px"
        >return {{ bare(point.return_pressure_pa) }}</text
      >
    </g>
  </g>
</template>
