<script setup lang="ts">
// What the oxygen sensor's controller says: the ends of its line, and lambda 1.
defineProps<{ line: { offset: number; slope: number }; stoich: number }>();
</script>

<template>
  <p class="mt-3 text-[0.95rem]">
    Oxygen sensor: 0 V is λ <span class="num">{{ line.offset.toFixed(3) }}</span>, 5 V is λ
    <span class="num">{{ (line.offset + 5 * line.slope).toFixed(3) }}</span>; λ 1 shows
    <span class="num">{{ ((1 - line.offset) / line.slope).toFixed(2) }} V</span>, which is <span class="num">{{ stoich }}</span> to one of
    this fuel.
  </p>
</template>
