<script setup lang="ts">
// Places on the grid that a driver knows: a ring each, its name beside it where there is room.
import type { Marked } from "./layout";

defineProps<{ places: Marked[] }>();
</script>

<template>
  <g v-for="m in places" :key="m.key" style="pointer-events: none">
    <template v-if="m.box">
      <rect v-bind="m.box" rx="2" fill="var(--sheet)" fill-opacity="0.9" />
      <text :x="m.box.x + 4" :y="m.box.y + 13" font-size="12.5" font-weight="700">{{ m.word }}</text>
    </template>
    <circle :cx="m.x" :cy="m.y" r="6" fill="var(--sheet)" fill-opacity="0.85" stroke="var(--ink)" stroke-width="2" />
    <circle :cx="m.x" :cy="m.y" r="1.8" fill="var(--ink)" />
  </g>
</template>
