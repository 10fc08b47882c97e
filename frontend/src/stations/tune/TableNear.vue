<script setup lang="ts">
// On a telephone: the cells round the chosen one, large enough to read and to press. A press moves there.
import { computed } from "vue";
import type { Table } from "@/api/types";

const props = defineProps<{ table: Table; row: number; column: number; told: (v: number) => string }>();
const emit = defineEmits<{ move: [row: number, column: number] }>();
const ROUND = 5;
/** The numbers of `ROUND` neighbours, pushed in where the table ends. */
const near = (at: number, count: number) => {
  const from = Math.max(0, Math.min(at - Math.floor(ROUND / 2), count - ROUND));
  return Array.from({ length: Math.min(ROUND, count) }, (_, i) => from + i);
};
const rows = computed(() => near(props.row, props.table.rows.length).reverse());
const columns = computed(() => near(props.column, props.table.x.length));
</script>

<template>
  <div class="mt-2 grid grid-cols-2 gap-2 text-[0.86rem] text-soft">
    <label class="block"
      >{{ table.x_label }}
      <select
        class="num mt-0.5 block h-11 w-full border border-line bg-sheet px-2 text-[1rem] text-ink"
        :value="column"
        :aria-label="table.x_label"
        @change="emit('move', row, +($event.target as HTMLSelectElement).value)"
      >
        <option v-for="(v, j) in table.x" :key="v" :value="j">{{ v }}</option>
      </select></label
    >
    <label class="block"
      >{{ table.y_label }}
      <select
        class="num mt-0.5 block h-11 w-full border border-line bg-sheet px-2 text-[1rem] text-ink"
        :value="row"
        :aria-label="table.y_label ?? undefined"
        @change="emit('move', +($event.target as HTMLSelectElement).value, column)"
      >
        <option v-for="(v, i) in table.y" :key="v" :value="i">{{ v }}</option>
      </select></label
    >
  </div>
  <table class="mt-2 w-full table-fixed text-center" :aria-label="`${table.title}, round the cell that is chosen`">
    <thead class="text-[0.8rem] text-soft">
      <tr>
        <td class="w-12 text-left leading-none">{{ table.unit }}</td>
        <th v-for="j in columns" :key="j" scope="col" class="num font-normal">{{ table.x[j] }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="i in rows" :key="i">
        <th scope="row" class="num text-left text-[0.8rem] font-normal text-soft">{{ table.y[i] }}</th>
        <td v-for="j in columns" :key="j" class="border border-hair p-0" :class="{ 'outline-2 outline-spark': i === row && j === column }">
          <button
            type="button"
            class="num h-11 w-full text-[1rem]"
            :class="{ 'font-bold': i === row && j === column }"
            :aria-current="(i === row && j === column) || undefined"
            :aria-label="`${told(table.rows[i]![j]!)} at ${table.y[i]} and ${table.x[j]}`"
            @click="emit('move', i, j)"
          >
            {{ told(table.rows[i]![j]!) }}
          </button>
        </td>
      </tr>
    </tbody>
  </table>
  <p class="mt-1 text-[0.82rem] text-soft">
    {{ table.x_label }} across, {{ table.y_label }} up. A cell that is pressed moves to the middle.
  </p>
</template>
