<script setup lang="ts">
// The fuel's way from tank to rail and back, unrolled along its true length: the pressure in it above, the height and bore of the line below.
import { scaleLinear } from "d3-scale";
import { computed } from "vue";
import Drawing from "@/figures/Drawing.vue";
import GradeHeights from "./GradeHeights.vue";
import GradePressure from "./GradePressure.vue";
import { partWord, pointOf, wordOf, type FuelResult, type StateName } from "./states";
import { useScales } from "@/figures/owners";

const props = defineProps<{ fuel: FuelResult; state: StateName; fixed: boolean }>();
const own = useScales();
const emit = defineEmits<{ attempt: [string, string]; settle: [string, string] }>();
const H = 330;
const LEFT = 52;
const grade = computed(() => props.fuel.grades[props.state]!);
const every = computed(() => [...grade.value.forth, ...grade.value.back]);
const most = computed(() => Math.max(...every.value.map((p) => p[3])));
const length = computed(() => Math.max(...every.value.map((p) => p[1]), 0.5));
/** The fuel's vapour pressure as a gauge pressure, and how far the drawing goes below it [Pa]. */
const tide = computed(() => props.fuel.inlet.boils_below_pa);
const [LOWEST, BELOW] = [-45e3, 25e3];
const y = computed(() => scaleLinear().domain([Math.min(LOWEST, tide.value - BELOW), most.value * 1.16].map(own.value.pressure.of)).range([198, 24])); // prettier-ignore
const z = computed(() => {
  const heights = every.value.map((p) => p[2]);
  return scaleLinear().domain([Math.min(-0.1, ...heights), Math.max(0.35, ...heights)]).range([286, 226]); // prettier-ignore
});
const scale = (width: number) => scaleLinear().domain([0, length.value]).range([LEFT + 18, width - 26]); // prettier-ignore
const last = (name: string) => grade.value.forth.filter((p) => p[0] === name).at(-1)!;
const rail = computed(() => last("rail"));
const pump = computed(() => last("pump"));
const point = computed(() => pointOf(props.fuel, props.state));
const words = computed(
  () =>
    `At ${wordOf(props.state)}: ${own.value.pressure.tell(pump.value[3])} at the pump, ${grade.value.losses.map((l) => `${own.value.loss.tell(l.loss_pa)} lost in ${partWord(l.part)}`).join(", ")}, ${own.value.pressure.tell(rail.value[3])} at the rail${grade.value.back.length ? `, ${own.value.pressure.tell(point.value.return_pressure_pa)} in the return` : ""}.`,
);
</script>

<template>
  <Drawing interactive :title="`Pressure along the way, ${wordOf(state)}`" :height="H" :words="words">
    <template #default="{ width }">
      <GradePressure :fuel="fuel" :grade="grade" :point="point" :tide="tide" :x="scale(width)" :y="y" :left="LEFT" :width="width" />
      <GradeHeights
        :grade="grade"
        :x="scale(width)"
        :z="z"
        :fixed="fixed"
        @attempt="(at, written) => emit('attempt', at, written)"
        @settle="(at, written) => emit('settle', at, written)"
      />
      <g font-size="12" style="fill: var(--soft)">
        <text :x="scale(width)(pump[1]) - 6" y="318">pump</text>
        <text :x="scale(width)(rail[1])" y="318" :text-anchor="scale(width)(rail[1]) > width - 80 ? 'end' : 'middle'"
          >rail, {{ own.distance.tell(rail[1]) }}, {{ own.distance.tell(rail[2] - pump[2], 1) }} up</text
        >
        <text
          v-if="grade.back.length && scale(width)(length) - scale(width)(rail[1]) > 170"
          :x="scale(width)(length)"
          y="318"
          text-anchor="end"
          >{{ partWord(grade.back.at(-1)![0]) }}, {{ own.distance.tell(length) }}</text
        >
      </g>
    </template>
    <template #under>
      <p class="no-print mt-1 text-[0.82rem] text-soft">
        Drag the rail up and down, or a line's handle through its bores; arrow keys do the same. It is solved as you drag.
      </p>
    </template>
  </Drawing>
</template>
