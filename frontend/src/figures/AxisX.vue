<script setup lang="ts">
import type { ScaleContinuousNumeric } from "d3-scale";
import { computed } from "vue";

const props = defineProps<{ scale: ScaleContinuousNumeric<number, number>; y: number; label: string; ticks?: number[]; count?: number }>();
// As on the axis beside it; what a drawing marks of its own need not be a round step.
const told = computed(() => (props.ticks ? (t: number) => t.toLocaleString("en-GB") : props.scale.tickFormat(props.count ?? 6)));
</script>

<template>
  <g>
    <path :d="`M${scale.range()[0]} ${y}H${scale.range()[1]}`" stroke="var(--ink)" />
    <g v-for="t in ticks ?? scale.ticks(count ?? 6)" :key="t" :transform="`translate(${scale(t)} ${y})`">
      <path d="M0 0V5" stroke="var(--ink)" /><text y="17" text-anchor="middle" font-size="12" class="num">{{ told(t) }}</text>
    </g>
    <text :x="scale.range()[1]" :y="y + 31" text-anchor="end" font-size="12">{{ label }}</text>
  </g>
</template>
