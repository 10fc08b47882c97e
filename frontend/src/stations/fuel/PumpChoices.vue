<script setup lang="ts">
// Other pumps that could be fitted: each by its own sheet, drawn beside the one that is and tried by the advice.
import { computed } from "vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import EntryList, { type Entry } from "@/parts/EntryList.vue";
import { useBuild } from "@/stores/build";
import { inPencil } from "@/stores/pointer";
import PumpTable from "./PumpTable.vue";

const store = useBuild();
const choices = computed(() => store.build!.fuel.candidates ?? []);
const entries = computed<Entry[]>(() =>
  choices.value.map((c, i) => ({
    token: i,
    title: c.name,
    note: c.price ?? "",
    out: `Put ${c.name} back`,
    open: choices.value.length === 1,
  })),
);
const row = (kpa: number, flow: number, amps: number) => ({
  voltage: "13.5 V",
  pressure: `${kpa} kPa`,
  flow: `${flow} L/h`,
  current: `${amps} A`,
});
const fresh = () => ({ name: `pump ${choices.value.length + 2}`, curve: [row(0, 200, 3), row(300, 150, 7)] });
</script>

<template>
  <FieldGroup
    group="candidates"
    at="/fuel/candidates"
    note="From their sheets. They stand on the chart with this car's own wire and lines."
  >
    <EntryList
      at="/fuel/candidates"
      :entries="entries"
      :fields="['name', 'price']"
      noun="a pump"
      @add="store.edit(inPencil('/fuel/candidates', choices.length, fresh()))"
      @out="(i) => store.edit([{ op: 'remove', path: `/fuel/candidates/${i}` }])"
    >
      <template #after="{ i }"><PumpTable class="col-span-2" :at="`/fuel/candidates/${i}/curve`" /></template>
    </EntryList>
  </FieldGroup>
</template>
