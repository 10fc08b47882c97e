<script setup lang="ts">
// What is assumed on a bench, all of it by name, and one press that takes it as it is: looked at, and so.
import { IconPencilCheck } from "@tabler/icons-vue";
import { computed } from "vue";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";

const props = defineProps<{ station: string; bench: string }>();
const store = useBuild();
const { benchOf } = useCatalogue();
const places = computed(() =>
  Object.keys(store.plan?.pencil ?? {}).filter((p) => {
    const at = benchOf(p);
    return at.station === props.station && at.bench === props.bench;
  }),
);
const names = computed(() => [...new Set(places.value.map(store.label))]);
const SHOWN = 6;
</script>

<template>
  <details v-if="places.length" class="mb-1 border-b border-hair pb-1">
    <summary class="min-h-9 cursor-pointer py-1.5 text-[0.92rem] text-info italic">
      {{ names.length }} in pencil here: {{ names.slice(0, SHOWN).join(", ").toLowerCase() }}{{ names.length > SHOWN ? " …" : "" }}
    </summary>
    <p class="text-[0.9rem]">{{ names.join(", ") }}.</p>
    <button type="button" class="btn btn-small my-1" :disabled="store.readOnly" @click="store.acceptAll(places)">
      <IconPencilCheck :size="16" aria-hidden="true" /> All of it is so, accept
    </button>
  </details>
</template>
