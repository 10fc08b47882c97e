<script setup lang="ts">
// A degree wheel unrolled: where the piston met its stop before the mark and after it, and true top half way between.
import { computed } from "vue";
import Drawing from "@/figures/Drawing.vue";

const props = defineProps<{ before: number; after: number; off: number }>();
const H = 128;
const Y = 62;
const most = computed(() => Math.max(Math.abs(props.before), Math.abs(props.after), 10) * 1.25);
const x = (degrees: number, width: number) => width / 2 + (degrees / most.value) * (width / 2 - 24);
const ticks = computed(() => {
  const step = most.value > 70 ? 30 : most.value > 30 ? 10 : 5;
  const n = Math.floor(most.value / step);
  return Array.from({ length: 2 * n + 1 }, (_, i) => (i - n) * step);
});
const told = computed(() => {
  const size = Math.abs(props.off).toFixed(1);
  return size === "0.0" ? "true top at the mark" : `true top ${size}° ${props.off > 0 ? "after" : "before"} the mark`;
});
const words = computed(
  () => `Piston stops ${Math.abs(props.before)}° before the mark and ${Math.abs(props.after)}° after it: ${told.value}.`,
);
</script>

<template>
  <Drawing title="Where top is" :height="H" :words="words" class="col-span-2">
    <template #default="{ width }">
      <line :x1="x(-most, width)" :x2="x(most, width)" :y1="Y" :y2="Y" stroke="var(--ink)" stroke-width="1.5" />
      <g v-for="t in ticks" :key="t">
        <line :x1="x(t, width)" :x2="x(t, width)" :y1="Y" :y2="Y + (t === 0 ? 12 : 6)" stroke="var(--ink)" />
        <text :x="x(t, width)" :y="Y + 26" text-anchor="middle" font-size="12" fill="var(--soft)">{{ Math.abs(t) }}</text>
      </g>
      <text :x="x(0, width)" :y="Y + 42" text-anchor="middle" font-size="12" fill="var(--ink)">your mark</text>
      <text :x="8" :y="Y + 58" font-size="12" fill="var(--soft)">before</text>
      <text :x="width - 8" :y="Y + 58" text-anchor="end" font-size="12" fill="var(--soft)">after</text>
      <template
        v-for="[at, word] in [
          [-Math.abs(before), 'stop'],
          [Math.abs(after), 'stop'],
        ] as [number, string][]"
        :key="at"
      >
        <rect :x="x(at, width) - 3" :y="Y - 16" width="6" height="16" fill="var(--ink)" />
        <text :x="x(at, width)" :y="Y - 21" text-anchor="middle" font-size="12" fill="var(--ink)">{{ word }} {{ Math.abs(at) }}°</text>
      </template>
      <path :d="`M${x(off, width)} ${Y - 2}l-6 -14h12z`" fill="var(--spark)" />
      <text :x="x(off, width)" :y="Y - 36" text-anchor="middle" font-size="12.5" font-weight="600" fill="var(--spark)">{{ told }}</text>
    </template>
  </Drawing>
</template>
