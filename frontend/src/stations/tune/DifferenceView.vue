<script setup lang="ts">
// Two tunes, table by table: how many cells differ and by how much; the one that is pressed cell by cell.
import { useQuery } from "@pinia/colada";
import { computed, ref } from "vue";
import { tuneApi } from "./asks";
import type { Table } from "@/api/types";
import { useBuild } from "@/stores/build";
import TableGrid from "./TableGrid.vue";

const props = defineProps<{ before: string; after: string }>();
const store = useBuild();
const { data, error } = useQuery({
  key: () => ["compare", store.id, store.revision, props.before, props.after],
  query: () => tuneApi.compare(store.id, { before: props.before, after: props.after, revision: store.revision }),
});
const looked = ref("");
const differing = computed(() => (data.value?.tables ?? []).filter((t) => t.changed || t.only));
const shown = computed(
  () => differing.value.find((t) => t.key === looked.value && !t.only) ?? differing.value.find((t) => !t.only && t.y_label),
);
const apart = (b: number, a: number) => +(b - a).toPrecision(6);
const table = computed<Table | null>(() => {
  const d = shown.value;
  if (!d) return null;
  const rows = d.after.map((row, i) => row.map((v, j) => +apart(v, d.before[i]![j]!).toFixed(3)));
  const { key, title, unit, x_label, x, y_label, y } = d;
  return {
    key: `difference_${key}`,
    title: `${title}, after less before`,
    unit,
    x_label,
    x,
    y_label: y_label ?? null,
    y,
    rows,
    doubt: "",
    ink: [],
    doubts: [],
    ruled: [],
    hidden: "",
  };
});
</script>

<template>
  <section class="mt-3" aria-label="Difference">
    <p v-if="error" role="alert" class="border-l-4 border-spark bg-wash px-3 py-2">{{ error.message }}</p>
    <p v-else-if="data && !differing.length" class="text-soft">No cell differs between {{ data.before }} and {{ data.after }}.</p>
    <template v-else-if="data">
      <div class="flex flex-wrap gap-2" role="group" aria-label="Tables that differ">
        <button
          v-for="t in differing"
          :key="t.key"
          type="button"
          class="btn btn-small"
          :class="{ 'btn-main': shown?.key === t.key }"
          :aria-pressed="shown?.key === t.key"
          :disabled="!!t.only"
          @click="looked = t.key"
        >
          {{ t.title.split(",")[0] }}:
          {{
            t.only
              ? `only in ${t.only === "before" ? data.before : data.after}`
              : `${t.changed} cells, to ${t.most > 0 ? "+" : ""}${t.most}`
          }}
        </button>
      </div>
      <TableGrid v-if="table && table.y_label" :table="table" spread />
      <table v-else-if="shown" class="mt-3 w-full table-fixed text-center text-[0.95rem]">
        <caption class="text-left font-semibold">
          {{
            shown.title
          }},
          {{
            shown.unit
          }}
        </caption>
        <tbody>
          <tr class="text-[0.82rem] text-soft">
            <th scope="row" class="w-20 text-left font-normal">{{ shown.x_label.split(",")[0] }}</th>
            <th v-for="v in shown.x" :key="v" scope="col" class="num font-normal">{{ v }}</th>
          </tr>
          <tr v-for="k in ['before', 'after'] as const" :key="k" class="border-t border-hair">
            <th scope="row" class="text-left font-normal">{{ k }}</th>
            <td
              v-for="(v, j) in shown[k][0]"
              :key="j"
              class="num py-1"
              :class="{ 'font-bold': shown.before[0]![j] !== shown.after[0]![j] }"
            >
              {{ v }}
            </td>
          </tr>
        </tbody>
      </table>
      <p class="mt-1 text-[0.85rem] text-soft">{{ data.after }} less {{ data.before }}, in the table's own unit.</p>
    </template>
  </section>
</template>
