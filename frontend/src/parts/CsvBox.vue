<script setup lang="ts">
// A table from text or a file, and out again. The server reads it, in any unit, and says which line it cannot.
import { IconFileUpload } from "@tabler/icons-vue";
import { ref, useId } from "vue";
import { api, ApiError } from "@/api/client";
import { useBuild } from "@/stores/build";
import { get } from "@/stores/pointer";

const props = defineProps<{ at: string; kind: string; label: string; example: string; append?: boolean; out?: boolean }>();
const store = useBuild();
const id = useId();
const pasted = ref("");
const problems = ref<string[]>([]);
const LARGEST = 40_000; // bytes, as the server takes
async function take(text: string): Promise<void> {
  problems.value = [];
  try {
    const rows = await api.table(props.kind, text);
    const now = props.append ? ((get(store.build, props.at) as unknown[] | undefined) ?? []) : [];
    await store.set(props.at, [...now, ...rows]);
    pasted.value = "";
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    const told = error.body.problems.map(
      (p) => `${p.at.replace("/table/", "").replace("/table", "table").replace("/", ", ")}: ${p.wants}; it says ${p.given}`,
    );
    problems.value = told.length ? told : [error.message];
  }
}
async function file(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const chosen = input.files?.[0];
  input.value = "";
  if (!chosen) return;
  if (chosen.size > LARGEST)
    problems.value = [`${chosen.name} holds ${Math.round(chosen.size / 1000)} kB; a table has at most ${LARGEST / 1000}.`];
  else await take(await chosen.text());
}
</script>

<template>
  <div>
    <label class="mt-2 block text-[0.86rem] text-soft" :for="id">{{ label }}</label>
    <textarea
      :id="id"
      v-model="pasted"
      rows="3"
      class="num mt-1 w-full border border-line bg-sheet p-2 text-[0.88rem] text-ink"
      :placeholder="example"
    ></textarea>
    <ul v-if="problems.length" class="text-[0.85rem] text-spark" role="alert">
      <li v-for="p in problems" :key="p">{{ p.charAt(0).toUpperCase() + p.slice(1) }}</li>
    </ul>
    <div class="mt-1 flex flex-wrap gap-2">
      <button type="button" class="btn btn-small" :disabled="store.readOnly || !pasted.trim()" @click="take(pasted)">
        Take these rows
      </button>
      <label class="btn btn-small cursor-pointer focus-within:outline-2" :class="{ 'opacity-50': store.readOnly }">
        <IconFileUpload :size="15" aria-hidden="true" />Read a CSV file
        <input type="file" accept=".csv,.txt,text/csv,text/plain" class="sr-only" :disabled="store.readOnly" @change="file" />
      </label>
      <a v-if="out" class="btn btn-small" :href="api.paper(store.id, `rows/${kind}.csv`)">Write it as CSV</a>
    </div>
  </div>
</template>
