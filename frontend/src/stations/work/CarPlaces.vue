<script setup lang="ts">
// The car from above with the places that things come off: pressed, only what is there is shown, and what is labelled next is of there.
import Drawing from "@/figures/Drawing.vue";
import { PLACES, type Place } from "./places";

defineProps<{ counts: Record<string, number> }>();
const chosen = defineModel<Place | "">({ required: true });
const H = 176;
const turn = (key: Place) => (chosen.value = chosen.value === key ? "" : key);
</script>

<template>
  <Drawing title="Where on the car" :height="H" words="The car from above, nose to the left: places that things come off" interactive>
    <template #default="{ width }">
      <g :transform="`translate(${Math.max((width - 300 * 1.08) / 2, 4)} 6) scale(${Math.min((width - 8) / 300, 1.08)})`">
        <path
          d="M12 32 C6 60 6 90 12 118 C22 142 60 146 96 146 H250 C282 146 292 130 292 75 C292 20 282 4 250 4 H96 C60 4 22 8 12 32 Z"
          fill="var(--ground)"
          stroke="var(--ink)"
          stroke-width="1.6"
        />
        <path d="M152 16 V134 M214 16 V134" stroke="var(--line)" />
        <g
          v-for="p in PLACES.filter((x) => x.w)"
          :key="p.key"
          role="button"
          tabindex="0"
          :aria-pressed="chosen === p.key"
          :aria-label="`${p.word}: ${counts[p.key] ?? 0} off or labelled`"
          class="cursor-pointer"
          @click="turn(p.key)"
          @keydown.enter.space.prevent="turn(p.key)"
        >
          <rect
            :x="p.x - p.w / 2"
            :y="p.y - p.h / 2"
            :width="p.w"
            :height="p.h"
            rx="2"
            :fill="chosen === p.key ? 'var(--ink)' : 'var(--sheet)'"
            stroke="var(--ink)"
            :stroke-dasharray="p.key === 'underneath' ? '4 3' : undefined"
          />
        </g>
        <text
          v-for="p in PLACES.filter((x) => x.w)"
          :key="p.key"
          class="pointer-events-none"
          :transform="`translate(${p.x} ${p.y}) ${p.w < 40 ? 'rotate(-90)' : ''}`"
          y="4"
          text-anchor="middle"
          font-size="12"
          :font-weight="counts[p.key] ? 700 : 400"
          :style="{ fill: chosen === p.key ? 'var(--on-ink)' : counts[p.key] ? 'var(--ink)' : 'var(--soft)' }"
        >
          {{ counts[p.key] ? `${p.label} ${counts[p.key]}` : p.label }}
        </text>
      </g>
    </template>
    <template #under>
      <p class="mt-1 min-h-6 text-[0.9rem]">
        <template v-if="chosen"
          >{{ PLACES.find((p) => p.key === chosen)!.word }}
          <button type="button" class="ml-2 min-h-9 underline" @click="chosen = ''">show all</button></template
        >
        <span v-else class="text-soft">Seen from above, nose to the left. Press a place.</span>
      </p>
    </template>
  </Drawing>
</template>
