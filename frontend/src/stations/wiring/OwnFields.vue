<script setup lang="ts">
// Circuits of one's own, and how joints are made.
import { computed } from "vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import EntryList, { type Entry } from "@/parts/EntryList.vue";
import { useBuild } from "@/stores/build";

const store = useBuild();
const own = computed<Record<string, { label: string; draws: unknown }>>(() => store.build!.wiring.own ?? {});
const entries = computed<Entry[]>(() =>
  Object.entries(own.value).map(([token, c]) => ({ token, title: c.label, note: String(c.draws), out: "Take it out" })),
);
function add(): void {
  let i = 1;
  while (`circuit_${i}` in own.value) i++;
  const path = `/wiring/own/circuit_${i}`;
  void store.edit([
    { op: "add", path, value: { label: `Circuit ${i}`, place: "dash", draws: "5 A" } },
    { op: "add", path: `/marks/${path.replaceAll("/", "~1")}`, value: { kind: "assumed" } },
  ]);
}
</script>

<template>
  <FieldGroup group="own" at="/wiring/own" note="Any device, fed out and back: lamps, a heated seat, a spare for the next owner.">
    <EntryList
      at="/wiring/own"
      :entries="entries"
      :fields="['label', 'place', 'draws', 'fed', 'ground', 'noise']"
      noun="circuit"
      @add="add"
      @out="(k) => store.set(`/wiring/own/${k}`, undefined)"
    />
  </FieldGroup>
  <FieldGroup group="joints" note="Crimp with the tool for that terminal, or solder under a sleeve with support. Then tug.">
    <Field class="col-span-2" at="/wiring/joint_method" />
  </FieldGroup>
</template>
