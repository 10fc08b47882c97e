<script setup lang="ts">
// A table from text or a file, and out again. The server reads it, in any unit, and says which line it cannot.
import { IconFileUpload } from "@tabler/icons-vue";
import { useStorage } from "@vueuse/core";
import { ref, useId } from "vue";
import { api, ApiError } from "@/api/client";
import { choice } from "@/figures/format";
import { useBuild } from "@/stores/build";
import { get } from "@/stores/pointer";

const props = defineProps<{ at: string; kind: string; label: string; example: string; append?: boolean; out?: boolean }>();
const store = useBuild();
const id = useId();
const pasted = ref("");
const problems = ref<string[]>([]);
/** A heading that says too little: the file's own columns, and which is which as the person says; asked once for such a heading, then remembered. */
const heading = ref<string[]>([]);
const wanted = ref<string[]>([]);
const which = ref<Record<string, string>>({});
const said = useStorage<Record<string, Record<string, number>>>("uphill-spark.columns", {});
/** A point before three digits may mean two things: then both are offered. */
const twoWays = ref(false);
const text = ref("");
const LARGEST = 40_000; // bytes, as the server takes
const named = () =>
  Object.fromEntries(
    Object.entries(which.value)
      .filter(([, i]) => i !== "")
      .map(([key, i]) => [key, +i]),
  );
const known = () => said.value[`${props.kind}: ${heading.value.join("|")}`];
async function take(given: string, columns?: Record<string, number>, points?: "decimal" | "thousands"): Promise<void> {
  problems.value = [];
  twoWays.value = false;
  text.value = given;
  try {
    const rows = await api.table(props.kind, given, columns, points);
    if (columns && heading.value.length) said.value = { ...said.value, [`${props.kind}: ${heading.value.join("|")}`]: columns };
    heading.value = [];
    const now = props.append ? ((get(store.build, props.at) as unknown[] | undefined) ?? []) : [];
    await store.set(props.at, [...now, ...rows]);
    pasted.value = "";
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    if (error.body.code === "table_asks") {
      twoWays.value = !error.body.heading.length;
      if (error.body.heading.length) {
        heading.value = error.body.heading;
        wanted.value = error.body.wanted;
        const before = known();
        if (before && !columns) return take(given, before, points);
      }
    }
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
    <div v-if="twoWays" class="mt-1 flex flex-wrap items-center gap-2">
      <button type="button" class="btn btn-small" @click="take(text, heading.length ? named() : undefined, 'decimal')">
        The point is a decimal point
      </button>
      <button type="button" class="btn btn-small" @click="take(text, heading.length ? named() : undefined, 'thousands')">
        It parts thousands
      </button>
    </div>
    <fieldset v-if="heading.length" class="mt-2 border border-line p-2">
      <legend class="px-1 text-[0.9rem] font-semibold">Which column is which?</legend>
      <label v-for="key in wanted" :key="key" class="flex min-h-11 items-center justify-between gap-3 text-[0.9rem]"
        ><span>{{ choice(key) }}</span>
        <select v-model="which[key]" class="h-10 min-w-0 border border-line bg-sheet px-2">
          <option value="">not there</option>
          <option v-for="(head, i) in heading" :key="i" :value="String(i)">{{ head || `column ${i + 1}` }}</option>
        </select></label
      >
      <button type="button" class="btn btn-small" @click="take(text, named())">Take the rows so</button>
    </fieldset>
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
