<script setup lang="ts">
import { computed } from "vue";
import type { Severity } from "@/api/types";
import { SEVERITY, TICK } from "@/figures/severity";
import { useCatalogue } from "@/stores/catalogue";

const props = withDefaults(defineProps<{ severity: Severity | null; size?: number; word?: boolean }>(), { size: 16, word: false });
const { word: wordOf } = useCatalogue();
const look = computed(() => (props.severity ? SEVERITY[props.severity] : null));
</script>

<template>
  <span class="inline-flex shrink-0 items-center gap-1.5 whitespace-nowrap" :style="{ color: look?.colour }">
    <svg v-if="look" :width="size" :height="size" viewBox="0 0 16 16" aria-hidden="true">
      <path
        :d="look.path"
        :fill="look.filled ? 'currentColor' : 'var(--sheet)'"
        stroke="currentColor"
        stroke-width="2"
        :stroke-dasharray="look.dash"
        stroke-linejoin="round"
      />
      <path v-if="severity === 'sound'" :d="TICK" fill="none" stroke="var(--sheet)" stroke-width="1.8" />
    </svg>
    <span v-if="look" :class="word ? 'font-semibold' : 'sr-only'">{{ severity && wordOf(severity) }}</span>
  </span>
</template>
