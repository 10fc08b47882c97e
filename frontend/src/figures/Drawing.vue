<script setup lang="ts">
// A sheet for a drawing: title, a frame that knows its width in px so that lettering keeps its size, and the drawing in words.
import { useElementSize } from "@vueuse/core";
import { ref } from "vue";

defineProps<{ title: string; height: number; words: string; interactive?: boolean }>();
const frame = ref<HTMLElement | null>(null);
const { width } = useElementSize(frame, { width: 640, height: 300 });
</script>

<template>
  <figure class="mt-3 break-inside-avoid">
    <figcaption class="mb-1 flex flex-wrap items-center justify-between gap-2">
      <span class="text-[0.95rem] font-semibold">{{ title }}</span><slot name="tools" />
    </figcaption>
    <div ref="frame" class="overflow-hidden border border-line bg-sheet [contain:inline-size]">
      <svg :width="Math.max(width, 200)" :height="height" class="block" :role="interactive ? 'group' : 'img'" :aria-label="words">
        <slot :width="Math.max(width, 200)" :height="height" />
      </svg>
    </div>
    <slot name="under" />
  </figure>
</template>
