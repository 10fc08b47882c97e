<script setup lang="ts">
// The list of parts as a table, out and in; labels for bags; one order for several cars.
import { IconFileDownload, IconFileUpload, IconTags } from "@tabler/icons-vue";
import { ref } from "vue";
import { ApiError } from "@/api/client";
import { useBuild } from "@/stores/build";
import { asks } from "./asks";
import MergedOrder from "./MergedOrder.vue";

const store = useBuild();
const said = ref("");
const trouble = ref<string[]>([]);
async function read(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = "";
  if (!file) return;
  said.value = "";
  trouble.value = [];
  try {
    const found = await asks.parts(store.id, file);
    if (found.patch.length) await store.edit(found.patch as never);
    said.value = `${file.name}: ${found.changed} lines changed, ${found.new} new, ${found.same} as they were.`;
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    trouble.value = [
      error.message,
      ...(error.body.problems ?? []).map((p) => `${p.at.replace("/table/", "")}: ${p.wants} (given: ${p.given})`),
    ];
  }
}
</script>

<template>
  <details class="col-span-2">
    <summary class="cursor-pointer py-2">As a table, labels, several cars</summary>
    <p class="no-print flex flex-wrap gap-2">
      <a :href="asks.at(store.id, 'parts.xlsx')" class="btn btn-small"><IconFileDownload :size="16" aria-hidden="true" />Workbook</a>
      <a :href="asks.at(store.id, 'labels.pdf')" class="btn btn-small"><IconTags :size="16" aria-hidden="true" />Labels for bags</a>
      <a :href="asks.at(store.id, 'parts.csv')" class="btn btn-small"><IconFileDownload :size="16" aria-hidden="true" />CSV</a>
      <label class="btn btn-small cursor-pointer focus-within:outline-2"
        ><IconFileUpload :size="16" aria-hidden="true" />Read one in<input
          type="file"
          accept=".csv,.xlsx,text/csv"
          class="sr-only"
          aria-label="Read a list of parts in"
          :disabled="store.readOnly"
          @change="read"
      /></label>
    </p>
    <MergedOrder />
    <p v-if="said" class="mt-1" role="status">{{ said }}</p>
    <ul v-if="trouble.length" class="col-span-2 text-spark" role="alert">
      <li v-for="t in trouble" :key="t">{{ t }}</li>
    </ul>
  </details>
</template>
