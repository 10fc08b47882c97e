<script setup lang="ts">
// Compression day by day: the newest counts, the one before shows what a rebuild did.
import { IconPlus } from "@tabler/icons-vue";
import { computed, ref, watch } from "vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import Field from "@/parts/Field.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";

const store = useBuild();
const rows = computed(() => store.build!.engine.compression ?? []);
const NONE = "";
const days = computed(() => [...new Set(rows.value.map((r) => r.when ?? NONE))].sort().reverse());
const fresh = ref<string | null>(null);
const day = ref<string>(days.value[0] ?? NONE);
watch(days, (now) => {
  if (now.includes(fresh.value ?? " ")) fresh.value = null;
  if (!now.includes(day.value) && day.value !== fresh.value) day.value = now[0] ?? NONE;
});
const today = () => new Date().toISOString().slice(0, 10);
const options = computed(() => {
  const all = fresh.value !== null && !days.value.includes(fresh.value) ? [fresh.value, ...days.value] : days.value;
  return (all.length ? all : [NONE]).map((d) => ({ key: d, word: d || "no day noted" }));
});
const here = computed(() => rows.value.flatMap((r, i) => ((r.when ?? NONE) === day.value ? [i] : [])));
const nextCylinder = computed(() => {
  const read = new Set(here.value.map((i) => rows.value[i]!.cylinder));
  return Array.from({ length: store.build!.engine.cylinders }, (_, i) => i + 1).find((c) => !read.has(c)) ?? 1;
});
const leaky = computed(() =>
  here.value.filter((i) => (store.si(`/engine/compression/${i}/leak_down`) ?? 0) > (store.plan?.stages.engine.leaks_above ?? 1)),
);
function another(): void {
  fresh.value = day.value = today();
}
</script>

<template>
  <FieldGroup
    group="compression"
    at="/engine/compression"
    measurable
    note="Warm engine, all plugs out, throttle held open. Coil and injectors unplugged; keep clear of belts and fan."
  >
    <div class="col-span-2 flex flex-wrap items-end gap-x-2">
      <ChoiceBar v-if="options.length > 1" v-model="day" :options="options" label="Day of the readings" />
      <button
        v-if="rows.length && !days.includes(today()) && fresh === null"
        type="button"
        class="btn btn-small btn-plain no-print"
        :disabled="store.readOnly"
        @click="another"
      >
        <IconPlus :size="15" aria-hidden="true" />Read again today
      </button>
    </div>
    <TableField
      class="col-span-2"
      at="/engine/compression"
      noun="reading"
      :columns="['cylinder', 'dry', 'wet', 'leak_down']"
      widths="3.6rem 1fr 1fr 1fr"
      :only="here"
      :fresh="{ cylinder: nextCylinder, ...(day || !rows.length ? { when: day || today() } : {}) }"
    />
  </FieldGroup>
  <FieldGroup
    v-if="leaky.length"
    group="escapes"
    at="/engine/compression"
    note="Cylinder at top dead centre, both valves shut, no spanner on the crank; listen."
  >
    <Field v-for="i in leaky" :key="i" :at="`/engine/compression/${i}/escapes`" :label="`Cylinder ${rows[i]!.cylinder}`" />
  </FieldGroup>
</template>
