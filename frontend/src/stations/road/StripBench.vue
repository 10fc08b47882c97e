<script setup lang="ts">
// What happened when: the strip of the log, its cursor in the cell of the table where the engine stood.
import { computed, ref } from "vue";
import { useRoute } from "vue-router";
import NeedsLog from "./NeedsLog.vue";
import RoadGrid, { type GridCell } from "./RoadGrid.vue";
import StripView from "./StripView.vue";
import { percent, useRoad } from "./useRoad";

const road = useRoad();
const route = useRoute();
const place = ref<{ rpm: number; load: number; t: number } | null>(null);
const start = computed(() => (typeof route.query.at === "string" ? +route.query.at : undefined));
const nearest = (axis: number[], v: number) => axis.reduce((best, a, k) => (Math.abs(a - v) < Math.abs(axis[best]! - v) ? k : best), 0);
const at = computed(() => {
  const w = road.said.value?.where;
  return w && place.value ? { row: nearest(w.y, place.value.load), column: nearest(w.x, place.value.rpm) } : null;
});
const cells = computed<GridCell[][]>(() => {
  const w = road.said.value?.where;
  if (!w) return [];
  return w.y.map((_, i) =>
    w.x.map((__, j) => {
      const off = w.off[i]![j];
      const seconds = w.seconds[i]![j]!;
      return {
        text: off == null || seconds < 0.5 ? "" : `${off > 0 ? "+" : "−"}${Math.abs(off * 100).toFixed(0)}`,
        size: off == null || seconds < 0.3 ? 0 : 1,
        fill: (off ?? 0) > 0 ? "var(--spark)" : "var(--info)",
        strength: Math.min(Math.abs(off ?? 0) / 0.08, 1) * 0.8,
        words: `${Math.round(w.x[j]!)} rpm, ${Math.round(w.y[i]!)}: ${seconds.toFixed(1)} s${off == null ? "" : `, ${percent(Math.abs(off))} too ${off > 0 ? "lean" : "rich"}`}.`,
      };
    }),
  );
});
const told = computed(() => {
  const w = road.said.value;
  if (!w || !at.value) return "Move over the strip: the cell in which the engine stood is marked, with what is known there.";
  const { row, column } = at.value;
  const off = w.where.off[row]![column];
  const c = w.correction?.cells[row * w.where.x.length + column];
  return `At ${place.value!.t.toFixed(1)} s in cell ${Math.round(w.where.x[column]!)} rpm, ${Math.round(w.where.y[row]!)}: ${off == null ? "never still there" : `${percent(Math.abs(off))} too ${off > 0 ? "lean" : "rich"} in all`}${c?.off == null ? "" : `, of which the cell ${percent(c.off)}`}.`;
});
const causes = computed(() => road.said.value?.split?.causes.filter((c) => c.named).map((c) => c.name.toLowerCase()) ?? []);
</script>

<template>
  <NeedsLog v-slot="{ said }" :road="road">
    <StripView :road="road" :start="start" @place="place = $event" />
    <p class="mt-1 min-h-[1.4em] leading-snug" aria-live="off">
      {{ told }} {{ causes.length && at ? `The rest is ${causes.join(", ")}.` : "" }}
    </p>
    <details class="mt-1" open>
      <summary class="cursor-pointer py-1">The table under the cursor</summary>
      <RoadGrid
        title="Too lean (warm) or too rich (cool), per cent"
        words="The fuel table with what was off in each cell; the cell under the strip's cursor is marked."
        :x="said.where.x"
        :y="said.where.y"
        :y-label="said.where.y_label"
        :cells="cells"
        :at="at"
      />
    </details>
  </NeedsLog>
</template>
