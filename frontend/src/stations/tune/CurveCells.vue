<script setup lang="ts">
// A curve with its cells under it, chosen like those of a grid.
import { computed } from "vue";
import type { Table } from "@/api/types";
import CurveSmall from "./CurveSmall.vue";
import type { UseCellsReturn } from "./useCells";

const props = defineProps<{ table: Table; cells: UseCellsReturn }>();
const ink = computed(() => new Set((props.table.ink ?? []).map(([, j]) => j)));
</script>

<template>
  <div
    tabindex="0"
    role="group"
    :aria-label="`${table.title}. Arrow keys move through the cells, with Shift a range.`"
    @keydown="cells.key($event)"
  >
    <CurveSmall :table="table" tall />
    <table class="mt-2 w-full table-fixed text-center text-[0.95rem]">
      <tbody>
        <tr class="text-[0.82rem] text-soft">
          <th v-for="v in table.x" :key="v" scope="col" class="num font-normal">{{ v }}</th>
        </tr>
        <tr>
          <td
            v-for="(v, j) in table.rows[0]"
            :key="j"
            class="num h-11 cursor-pointer border border-hair select-none"
            :class="{ 'outline-2 outline-spark': cells.inside(0, j), 'font-bold': ink.has(j) }"
            :data-cell="`0 ${j}`"
            @pointerdown="cells.press(0, j, $event.shiftKey)"
          >
            {{ v }}
          </td>
        </tr>
      </tbody>
    </table>
    <p class="mt-1 text-[0.82rem] text-soft">{{ table.unit === "1" ? "Times" : table.unit }} over {{ table.x_label }}.</p>
  </div>
</template>
