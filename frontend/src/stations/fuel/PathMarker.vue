<script setup lang="ts">
// What kind of part stands in a row of the path, by its shape.
defineProps<{ marker: string }>();
</script>

<template>
  <svg class="absolute top-[0.85rem] left-0" width="20" height="18" aria-hidden="true">
    <circle v-if="marker === 'place'" cx="10.6" cy="9" r="6" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
    <rect
      v-else-if="marker === 'filter'"
      x="4.6"
      y="3"
      width="12"
      height="12"
      fill="var(--sheet)"
      stroke="var(--ink)"
      stroke-width="1.6"
      stroke-dasharray="2 1.5"
    />
    <path v-else-if="marker === 'check_valve'" d="M4.6 3H16.6L10.6 14Z" fill="var(--sheet)" stroke="var(--ink)" stroke-width="1.6" />
    <rect
      v-else-if="marker === 'damper'"
      x="4.6"
      y="6"
      width="12"
      height="6"
      rx="3"
      fill="var(--sheet)"
      stroke="var(--ink)"
      stroke-width="1.6"
    />
    <path v-else d="M10.6 1V17" stroke="var(--ink)" stroke-width="5" />
  </svg>
</template>
