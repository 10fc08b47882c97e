<script setup lang="ts">
// What lies in the box: every injector that could be fitted, one by one or as a list.
import { computed } from "vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import CsvBox from "@/parts/CsvBox.vue";
import EntryList, { type Entry } from "@/parts/EntryList.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";
import { inPencil } from "@/stores/pointer";

const store = useBuild();
const box = computed(() => store.build!.injectors.box ?? []);
const entries = computed<Entry[]>(() =>
  box.value.map((c, i) => ({ token: i, title: c.name, note: `${c.pieces ?? 1} × ${c.flow}`, out: `Take ${c.name} out of the box` })),
);
const FIELDS = ["name", "flow", "rated_at", "fluid", "resistance", "pieces", "connector", "price"];
const fresh = () => ({ name: `injector ${box.value.length + 1}`, pieces: 1, flow: "150 g/min", rated_at: "300 kPa", resistance: "14 ohm" });
</script>

<template>
  <FieldGroup
    group="box"
    at="/injectors/box"
    note="Own, second-hand, new: what could be fitted. They are held against this engine on the right."
  >
    <EntryList
      at="/injectors/box"
      :entries="entries"
      :fields="FIELDS"
      noun="an injector"
      @add="store.edit(inPencil('/injectors/box', box.length, fresh()))"
      @out="(i) => store.edit([{ op: 'remove', path: `/injectors/box/${i}` }])"
    >
      <template #after="{ i }">
        <TableField
          class="col-span-2"
          :at="`/injectors/box/${i}/dead_time`"
          noun="dead time"
          :columns="['voltage', 'time']"
          :fresh="{ voltage: `${8 + 2 * (box[i]?.dead_time?.length ?? 0)} V` }"
        />
      </template>
      <template #under>
        <details>
          <summary class="min-h-9 cursor-pointer py-1">A whole list at once</summary>
          <CsvBox
            at="/injectors/box"
            kind="injector-box"
            label="With a heading: name, pieces, flow, rated at, resistance, and fluid, connector, price if known"
            example="name,pieces,flow (cc/min),rated at (bar),resistance"
            append
            out
          />
        </details>
      </template>
    </EntryList>
  </FieldGroup>
</template>
