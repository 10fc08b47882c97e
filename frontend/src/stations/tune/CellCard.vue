<script setup lang="ts">
// What the chosen cell does in the car, what the worked engine says of it, and what it held before.
import { computed } from "vue";
import type { CycleDepth, Table } from "@/api/types";
import CellTrace from "./CellTrace.vue";
import { useCell } from "./useCell";
import type { Chosen } from "./useCells";

const props = defineProps<{ table: Table; chosen: Chosen; depth?: CycleDepth | null; brief?: boolean }>();
const { data } = useCell(props);
const told = computed(() => data.value?.told ?? null);
/** The cell of the worked engine at the same place, where it has the same axes. */
const worked = computed(() => {
  const g = props.depth?.grid;
  if (!g || !props.table.y_label) return null;
  const [i, j] = [g.load.indexOf(props.table.y[props.chosen.toRow]!), g.rpm.indexOf(props.table.x[props.chosen.toColumn]!)];
  return i < 0 || j < 0 ? null : { i, j };
});
/** Spark beyond what anybody types in is told as such. */
const REACH = 50; // deg
const reach = (degrees: number) => (degrees > REACH ? `over ${REACH}°` : `${degrees}°`);
const RULES: Record<string, string> = {
  b: "two degrees before the best spark",
  k: "three degrees before the spark that knocks",
  i: "kept back, so that it can hold its idle",
  h: "held from the next cell above that runs",
};
const ruled = computed(() => RULES[props.table.ruled?.[props.chosen.toRow]?.[props.chosen.toColumn] ?? ""] ?? "");
const rows = computed(() => {
  const t = told.value;
  if (!t) return [];
  const w = worked.value;
  const g = props.depth?.grid;
  const knock = w && g ? g.knock_deg[w.i]![w.j] : undefined;
  return [
    ["Air, each time", `${t.air_mg} mg`, `filled to ${Math.round(t.ve * 100)} % at ${Math.round(t.kpa)} kPa`],
    ["Fuel, each time", `${t.fuel_mg} mg`, `lambda ${t.lamda}`],
    ["Injectors open", `${t.open_ms} ms`, `${Math.round(t.duty * 100)} % of the time, ${t.left_ms} ms left`],
    ...(t.advance_deg == null ? [] : [["Spark", `${t.advance_deg}° before top`, ruled.value]]),
    ...(w && g
      ? [
          [
            "Worked engine",
            `best ${reach(g.best_deg[w.i]![w.j]!)}`,
            `${knock == null ? "does not knock" : `knocks from ${reach(knock)}`}, ${Math.round(g.residual[w.i]![w.j]! * 100)} % of the last burn left`,
          ],
        ]
      : []),
  ];
});
</script>

<template>
  <section class="mt-2" aria-label="The chosen cell" aria-live="polite">
    <p v-if="told">
      <b>{{ told.says }}</b><span v-if="brief">
        {{ " " }}{{ told.fuel_mg }} mg of fuel each time, injectors open {{ told.open_ms }} ms, {{ Math.round(told.duty * 100) }} % of the
        time.</span
      >
    </p>
    <div v-if="!brief" class="grid grid-cols-1 gap-x-6 md:grid-cols-2">
      <div>
        <table v-if="rows.length" class="mt-1 w-full text-[0.9rem]">
          <tbody>
            <tr v-for="(r, k) in rows" :key="k" class="border-t border-hair">
              <th scope="row" class="py-1 pr-2 text-left font-normal text-soft">{{ r[0] }}</th>
              <td class="num py-1 pr-2 font-semibold whitespace-nowrap">{{ r[1] }}</td>
              <td class="py-1">{{ r[2] }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div>
        <CellTrace v-if="worked && depth" :depth="depth" :row="worked.i" :column="worked.j" />
      </div>
    </div>
  </section>
</template>
