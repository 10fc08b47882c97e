<script setup lang="ts">
// What the control unit can be set to: asked before it is bought, what this build asks for first.
import { computed } from "vue";
import type { Stages } from "@/api/types";
import FieldGroup from "@/parts/FieldGroup.vue";
import { useBuild } from "@/stores/build";

const props = defineProps<{ rows: Stages["wiring"]["settings"] }>();
const store = useBuild();
const left = computed(() => props.rows.filter((r) => r.wanted && !r.can).length);
const note = computed(
  () => `Asked before it is bought. ${left.value ? `${left.value} that this build asks for ${left.value === 1 ? "is" : "are"} open.` : "All that this build asks for is said."}`,
); // prettier-ignore
const say = (row: (typeof props.rows)[number], word: "yes" | "no") =>
  store.set(`/wiring/unit/can_set/${row.key}`, row.can === word ? undefined : word);
</script>

<template>
  <FieldGroup group="settings" :note="note">
    <ul class="col-span-2 border-t border-line">
      <li
        v-for="row in rows"
        :id="`f/wiring/unit/can_set/${row.key}`"
        :key="row.key"
        tabindex="-1"
        class="flex items-center justify-between gap-3 border-b border-hair py-1"
        :class="{ 'text-soft': !row.wanted }"
      >
        <span class="leading-tight">{{ row.label }}<span v-if="!row.wanted" class="block text-[0.82rem]">not asked for here</span></span>
        <span class="flex shrink-0" role="group" :aria-label="row.label">
          <button
            v-for="word in ['yes', 'no'] as const"
            :key="word"
            type="button"
            class="btn btn-small -ml-px min-w-14"
            :class="{ 'btn-main': row.can === word }"
            :aria-pressed="row.can === word"
            :disabled="store.readOnly"
            @click="say(row, word)"
          >
            {{ word }}
          </button>
        </span>
      </li>
    </ul>
  </FieldGroup>
</template>
