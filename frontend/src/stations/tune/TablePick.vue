<script setup lang="ts">
// Which table is looked at: grids first, then the curves.
import { computed } from "vue";
import type { Table } from "@/api/types";

const props = defineProps<{ tables: Table[] }>();
const chosen = defineModel<string>({ required: true });
const grids = computed(() => props.tables.filter((t) => t.y_label));
const curves = computed(() => props.tables.filter((t) => !t.y_label));
</script>

<template>
  <label class="block text-[0.86rem] text-soft"
    >Table
    <select v-model="chosen" aria-label="Table" class="border border-line bg-sheet mt-1 block h-11 w-full px-2 text-[1rem] text-ink">
      <optgroup label="Over speed and load">
        <option v-for="t in grids" :key="t.key" :value="t.key">{{ t.title }}</option>
      </optgroup>
      <optgroup label="Curves">
        <option v-for="t in curves" :key="t.key" :value="t.key">{{ t.title }}</option>
      </optgroup>
    </select>
  </label>
</template>
