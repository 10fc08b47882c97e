<script setup lang="ts">
// The axes of a kept table, written anew: its cells are read off the old ones.
import { ref, watch } from "vue";
import type { CellsAct, Table } from "@/api/types";
import { useBuild } from "@/stores/build";

const props = defineProps<{ table: Table }>();
const store = useBuild();
const x = ref("");
const y = ref("");
watch(
  () => `${props.table.key} ${props.table.x.join()} ${props.table.y.join()}`,
  () => ([x.value, y.value] = [props.table.x.join("  "), props.table.y.join("  ")]),
  { immediate: true },
);
function write(which: "x" | "y"): void {
  const act: CellsAct = { do: which === "x" ? "axis_x" : "axis_y", typed: which === "x" ? x.value : y.value };
  void store.edit([{ op: "replace", path: `/tune/kept/tables/${props.table.key}`, cells: act }]);
}
</script>

<template>
  <details class="text-[0.9rem]">
    <summary class="cursor-pointer py-2">Axes</summary>
    <label class="block text-[0.86rem] text-soft"
      >{{ table.x_label }}
      <textarea
        v-model="x"
        rows="3"
        class="border border-line bg-sheet num mt-1 block w-full p-2 text-ink"
        maxlength="600"
        :disabled="store.readOnly"
      ></textarea>
    </label>
    <button type="button" class="btn btn-small mt-1" :disabled="store.readOnly" @click="write('x')">On these</button>
    <template v-if="table.y_label">
      <label class="mt-2 block text-[0.86rem] text-soft"
        >{{ table.y_label }}
        <textarea
          v-model="y"
          rows="2"
          class="border border-line bg-sheet num mt-1 block w-full p-2 text-ink"
          maxlength="600"
          :disabled="store.readOnly"
        ></textarea>
      </label>
      <button type="button" class="btn btn-small mt-1" :disabled="store.readOnly" @click="write('y')">On these</button>
    </template>
  </details>
</template>
