<script setup lang="ts">
// A wire's colour as a stripe and as its letters (IEC 60757), for the colour-blind.
import { computed } from "vue";

const props = defineProps<{ colour: string }>();
const SHOWN: Record<string, string> = {
  BK: "#1a1a1a", BN: "#6b4423", RD: "#c1271c", OG: "#e07b1a", YE: "#e8c51d", GN: "#2e7d3c", BU: "#2559a8", VT: "#6d3c92", GY: "#8a8a8a", WH: "#f4f4f0", PK: "#e6a0b4", TQ: "#3aa8a4",
}; // prettier-ignore
const parts = computed(() => props.colour.split("/"));
</script>

<template>
  <span class="inline-flex items-center gap-1.5">
    <svg width="26" height="10" aria-hidden="true">
      <rect x="0.5" y="0.5" width="25" height="9" rx="2" :fill="SHOWN[parts[0]!]" stroke="var(--ink)" />
      <rect v-if="parts[1]" x="1" y="4" width="24" height="2.6" :fill="SHOWN[parts[1]]" />
    </svg>
    <span class="num text-[0.82rem]">{{ colour }}</span>
  </span>
</template>
