<script setup lang="ts">
// The picture of a word: strokes in ink, in broken line, and filled, as the core has them.
import type { Word } from "@/stores/words";

defineProps<{ picture: Word["picture"] }>();
</script>

<template>
  <svg viewBox="0 0 120 60" class="h-15 w-30 shrink-0" aria-hidden="true" fill="none" stroke="var(--ink)" stroke-width="1.8">
    <path v-if="picture.thin" :d="picture.thin" stroke="var(--soft)" stroke-width="1.3" stroke-dasharray="3 3" />
    <path :d="picture.line" stroke-linejoin="round" />
    <path v-if="picture.solid" :d="picture.solid" fill="var(--ink)" stroke-width="0.6" />
  </svg>
</template>
