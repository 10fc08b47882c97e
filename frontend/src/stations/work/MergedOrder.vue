<script setup lang="ts">
// What is left to order for this car and others of the garage, as one list: what is the same from the same supplier is one line.
import { IconFileDownload } from "@tabler/icons-vue";
import { computed, ref } from "vue";
import { api, ApiError } from "@/api/client";
import type { GarageRow } from "@/api/types";
import { useBuild } from "@/stores/build";

const store = useBuild();
const rows = ref<GarageRow[] | null>(null);
const chosen = ref<string[]>([]);
const trouble = ref("");
const MOST = 19;
async function open(event: Event): Promise<void> {
  if (!(event.target as HTMLDetailsElement).open || rows.value) return;
  try {
    rows.value = (await api.garage({ limit: 50 })).builds.filter((b) => b.id !== store.id);
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    trouble.value = error.message;
  }
}
const at = computed(() => `/api/order.csv?builds=${[store.id, ...chosen.value].slice(0, MOST + 1).join(",")}`);
</script>

<template>
  <details class="no-print" @toggle="open">
    <summary class="cursor-pointer py-2">One order for several cars</summary>
    <p v-if="trouble" class="text-spark" role="alert">{{ trouble }}</p>
    <p v-else-if="rows && !rows.length" class="text-soft">There is no other car in the garage.</p>
    <template v-else-if="rows">
      <label v-for="b in rows" :key="b.id" class="flex min-h-11 items-center gap-2.5"
        ><input v-model="chosen" type="checkbox" :value="b.id" class="size-5" />{{ b.name }}</label
      >
      <a :href="at" class="btn btn-small mt-1"><IconFileDownload :size="16" aria-hidden="true" />What is left to order, merged</a>
    </template>
  </details>
</template>
