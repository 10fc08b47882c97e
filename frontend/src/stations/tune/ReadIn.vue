<script setup lang="ts">
// Tables from the unit's own export, a spreadsheet or our own file: what was read is shown, with what was guessed and what has to be said, before anything is taken.
import { computed, ref, watch } from "vue";
import { ApiError } from "@/api/client";
import { tuneApi } from "./asks";
import type { ReadTables } from "@/api/types";
import { useBuild } from "@/stores/build";
import ReadTable from "./ReadTable.vue";

const store = useBuild();
const text = ref("");
const choices = ref<Record<number, string>>({});
const found = ref<ReadTables | null>(null);
const trouble = ref<string[]>([]);
const source = ref("read_out");
const taken = ref("");
const SOURCES = [
  { key: "read_out", word: "read out of the unit" },
  { key: "written_down", word: "written down from its screen" },
  { key: "photographed", word: "photographed, then typed" },
];
async function read(): Promise<void> {
  taken.value = "";
  try {
    found.value = await tuneApi.readTables(store.id, text.value, choices.value);
    trouble.value = [];
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    found.value = null;
    const told = error.body.problems ?? [];
    trouble.value = told.length ? told.map((p) => `${p.at.replace("/text/", "")}: ${p.wants}. Given: ${p.given}.`) : [error.message];
  }
}
watch(text, () => ((choices.value = {}), (found.value = null)));
async function file(event: Event): Promise<void> {
  const one = (event.target as HTMLInputElement).files?.[0];
  if (!one) return;
  text.value = await one.text();
  await read();
}
function say(index: number, choice: string): void {
  choices.value = { ...choices.value, [index]: choice };
  void read();
}
const known = computed(() => (found.value?.tables ?? []).filter((t) => t.key));
const open = computed(() => (found.value?.tables ?? []).some((t) => t.asks && !t.key));
const tables = computed(() =>
  Object.fromEntries(known.value.map((t) => [t.key!, t.y_label ? { x: t.x, y: t.y, rows: t.rows } : { x: t.x, rows: t.rows }])),
);
async function take(where: "found" | "kept"): Promise<void> {
  const set = { load: found.value!.load, tables: tables.value };
  const value = where === "found" ? { ...set, source: source.value } : { ...set, made: "read_in" };
  await store.edit([{ op: "add", path: `/tune/${where}`, value }]);
  taken.value = store.problems[`/tune/${where}`] ?? (where === "found" ? "Kept as found." : "They are the kept tune now.");
}
</script>

<template>
  <div class="grid grid-cols-1 gap-x-6 lg:grid-cols-[22rem_minmax(0,1fr)]">
    <form class="space-y-3 pt-3" @submit.prevent="read">
      <label class="block text-[0.86rem] text-soft"
        >Tables as text: CSV of any kind, copied from a spreadsheet, or our own JSON
        <textarea
          v-model="text"
          rows="9"
          class="num mt-1 block w-full border border-line bg-sheet p-2 text-[0.85rem] text-ink"
          spellcheck="false"
          placeholder="VE [%]; 800; 1600; 3200&#10;40; 42,5; 51; 60&#10;100; 68; 79; 84"
        ></textarea>
      </label>
      <div class="flex flex-wrap items-center gap-2">
        <button type="submit" class="btn btn-main" :disabled="!text.trim()">Read</button>
        <label class="btn"
          >From a file<input type="file" accept=".csv,.txt,.json,.tsv,text/*" class="sr-only" aria-label="From a file" @change="file"
        /></label>
      </div>
      <ul v-if="trouble.length" role="alert" class="border-l-4 border-spark bg-wash px-3 py-2 text-[0.9rem]">
        <li v-for="t in trouble" :key="t">{{ t }}</li>
      </ul>
      <template v-if="known.length">
        <label class="block text-[0.86rem] text-soft"
          >How they were had
          <select v-model="source" class="mt-1 block h-11 w-full border border-line bg-sheet px-2 text-[1rem] text-ink">
            <option v-for="s in SOURCES" :key="s.key" :value="s.key">{{ s.word }}</option>
          </select>
        </label>
        <p v-if="open" class="text-[0.9rem]">Tables of which it is not said what they are stay out.</p>
        <div class="flex flex-wrap gap-2">
          <button type="button" class="btn btn-main" :disabled="store.readOnly" @click="take('found')">Take as found</button>
          <button type="button" class="btn" :disabled="store.readOnly" @click="take('kept')">Make them the kept tune</button>
        </div>
      </template>
      <p v-if="taken" role="status">{{ taken }}</p>
    </form>
    <div class="min-w-0 pt-3">
      <p v-if="!found" class="text-soft">
        Rows and columns either way round, axes rising or falling, points or commas: it is found out, and shown here before anything is
        taken.
      </p>
      <ReadTable v-for="(t, i) in found?.tables ?? []" :key="i" :table="t" @say="(choice: string) => say(i, choice)" />
    </div>
  </div>
</template>
