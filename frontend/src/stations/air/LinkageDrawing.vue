<script setup lang="ts">
// Pedal, cable and lever to one scale, foot off and foot down.
import { computed } from "vue";
import type { Stages } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";
import { useScales } from "@/figures/owners";

const props = defineProps<{ air: Stages["air"]; lever: number; travel: number; ratio: number; neededDeg: number }>();
const own = useScales();
const H = 190;
const scale = 2600; // px to a metre
const reach = computed(() => Math.min(props.air.plate_deg ?? 0, props.neededDeg));
const rad = (deg: number) => (deg * Math.PI) / 180;
/** The lever stands so that its swing is even about the cable. */
const start = computed(() => -90 - props.neededDeg / 2);
const tip = (deg: number) => ({
  x: props.lever * scale * Math.cos(rad(start.value + deg)),
  y: props.lever * scale * Math.sin(rad(start.value + deg)),
});
const pedalLength = computed(() => Math.min(props.travel * 1600, 96));
const swing = computed(() => ((props.travel * 1000) / (pedalLength.value / 1.1)) * 57.3 * 0.6);
const words = computed(
  () =>
    `Full pedal, ${own.value.length.tell(props.travel)}, pulls the lever of ${own.value.length.tell(props.lever)} through ${Math.round(props.air.plate_deg ?? 0)} degrees of the ${props.neededDeg} there are.`,
);
</script>

<template>
  <Drawing :title="`Pedal to plate: ${Math.round((air.pedal_full ?? 0) * 100)} % open at full pedal`" :height="H" :words="words">
    <template #default="{ width }">
      <g :transform="`translate(${Math.max(width * 0.16, 56)} 44)`">
        <path :d="`M0 0V${pedalLength}`" stroke="var(--line)" stroke-width="5" stroke-linecap="round" />
        <g :transform="`rotate(${swing})`"
          ><path :d="`M0 0V${pedalLength}`" stroke="var(--ink)" stroke-width="5" stroke-linecap="round"
        /></g>
        <circle r="5" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
        <text :y="pedalLength + 24" text-anchor="middle" font-size="12" class="num">{{ own.length.tell(travel) }}</text>
        <text y="-16" text-anchor="middle" font-size="12" style="fill: var(--soft)">pedal, {{ ratio }} : 1</text>
      </g>
      <path
        :d="`M${Math.max(width * 0.16, 56) + 8} 66H${width * 0.7 + tip(0).x}`"
        stroke="var(--ink)"
        stroke-width="1.6"
        stroke-dasharray="9 3"
      />
      <text :x="width * 0.4" y="58" text-anchor="middle" font-size="12" style="fill: var(--soft)">cable</text>
      <g :transform="`translate(${width * 0.7} ${66 + lever * scale * 0.78})`">
        <path
          :d="`M${tip(0).x} ${tip(0).y}A${lever * scale} ${lever * scale} 0 0 1 ${tip(neededDeg).x} ${tip(neededDeg).y}`"
          fill="none"
          stroke="var(--line)"
          stroke-width="9"
        />
        <path
          :d="`M${tip(0).x} ${tip(0).y}A${lever * scale} ${lever * scale} 0 0 1 ${tip(reach).x} ${tip(reach).y}`"
          fill="none"
          :stroke="(air.pedal_full ?? 0) < air.pedal_enough ? 'var(--spark)' : 'var(--good)'"
          stroke-width="9"
        />
        <path :d="`M0 0L${tip(0).x} ${tip(0).y}`" stroke="var(--line)" stroke-width="4" stroke-linecap="round" />
        <path :d="`M0 0L${tip(reach).x} ${tip(reach).y}`" stroke="var(--ink)" stroke-width="4" stroke-linecap="round" />
        <circle r="6" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
        <text y="34" text-anchor="middle" font-size="13" class="num">{{ Math.round(air.plate_deg ?? 0) }}° of {{ neededDeg }}°</text>
      </g>
    </template>
  </Drawing>
</template>
