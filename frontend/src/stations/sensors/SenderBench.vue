<script setup lang="ts">
// A resistive sender on the bench: where it sits, its points, its pull-up, and who else reads it.
import { IconPlus } from "@tabler/icons-vue";
import { computed } from "vue";
import BenchGroup from "@/parts/BenchGroup.vue";
import CsvBox from "@/parts/CsvBox.vue";
import Field from "@/parts/Field.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";

const props = defineProps<{ title: string; at: string; kind: "coolant" | "air"; first: string[] }>();
const store = useBuild();
const given = computed(() => store.at(props.at) as { shared?: unknown } | undefined);
const FRESH = {
  points: [
    { temperature: "0 degC", resistance: "5900 ohm" },
    { temperature: "20 degC", resistance: "2450 ohm" },
    { temperature: "100 degC", resistance: "186 ohm" },
  ],
  pull_up: "2490 ohm",
};
const READER = { name: "temperature gauge", pull_up: "120 ohm" };
</script>

<template>
  <BenchGroup
    :title="title"
    :at="at"
    measurable
    note="Iced water, room, kettle: ohms at each with the sender unplugged. Hot water scalds; open the cooling system only when cold."
  >
    <template v-if="given">
      <Field v-for="k in first" :key="k" :at="`${at}/${k}`" />
      <div class="col-span-2">
        <TableField
          :at="`${at}/points`"
          noun="point"
          :columns="['temperature', 'resistance']"
          :fresh="{ temperature: '50 degC', resistance: '800 ohm' }"
        />
        <details>
          <summary class="min-h-9 cursor-pointer py-1">All points at once</summary>
          <CsvBox :at="`${at}/points`" :kind="kind" label="Temperature and ohms, a line each" example="20 degC; 2450 ohm" out />
        </details>
      </div>
      <Field v-for="k in ['pull_up', 'falls', 'coldest', 'hottest']" :key="k" :at="`${at}/${k}`" />
      <template v-if="given.shared">
        <Field v-for="k in ['name', 'pull_up', 'supply']" :key="`s${k}`" :at="`${at}/shared/${k}`" />
        <button
          type="button"
          class="btn btn-small btn-plain self-end underline"
          :disabled="store.readOnly"
          @click="store.set(`${at}/shared`, undefined)"
        >
          Nobody else reads it
        </button>
      </template>
      <button
        v-else
        :id="`f${at}/shared`"
        type="button"
        class="btn btn-small justify-self-start"
        :disabled="store.readOnly"
        @click="store.set(`${at}/shared`, READER)"
      >
        <IconPlus :size="15" aria-hidden="true" />Somebody else reads it
      </button>
    </template>
    <button v-else type="button" class="btn btn-small justify-self-start" :disabled="store.readOnly" @click="store.set(at, FRESH)">
      <IconPlus :size="15" aria-hidden="true" />Enter its points
    </button>
  </BenchGroup>
</template>
