<script setup lang="ts">
// A list of rows, each with the same few values: a pump's table, fittings, readings.
import { IconPlus, IconX } from "@tabler/icons-vue";
import { computed } from "vue";
import { useBuild } from "@/stores/build";
import { get } from "@/stores/pointer";
import Field from "./Field.vue";

const props = defineProps<{
  at: string;
  columns: string[];
  /** What a new row holds before anybody typed: names and numbers of rows, no readings. */
  fresh?: Record<string, unknown>;
  noun: string;
  widths?: string;
  only?: number[];
}>();
const store = useBuild();
const rows = computed(() => (get(store.build, props.at) as unknown[] | undefined) ?? []);
/** The rows that show, by their number in the list. */
const shown = computed(() => props.only ?? rows.value.map((_, i) => i));
const problem = computed(() => store.problems[`${props.at}/-`] ?? store.problems[props.at]);
const headings = computed(() => props.columns.map((c) => store.info(`${props.at}/0/${c}`)?.title ?? c));
const grid = computed(() => ({ gridTemplateColumns: `${props.widths ?? `repeat(${props.columns.length}, minmax(0, 1fr))`} 2.75rem` }));

const add = () => store.edit([{ op: "add", path: `${props.at}/-`, value: props.fresh ?? {} }]);
</script>

<template>
  <div :id="`f${at}`" tabindex="-1" class="min-w-0">
    <div v-if="shown.length" class="grid items-end gap-1" :style="grid">
      <span v-for="h in headings" :key="h" class="text-[0.82rem] leading-tight text-soft">{{ h }}</span><span></span>
      <template v-for="i in shown" :key="i">
        <Field v-for="(c, j) in columns" :key="c" :at="`${at}/${i}/${c}`" bare :label="`${headings[j]}, ${noun} ${i + 1}`" />
        <button
          type="button"
          class="btn btn-plain !px-0"
          :disabled="store.readOnly"
          :aria-label="`Take out ${noun} ${i + 1}`"
          @click="store.edit([{ op: 'remove', path: `${at}/${i}` }])"
        >
          <IconX :size="16" aria-hidden="true" />
        </button>
      </template>
    </div>
    <p v-if="problem" class="text-[0.85rem] text-spark" role="alert">{{ problem }}</p>
    <button type="button" class="btn btn-small mt-1" :disabled="store.readOnly" @click="add">
      <IconPlus :size="15" aria-hidden="true" /> Add {{ noun }}
    </button>
  </div>
</template>
