<script setup lang="ts">
// A table from text or a file, fetched when somebody comes to where it stands: most people never do.
import { useIntersectionObserver } from "@vueuse/core";
import { defineAsyncComponent, ref } from "vue";

defineProps<{ at: string; kind: string; label: string; example: string; append?: boolean; out?: boolean }>();
const CsvView = defineAsyncComponent(() => import("./CsvView.vue"));
const frame = ref<HTMLElement | null>(null);
const reached = ref(false);
const { stop } = useIntersectionObserver(frame, ([seen]) => {
  if (!seen?.isIntersecting) return;
  reached.value = true;
  stop();
});
</script>

<template>
  <div ref="frame" class="min-h-px"><CsvView v-if="reached" v-bind="$props" /></div>
</template>
