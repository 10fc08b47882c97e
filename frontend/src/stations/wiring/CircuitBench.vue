<script setup lang="ts">
// One circuit at a time, from the battery down to its ground, with the volts and amps of a position of the key on it.
import { useQuery } from "@pinia/colada";
import { computed, ref } from "vue";
import { api } from "@/api/client";
import type { KeyState } from "@/api/types";
import { useBuild } from "@/stores/build";
import CircuitDrawing from "./CircuitDrawing.vue";
import { KEY_STATES } from "./keyStates";

const store = useBuild();
const key = ref("pump");
const state = ref<KeyState>("prime");
const { data, error } = useQuery({
  key: () => ["circuits", store.id, store.revision, state.value, key.value],
  query: () => api.circuits(store.id, { revision: store.revision, state: state.value, key: key.value }),
});
const circuits = computed(() => data.value?.circuits ?? []);
</script>

<template>
  <div class="mt-2 grid grid-cols-1 gap-x-4 lg:grid-cols-[18rem_minmax(0,1fr)]">
    <div class="no-print">
      <label class="block">
        <span class="text-[0.88rem]">Circuit</span>
        <select v-model="key" aria-label="Circuit" class="mt-0.5 h-11 w-full border border-line bg-sheet px-2">
          <option v-if="!circuits.length" :value="key">{{ key }}</option>
          <option v-for="c in circuits" :key="c.key" :value="c.key">{{ c.label }}</option>
        </select>
      </label>
      <p class="mt-3 text-[0.88rem]">Key and engine</p>
      <div class="flex flex-wrap" role="group" aria-label="Key and engine">
        <button
          v-for="s in KEY_STATES"
          :key="s.key"
          type="button"
          class="btn btn-small -ml-px first:ml-0"
          :class="{ 'btn-main': state === s.key }"
          :aria-pressed="state === s.key"
          @click="state = s.key"
        >
          {{ s.word }}
        </button>
      </div>
      <p class="mt-3 text-[0.85rem] text-soft">
        Power above, ground below. A line that is broken is open in this position. Volts against battery minus, from the solve of the whole
        harness.
      </p>
    </div>
    <p v-if="error" class="mt-3" role="alert">{{ error.message }}</p>
    <CircuitDrawing v-if="data" :drawn="data.drawn" />
  </div>
</template>
