<script setup lang="ts">
// What the engine itself asks for in each cell, worked from its measures; hatched where that is not sure.
import { computed, ref } from "vue";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import type { Table } from "@/api/types";
import WorkedOut from "@/parts/WorkedOut.vue";
import { useAsked } from "@/stores/useAsked";
import TableGrid from "./TableGrid.vue";

const here = ref<HTMLElement | null>(null);
const asked = useAsked("cycle", here);
const { found } = asked;
const chosen = ref<"filling" | "advance" | "residual">("filling");
const WHAT: { key: "filling" | "advance" | "residual"; word: string }[] = [
  { key: "filling", word: "Volumetric efficiency" },
  { key: "advance", word: "Ignition advance" },
  { key: "residual", word: "Residual gas" },
];
const table = computed<Table | null>(() => {
  const g = found.value?.grid;
  if (!g) return null;
  const percent = (rows: number[][]) => rows.map((r) => r.map((v) => +(v * 100).toFixed(1)));
  const of = {
    filling: { title: "Volumetric efficiency, worked", unit: "%", rows: percent(g.filling) },
    advance: { title: "Ignition advance, worked", unit: "deg before top", rows: g.advance_deg },
    residual: { title: "Residual gas in the charge", unit: "%", rows: percent(g.residual) },
  }[chosen.value];
  return { key: `worked_${chosen.value}`, ...of, x_label: "rpm", x: g.rpm, y_label: "manifold pressure, kPa", y: g.kpa, doubt: "" };
});
const doubt = computed(() => (chosen.value === "residual" ? undefined : found.value?.grid.doubt));
const knocks = computed(() => found.value?.grid.ruled_by.flat().filter((r) => r === "knock").length ?? 0);
</script>

<template>
  <section ref="here" class="min-h-64" aria-label="Worked from the engine">
    <WorkedOut what="The engine" :asked="asked" />
    <template v-if="table && found">
      <ChoiceBar v-model="chosen" :options="WHAT" label="Which table" />
      <TableGrid :table="table" :doubt="doubt" />
      <p class="text-[0.85rem] text-soft">
        <template v-if="chosen === 'advance'"
          >Two degrees before the best spark, three before the one that knocks; {{ knocks }} cells are ruled by knock. Listen for it all the
          same.</template
        ><template v-else-if="chosen === 'filling'">Hatched where it may be off: the wider the hatching, the less it is known.</template
        ><template v-else>What stays of the last burn: where it is high the engine burns slowly and hunts.</template>
      </p>
    </template>
  </section>
</template>
