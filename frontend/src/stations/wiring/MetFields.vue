<script setup lang="ts">
// The old car's wires that are met, ends left over, a bus pair, the circuits of a made loom.
import { computed } from "vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import EntryList, { type Entry } from "@/parts/EntryList.vue";
import OptionalPart from "@/parts/OptionalPart.vue";
import { choice } from "@/figures/format";
import { useBuild } from "@/stores/build";

const store = useBuild();
const wiring = computed(() => store.build!.wiring);
const met = computed(() => store.plan!.stages.wiring.met);
const KEYS = ["off", "accessory", "run", "crank"] as const;
const old = computed<Entry[]>(() =>
  (wiring.value.old ?? []).map((o, i) => ({
    token: i,
    title: choice(o.what),
    note: [o.label, choice(o.do ?? "not_decided")].filter(Boolean).join(", "),
    out: "Take it off the list",
    bad: o.do === "not_decided",
  })),
);
const loose = computed<Entry[]>(() =>
  (wiring.value.loose ?? []).map((o, i) => ({
    token: i,
    title: o.label,
    note: choice(o.end ?? "open"),
    out: "Take it off the list",
    bad: o.end === "open",
  })),
);
const add = (list: "old" | "loose", value: unknown) => store.edit([{ op: "add", path: `/wiring/${list}/-`, value }]);
const out = (list: "old" | "loose", i: string | number) => store.edit([{ op: "remove", path: `/wiring/${list}/${i}` }]);
</script>

<template>
  <FieldGroup group="old" note="Volts with a 21 W lamp at its end: a buzzer proves neither the key's position nor what it can carry.">
    <EntryList
      at="/wiring/old"
      :entries="old"
      :fields="['what', 'label', 'do', 'done', 'ohms']"
      noun="old wire"
      @add="add('old', { what: 'not_known' })"
      @out="(i) => out('old', i)"
    >
      <template #after="{ i }">
        <fieldset class="col-span-2 grid grid-cols-4 gap-2">
          <legend class="mb-1 text-[0.88rem]">Volts, a 21 W lamp on it, key at</legend>
          <Field v-for="k in KEYS" :key="k" :at="`/wiring/old/${i}/volts/${k}`" :label="k" hint="–" />
        </fieldset>
        <p class="col-span-2 text-[0.9rem]" role="status">It is {{ met[i]?.says }}.</p>
      </template>
    </EntryList>
  </FieldGroup>
  <FieldGroup group="loose" note="Capped, labelled, tied back; not cut.">
    <EntryList
      at="/wiring/loose"
      :entries="loose"
      :fields="['label', 'end', 'live']"
      noun="loose end"
      @add="add('loose', { label: 'An end' })"
      @out="(i) => out('loose', i)"
    />
  </FieldGroup>
  <FieldGroup group="bus" note="Key off, ohmmeter between its two wires.">
    <OptionalPart at="/wiring/bus" add="There is a bus pair" :fresh="{ terminators: 2 }" out="None">
      <Field at="/wiring/bus/terminators" /><Field at="/wiring/bus/twisted" /><Field at="/wiring/bus/ohms" />
    </OptionalPart>
  </FieldGroup>
</template>
