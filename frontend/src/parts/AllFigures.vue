<script setup lang="ts">
// The figures of a station that this build has, folded away under the drawing.
import { computed } from "vue";
import { useBuild } from "@/stores/build";
import FigureList from "./FigureList.vue";

const props = defineProps<{ names: string[] }>();
const store = useBuild();
const shown = computed(() => props.names.filter((n) => store.plan?.figures[n]?.value != null));
</script>

<template>
  <details v-if="shown.length" class="mt-3">
    <summary class="min-h-9 cursor-pointer py-1 text-[0.95rem]">
      {{ shown.length === 1 ? "Its figure" : `All ${shown.length} figures` }}
    </summary>
    <FigureList :names="shown" />
  </details>
</template>
