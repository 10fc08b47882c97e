<script setup lang="ts">
// What the engine itself asks for in each cell, worked from its measures; hatched where that is not sure. From here it is kept.
import { computed, defineAsyncComponent, ref } from "vue";
import type { Table } from "@/api/types";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import WorkedOut from "@/parts/WorkedOut.vue";
import { useBuild } from "@/stores/build";
import { useAsked } from "@/stores/useAsked";
import CellCard from "./CellCard.vue";
import TableGrid from "./TableGrid.vue";
import { useCells } from "./useCells";

const KeepBox = defineAsyncComponent(() => import("./KeepBox.vue"));
const Sharpens = defineAsyncComponent(() => import("@/stations/engine/SharpensTable.vue"));
const store = useBuild();
const here = ref<HTMLElement | null>(null);
const asked = useAsked("cycle", here);
const { found, stale } = asked;
const chosen = ref<"ve" | "advance" | "residual">("ve");
const first = computed(() => (found.value?.grid.by === "throttle" ? "Fuel by throttle" : "Volumetric efficiency"));
const what = computed(() => [
  { key: "ve" as const, word: first.value },
  { key: "advance" as const, word: "Ignition advance" },
  { key: "residual" as const, word: "Residual gas" },
]);
const table = computed<Table | null>(() => {
  const g = found.value?.grid;
  if (!g) return null;
  const of = {
    ve: { title: `${first.value}, worked`, unit: "%", rows: g.typed, ruled: [] },
    advance: { title: "Ignition advance, worked", unit: "deg before top", rows: g.advance_deg, ruled: g.ruled },
    residual: {
      title: "Residual gas in the charge",
      unit: "%",
      rows: g.residual.map((r) => r.map((v) => +(v * 100).toFixed(1))),
      ruled: [],
    },
  }[chosen.value];
  const y_label = g.by === "throttle" ? "throttle, %" : "manifold pressure, kPa";
  return { key: chosen.value, ...of, x_label: "rpm", x: g.rpm, y_label, y: g.load, doubt: "", ink: [], doubts: [], hidden: "" };
});
const cells = useCells(() => table.value ?? { ...store.stages.tune!.tables[0]! }, false);
const doubt = computed(() => (chosen.value === "residual" ? undefined : found.value?.grid.doubt));
const knocks = computed(() => [...(found.value?.grid.ruled.join("") ?? "")].filter((r) => r === "k").length);
</script>

<template>
  <section ref="here" class="min-h-64" aria-label="Worked from the engine">
    <WorkedOut what="The engine" :asked="asked" />
    <template v-if="table && found">
      <div class="flex flex-wrap items-end justify-between gap-x-6">
        <ChoiceBar v-model="chosen" :options="what" label="Which table" />
        <KeepBox source="worked" word="Make the kept tune of this" :ready="!stale" />
      </div>
      <TableGrid :table="table" :doubt="doubt" :cells="cells" :marks="store.stages.tune!.landmarks" />
      <p class="text-[0.85rem] text-soft">
        <template v-if="chosen === 'advance'"
          >Two degrees before the best spark, three before the one that knocks{{
            store.build?.tune?.step === "later" ? "" : ", and four more for day one"
          }}; {{ knocks }} cells are ruled by knock. Listen for it all the same.</template
        ><template v-else-if="chosen === 've'">Hatched where it may be off: the wider the hatching, the less it is known.</template
        ><template v-else>What stays of the last burn: where it is high the engine burns slowly and hunts.</template>
      </p>
      <CellCard v-if="chosen !== 'residual'" :table="table" :chosen="cells.chosen.value" :depth="found" />
      <Sharpens :found="found" />
    </template>
  </section>
</template>
