<script setup lang="ts">
// The flow bench log: one test a row, before or after cleaning.
import { computed } from "vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import CsvBox from "@/parts/CsvBox.vue";
import EntryList, { type Entry } from "@/parts/EntryList.vue";
import Field from "@/parts/Field.vue";
import PhotoStrip from "@/parts/PhotoStrip.vue";
import { useBuild } from "@/stores/build";

const store = useBuild();
const rows = computed(() => store.build!.injectors.bench ?? []);
const entries = computed<Entry[]>(() =>
  rows.value.map((r, i) => ({
    token: i,
    title: `${r.mark}${r.cleaned ? ", cleaned" : ""}`,
    note: `${r.volume ?? "nothing caught yet"}${r.volume && r.time ? ` in ${r.time}` : ""}${r.drops ? `, ${r.drops} drops` : ""}`,
    bad: !!r.drops,
    out: "Strike this test",
  })),
);
const FIELDS = ["mark", "cleaned", "volume", "time", "pressure", "drops", "spray", "resistance"];
/** The next test: as the last one was made, under the next mark. */
function fresh(): Record<string, unknown> {
  const last = rows.value.at(-1);
  const taken = rows.value.map((r) => r.mark);
  const mark = [..."ABCDEFGHJKLMNPQRSTUVWXYZ"].find((m) => !taken.includes(m)) ?? String(rows.value.length + 1);
  return {
    mark,
    cleaned: last?.cleaned ?? false,
    ...(last?.time ? { time: last.time } : {}),
    ...(last?.pressure ? { pressure: last.pressure } : {}),
  };
}
</script>

<template>
  <FieldGroup
    group="flow_bench"
    at="/injectors/bench"
    measurable
    note="Outdoors, no flame, eyes protected: fuel mist and solvent burn. Shut and under pressure it must not drip."
  >
    <Field at="/injectors/bench_fluid" /><Field at="/injectors/altered" />
    <EntryList
      at="/injectors/bench"
      :entries="entries"
      :fields="FIELDS"
      noun="a test"
      @add="store.edit([{ op: 'add', path: '/injectors/bench/-', value: fresh() }])"
      @out="(i) => store.edit([{ op: 'remove', path: `/injectors/bench/${i}` }])"
    >
      <template #after="{ i }"
        ><PhotoStrip :at="`/injectors/bench/${i}/photos`" :of="`the spray of ${rows[i]!.mark}${rows[i]!.cleaned ? ', cleaned' : ''}`"
      /></template>
      <template #under>
        <details>
          <summary class="min-h-9 cursor-pointer py-1">A whole log at once</summary>
          <CsvBox
            at="/injectors/bench"
            kind="flow-bench"
            label="With a heading: mark, volume, time, pressure, and cleaned, drops, resistance, spray if noted"
            example="mark,volume (mL),time (s),pressure (kPa),drops"
            out
          />
        </details>
      </template>
    </EntryList>
  </FieldGroup>
</template>
