<script setup lang="ts">
// The pump's sheet: typed row by row, pasted, or read from a file. The server reads text, in any unit, and says which line it cannot.
import { IconFileUpload } from "@tabler/icons-vue";
import { computed, ref, useId } from "vue";
import { api, ApiError } from "@/api/client";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";
import { get } from "@/stores/pointer";

const props = defineProps<{ at: string }>();
const store = useBuild();
const id = useId();
const rows = computed(() => (get(store.build, props.at) as unknown[] | undefined) ?? []);
const pasted = ref("");
const problems = ref<string[]>([]);
async function take(text: string): Promise<void> {
  problems.value = [];
  try {
    await store.set(props.at, await api.pumpTable(text));
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
  if (chosen.size > 40_000) problems.value = [`${chosen.name} holds ${Math.round(chosen.size / 1000)} kB; a pump's table has at most 40.`];
  else await take(await chosen.text());
}
</script>

<template>
  <details :open="rows.length < 5">
    <summary class="min-h-9 cursor-pointer py-1">Pump table, {{ rows.length }} rows from its sheet</summary>
    <TableField
      :at="at"
      noun="row"
      :columns="['voltage', 'pressure', 'flow', 'current']"
      :fresh="{ voltage: '13.5 V', pressure: '350 kPa', flow: '0 L/h', current: '7 A' }"
    />
    <label class="mt-2 block text-[0.86rem] text-soft" :for="id"
      >Or paste the sheet: volts, pressure, flow, amps in each line; a heading may name units</label
    >
    <textarea
      :id="id"
      v-model="pasted"
      rows="3"
      class="num mt-1 w-full border border-line bg-sheet p-2 text-ink"
      placeholder="12, 300, 156, 6.85"
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
      <a v-if="at === '/fuel/pump/curve'" class="btn btn-small" :href="api.paper(store.id, 'pump-table.csv')">Write it as CSV</a>
    </div>
  </details>
</template>
