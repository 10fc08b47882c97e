<script setup lang="ts">
// The climb: one profile whose height is the work it takes, ten stations on it, each with its ruling figure and its state.
import { useElementSize } from "@vueuse/core";
import { curveMonotoneX, line } from "d3-shape";
import { computed, ref } from "vue";
import { RouterLink, useRoute } from "vue-router";
import type { Station } from "@/api/types";
import { SEVERITY, TICK } from "@/figures/severity";
import { useCatalogue } from "@/stores/catalogue";

const props = defineProps<{ stations: Station[]; buildId?: string; current?: string; small?: boolean; lit?: string[] }>();
const route = useRoute();
const { word } = useCatalogue();
const frame = ref<HTMLElement | null>(null);
const { width } = useElementSize(frame, { width: 900, height: 60 });
const H = computed(() => (props.small ? 56 : 78));
const step = computed(() => width.value / props.stations.length);
const total = computed(() => props.stations.reduce((sum, s) => sum + s.hours, 0));
const points = computed(() => {
  let climbed = 0;
  return props.stations.map((s, i) => {
    climbed += s.hours;
    return { x: (i + 0.5) * step.value, y: H.value - 14 - (climbed / total.value) * (H.value - 30) };
  });
});
const walked = (s: Station) => s.severity === "sound" || s.severity === "sound_if" || s.severity === "watch";
/** How many stations from the bottom are behind us. */
const behind = computed(() => {
  const first = props.stations.findIndex((s) => s.built && !walked(s));
  return first < 0 ? props.stations.length : first;
});
const draw = line<{ x: number; y: number }>()
  .x((p) => p.x)
  .y((p) => p.y)
  .curve(curveMonotoneX);
const path = computed(() => draw([{ x: 0, y: H.value - 8 }, ...points.value, { x: width.value, y: 8 }]) ?? "");
const reach = computed(() =>
  behind.value === 0 ? 0 : behind.value >= props.stations.length ? width.value : points.value[behind.value]!.x,
);
</script>

<template>
  <nav v-if="!small" aria-label="Stations" class="relative border-b border-ink bg-ground print:hidden">
    <div ref="frame" class="mx-auto max-w-[100rem]">
      <svg :width="width" :height="H" class="block" aria-hidden="true">
        <defs>
          <clipPath id="walked"><rect x="0" y="0" :width="reach" :height="H" /></clipPath>
        </defs>
        <path :d="`${path}L${width} ${H}L0 ${H}Z`" fill="var(--well)" opacity="0.55" />
        <path :d="path" fill="none" stroke="var(--soft)" stroke-width="1.6" stroke-dasharray="5 5" />
        <path :d="path" fill="none" stroke="var(--good)" stroke-width="3" clip-path="url(#walked)" />
        <template v-for="(s, i) in stations" :key="s.key">
          <g :transform="`translate(${points[i]!.x - 9} ${points[i]!.y - 9}) scale(1.125)`">
            <circle v-if="lit?.includes(s.key)" cx="8" cy="8" r="13" fill="none" stroke="var(--info)" stroke-width="2" />
            <circle v-if="s.key === current" cx="8" cy="8" r="12" fill="var(--sheet)" stroke="var(--ink)" stroke-width="1.6" />
            <path
              v-if="s.severity"
              :d="SEVERITY[s.severity].path"
              :fill="SEVERITY[s.severity].filled ? SEVERITY[s.severity].colour : 'var(--sheet)'"
              :stroke="SEVERITY[s.severity].colour"
              stroke-width="2"
              :stroke-dasharray="SEVERITY[s.severity].dash"
            />
            <path v-if="s.severity === 'sound'" :d="TICK" fill="none" stroke="var(--sheet)" stroke-width="1.8" />
            <circle
              v-if="!s.severity"
              cx="8"
              cy="8"
              r="4"
              fill="var(--sheet)"
              stroke="var(--soft)"
              stroke-width="1.4"
              stroke-dasharray="2 2"
            />
          </g>
        </template>
      </svg>
      <ol class="grid" :style="{ gridTemplateColumns: `repeat(${stations.length}, minmax(0, 1fr))` }">
        <li v-for="(s, i) in stations" :key="s.key">
          <RouterLink
            :to="{ path: `/b/${buildId}/${s.key}`, query: route.query }"
            :aria-current="s.key === current ? 'page' : undefined"
            :title="`${s.title}: ${s.ruling}. Key ${(i + 1) % 10}`"
            class="relative -mt-11 flex min-h-11 flex-col items-center justify-end px-0.5 pt-11 pb-1.5 text-center leading-tight hover:bg-wash/60 max-md:pb-0"
            :class="s.key === current ? 'font-semibold' : ''"
          >
            <span class="text-[0.86rem] max-md:sr-only" :class="s.key === current ? 'underline decoration-2 underline-offset-4' : ''">{{
              s.title
            }}</span>
            <span
              class="text-[0.8rem] font-normal tabular-nums max-md:sr-only"
              :class="s.severity === 'stop' ? 'text-spark' : 'text-soft'"
              >{{ s.ruling }}</span
            >
            <span class="sr-only">{{ s.severity ? word(s.severity) : "comes later" }}</span>
          </RouterLink>
        </li>
      </ol>
    </div>
  </nav>
  <div
    v-else
    ref="frame"
    role="img"
    :aria-label="`The climb: ${stations.map((s) => `${s.title} ${s.severity ? word(s.severity) : 'comes later'}`).join(', ')}`"
  >
    <svg :width="width" :height="H" class="block">
      <path :d="path" fill="none" stroke="var(--soft)" stroke-width="1.4" stroke-dasharray="4 4" />
      <g v-for="(s, i) in stations" :key="s.key" :transform="`translate(${points[i]!.x - 6} ${points[i]!.y - 6}) scale(0.75)`">
        <path
          v-if="s.severity"
          :d="SEVERITY[s.severity].path"
          :fill="SEVERITY[s.severity].filled ? SEVERITY[s.severity].colour : 'var(--sheet)'"
          :stroke="SEVERITY[s.severity].colour"
          stroke-width="2.4"
          :stroke-dasharray="SEVERITY[s.severity].dash"
        />
        <path v-if="s.severity === 'sound'" :d="TICK" fill="none" stroke="var(--sheet)" stroke-width="2" />
        <circle v-if="!s.severity" cx="8" cy="8" r="3.4" fill="var(--sheet)" stroke="var(--soft)" />
      </g>
    </svg>
  </div>
</template>
