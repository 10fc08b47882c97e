<script setup lang="ts">
// What the chosen cell held before, and who wrote it.
import type { Table } from "@/api/types";
import { useCell } from "./useCell";
import type { Chosen } from "./useCells";

const props = defineProps<{ table: Table; chosen: Chosen }>();
const { data } = useCell(props);
</script>

<template>
  <section v-if="data?.history.length" aria-label="What the cell held">
    <h2 class="text-[0.95rem]">What it held</h2>
    <ol class="text-[0.86rem]">
      <li v-for="h in data.history.slice(0, 4)" :key="h.number" class="border-t border-hair py-1">
        <b class="num">{{ h.value }}</b> from revision {{ h.number }}{{ h.who ? `, ${h.who}` : "" }}:
        <span class="text-soft">{{ h.summary }}</span>
      </li>
    </ol>
  </section>
</template>
