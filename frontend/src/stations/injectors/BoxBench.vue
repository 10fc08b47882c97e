<script setup lang="ts">
// What lies in the box: every injector that could be fitted, one by one or as a list.
import { IconPlus } from "@tabler/icons-vue";
import { computed } from "vue";
import BenchGroup from "@/parts/BenchGroup.vue";
import CsvBox from "@/parts/CsvBox.vue";
import Field from "@/parts/Field.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";

const store = useBuild();
const box = computed(() => store.build!.injectors.box ?? []);
const FIELDS = ["flow", "rated_at", "fluid", "resistance", "pieces", "connector", "price"];
const add = () =>
  store.edit([
    {
      op: "add",
      path: "/injectors/box/-",
      value: { name: `injector ${box.value.length + 1}`, pieces: 1, flow: "150 g/min", rated_at: "300 kPa", resistance: "14 ohm" },
    },
  ]);
</script>

<template>
  <BenchGroup
    title="In the box"
    at="/injectors/box"
    note="Own, second-hand, new: what could be fitted. They are held against this engine on the right."
  >
    <div id="f/injectors/box" tabindex="-1" class="col-span-2">
      <details v-for="(c, i) in box" :key="i" class="border-t border-hair">
        <summary class="flex min-h-11 cursor-pointer items-baseline justify-between gap-2 py-2">
          <b>{{ c.name }}</b><span class="num text-[0.86rem] text-soft">{{ c.pieces ?? 1 }} × {{ c.flow }}</span>
        </summary>
        <div class="grid grid-cols-2 gap-x-3 gap-y-2 pb-3">
          <Field class="col-span-2" :at="`/injectors/box/${i}/name`" />
          <Field v-for="k in FIELDS" :key="k" :at="`/injectors/box/${i}/${k}`" />
          <TableField
            class="col-span-2"
            :at="`/injectors/box/${i}/dead_time`"
            noun="dead time"
            :columns="['voltage', 'time']"
            :fresh="{ voltage: `${8 + 2 * (c.dead_time?.length ?? 0)} V`, time: '0.9 ms' }"
          />
          <button
            type="button"
            class="btn btn-small btn-plain col-span-2 justify-self-start underline"
            :disabled="store.readOnly"
            @click="store.edit([{ op: 'remove', path: `/injectors/box/${i}` }])"
          >
            Take {{ c.name }} out of the box
          </button>
        </div>
      </details>
      <button type="button" class="btn btn-small mt-1" :disabled="store.readOnly" @click="add">
        <IconPlus :size="15" aria-hidden="true" />Add an injector
      </button>
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
    </div>
  </BenchGroup>
</template>
