<script setup lang="ts">
// The whole engine on one day and the next: what a rebuild or a tune changed shows by the dates.
import { computed, defineAsyncComponent } from "vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import EntryList, { type Entry } from "@/parts/EntryList.vue";
import { useBuild } from "@/stores/build";

const PhotoStrip = defineAsyncComponent(() => import("@/parts/PhotoStrip.vue"));
const store = useBuild();
const days = computed(() => store.build!.engine.health ?? []);
const entries = computed<Entry[]>(() =>
  days.value.map((d, i) => ({
    token: i,
    title: d.when,
    note: [
      d.vacuum,
      d.oil_pressure,
      d.smoke && d.smoke !== "none" ? `${d.smoke} smoke` : "",
      d.uses_oil ? "uses oil" : "",
      d.loses_coolant ? "loses coolant" : "",
    ]
      .filter(Boolean)
      .join(", "),
    out: "Strike this day",
    open: days.value.length === 1,
  })),
);
const FIELDS = ["when", "vacuum", "oil_pressure", "smoke", "uses_oil", "loses_coolant"];
const today = () => new Date().toISOString().slice(0, 10);
</script>

<template>
  <FieldGroup group="health" at="/engine/health" note="Warm, idling, outdoors or with a hose on the pipe; keep clear of belts and fan.">
    <EntryList
      at="/engine/health"
      :entries="entries"
      :fields="FIELDS"
      noun="a day"
      @add="store.edit([{ op: 'add', path: '/engine/health/-', value: { when: today() } }])"
      @out="(i) => store.edit([{ op: 'remove', path: `/engine/health/${i}` }])"
    >
      <template #after="{ i }"><PhotoStrip :at="`/engine/health/${i}/photos`" :of="`the engine on ${days[i]!.when}`" /></template>
    </EntryList>
  </FieldGroup>
</template>
