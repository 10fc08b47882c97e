<script setup lang="ts">
// A usual firing order in small: its cylinders as they are then numbered.
import type { components } from "@/api/schema";
import CylinderRows from "./CylinderRows.vue";

defineProps<{ usual: components["schemas"]["FiringOrder"] }>();
</script>

<template>
  <svg :viewBox="`0 0 190 ${usual.banks ? 76 : 42}`" class="w-full" aria-hidden="true">
    <CylinderRows
      :width="190"
      :arrangement="usual.arrangement"
      :cylinders="usual.order.length"
      :order="usual.order"
      :banks="usual.banks"
      :apart="38"
    />
  </svg>
</template>
