<script setup lang="ts">
import type { ScaleContinuousNumeric } from "d3-scale";
import { computed } from "vue";

const props = defineProps<{ scale: ScaleContinuousNumeric<number, number>; x: number; label: string; count?: number; wide?: number }>();
const top = () => Math.min(...props.scale.range().map(Number));
// Not the words of the browser's own language tables: waking those takes an eighth of a first view.
const told = computed(() => props.scale.tickFormat(props.count ?? 5));
</script>

<template>
  <g>
    <g v-for="t in scale.ticks(count ?? 5)" :key="t" :transform="`translate(${x} ${scale(t)})`">
      <path :d="`M0 0H${wide ?? 0}`" stroke="var(--hair)" /><path d="M-5 0H0" stroke="var(--ink)" />
      <text x="-8" y="4" text-anchor="end" font-size="12" class="num">{{ told(t) }}</text>
    </g>
    <path :d="`M${x} ${scale.range()[0]}V${scale.range()[1]}`" stroke="var(--ink)" />
    <text :x="x - 34" :y="top() - 9" font-size="12">{{ label }}</text>
  </g>
</template>
