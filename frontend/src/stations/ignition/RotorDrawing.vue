<script setup lang="ts">
// The rotor's tip under number one's post: it stands still while the unit sweeps the advance, so the post wanders over it.
import { arc } from "d3-shape";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";

const props = defineProps<{ rotor: NonNullable<Stages["ignition"]["rotor"]>; cylinders: number }>();
const H = 240;
const R = 200;
const rad = (deg: number) => (deg * Math.PI) / 180;
/** Degrees of the cap drawn larger than life about the post, so that a degree can be seen. */
const ZOOM = 1.6;
const at = (deg: number, r: number) => ({ x: r * Math.sin(rad(deg * ZOOM)), y: -r * Math.cos(rad(deg * ZOOM)) });
const tip = computed(() => props.rotor.half_tip_deg);
const bow = (from: number, to: number, inner: number, outer: number) =>
  arc()({ innerRadius: inner, outerRadius: outer, startAngle: rad(from * ZOOM), endAngle: rad(to * ZOOM) }) ?? "";
const ends = computed(() => [
  { word: "least advance", short: "least", deg: props.rotor.least_deg },
  { word: "most advance", short: "most", deg: props.rotor.most_deg },
]);
const next = computed(() => 360 / props.cylinders);
const words = computed(
  () =>
    `The tip ${tip.value === null ? "of unknown width" : `${(2 * tip.value).toFixed(0)} degrees wide`}; the post lies ${props.rotor.least_deg.toFixed(1)} degrees off its middle at least advance and ${props.rotor.most_deg.toFixed(1)} at most. Best set to face it at ${props.rotor.best_meets_deg.toFixed(1)} degrees before top.`,
);
</script>

<template>
  <Drawing title="Rotor under number one's post, degrees of the cap drawn wide" :height="H" :words="words">
    <template #default="{ width }">
      <g :transform="`translate(${width / 2} ${R + 42})`">
        <path :d="bow(-next, next, R + 6, R + 9)" fill="var(--line)" />
        <path
          v-if="tip !== null"
          :d="bow(-tip, tip, R - 44, R - 12)"
          :fill="rotor.covered === false ? 'var(--care)' : 'var(--good)'"
          opacity="0.55"
        />
        <path v-if="tip !== null" :d="bow(-tip + 1.5, tip - 1.5, R - 12, R - 8)" fill="var(--ink)" />
        <text y="-122" text-anchor="middle" font-size="12.5">tip, and three degrees to spare</text>
        <g v-for="e in ends" :key="e.word">
          <path
            :d="`M${at(e.deg, R - 8).x} ${at(e.deg, R - 8).y}L${at(e.deg, R + 6).x} ${at(e.deg, R + 6).y}`"
            :stroke="tip !== null && Math.abs(e.deg) + 1.5 > tip ? 'var(--spark)' : 'var(--ink)'"
            stroke-width="3"
            stroke-dasharray="3 2"
          />
          <circle :cx="at(e.deg, R + 8).x" :cy="at(e.deg, R + 8).y" r="8" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
          <text
            :x="at(e.deg, R + 26).x + (e.deg < 0 ? -6 : 6)"
            :y="at(e.deg, R + 26).y"
            :text-anchor="e.deg < 0 ? 'end' : 'start'"
            font-size="12.5"
            >{{ width < 480 ? e.short : e.word }}, {{ e.deg.toFixed(1) }}°</text
          >
        </g>
        <text y="-50" text-anchor="middle" font-size="13">
          best set to face the post at <tspan class="num" font-weight="600">{{ rotor.best_meets_deg.toFixed(1) }}°</tspan> before top
        </text>
      </g>
    </template>
  </Drawing>
</template>
