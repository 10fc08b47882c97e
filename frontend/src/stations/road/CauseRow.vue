<script setup lang="ts">
// A cause: in words, its size with its doubt as a mark on a line, its share, and the deed that puts it right.
import { scaleLinear } from "d3-scale";
import { computed } from "vue";
import type { CauseTold } from "./asks";
import DeedOffer from "./DeedOffer.vue";
import { percent, type UseRoad } from "./useRoad";

const props = defineProps<{ cause: CauseTold; fill: string; road: UseRoad }>();
const W = 220;
const off = computed(() => 2 * props.cause.doubt);
const x = computed(() => {
  const most = Math.max(Math.abs(props.cause.size) + off.value, 1e-6) * 1.1;
  return scaleLinear()
    .domain([-most, most])
    .range([6, W - 6]);
});
const swatch = computed(() => (props.fill.startsWith("url") ? "var(--ink)" : props.fill));
const asked = computed(() => ({
  causes: [props.cause.key],
  curves: [],
  cells: false,
  fill: true,
  signed_by: "",
  signed_why: "",
}));
</script>

<template>
  <li class="flex gap-3 border-t border-ink py-2">
    <svg width="16" height="16" class="mt-1 shrink-0" aria-hidden="true">
      <rect x="0.5" y="0.5" width="15" height="15" :fill="fill.startsWith('url') ? fill : swatch" stroke="var(--ink)" />
    </svg>
    <div class="min-w-0 flex-1">
      <div class="flex flex-wrap items-start justify-between gap-x-6 gap-y-1">
        <p class="min-w-0 flex-1 basis-80 leading-snug">
          <b>{{ cause.name }}.</b> {{ cause.words }}{{ cause.share ? `: ${percent(cause.share, 0)} of the error` : "" }}.
        </p>
        <svg
          :width="W"
          height="34"
          class="shrink-0"
          role="img"
          :aria-label="`${cause.name}: its size and how far it may be off, about nothing`"
        >
          <path :d="`M6 22H${W - 6}`" stroke="var(--line)" />
          <path :d="`M${x(0)} 14V30`" stroke="var(--ink)" />
          <text :x="x(0)" y="11" text-anchor="middle" font-size="12">0</text>
          <path :d="`M${x(cause.size - off)} 22H${x(cause.size + off)}`" stroke="var(--spark)" stroke-width="5" />
          <circle :cx="x(cause.size)" cy="22" r="5" fill="var(--spark)" stroke="var(--sheet)" />
        </svg>
      </div>
      <DeedOffer v-if="cause.patched" :road="road" :asked="asked" :word="cause.deed" :says="cause.besides" />
      <p v-else class="mt-1 leading-snug"><b>Do:</b> {{ cause.do }}</p>
    </div>
  </li>
</template>
