<script setup lang="ts">
// What to measure first: how far each value's own doubt moves the margin.
import type { FuelDepth } from "@/api/types";

defineProps<{ doubts: FuelDepth["doubts"] }>();
</script>

<template>
  <section class="break-inside-avoid" aria-label="What to measure first">
    <h2 class="mt-4 text-[1.1rem]">What to measure first</h2>
    <p class="text-[0.9rem] text-soft">How far each value's own doubt moves the margin.</p>
    <ol class="mt-1 text-[0.92rem]">
      <li v-for="d in doubts.slice(0, 5)" :key="d.label" class="flex flex-wrap items-baseline gap-x-3 border-t border-hair py-1">
        <span class="min-w-56 flex-1" :class="{ 'text-info italic': d.assumed }"
          >{{ d.label }} {{ d.doubt }}<template v-if="d.assumed">, assumed</template></span
        >
        <span class="num font-semibold">{{ d.margin_low.toFixed(2) }} to {{ d.margin_high.toFixed(2) }}</span>
      </li>
    </ol>
  </section>
</template>
