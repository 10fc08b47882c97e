<script setup lang="ts">
// Every build with its climb in small and what blocks it. Empty, it explains itself.
import { IconCar, IconFileUpload, IconMoon, IconPlus, IconSun } from "@tabler/icons-vue";
import { onBeforeUnmount, onMounted, ref } from "vue";
import { RouterLink, useRouter } from "vue-router";
import { api, ApiError } from "@/api/client";
import type { ErrorBody, GarageRow } from "@/api/types";
import GarageEntry from "./GarageEntry.vue";
import { useSettings } from "@/stores/settings";

const settings = useSettings();
const router = useRouter();
const rows = ref<GarageRow[] | null>(null);
const away = ref(false);
const problem = ref<ErrorBody | null>(null);
const busy = ref("");
let timer: ReturnType<typeof setTimeout> | undefined;

async function load(): Promise<void> {
  try {
    rows.value = await api.garage();
    away.value = false;
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    away.value = true;
    timer = setTimeout(() => void load(), 2000);
  }
}
onMounted(load);
onBeforeUnmount(() => clearTimeout(timer));

async function attempt(doing: string, work: () => Promise<void>): Promise<void> {
  busy.value = doing;
  problem.value = null;
  try {
    await work();
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    problem.value = error.body;
  } finally {
    busy.value = "";
  }
}
const demo = () => attempt("Putting the demo cars in…", async () => void (rows.value = await api.demo(settings.who)));
const putAway = (row: GarageRow) =>
  attempt("Putting it away…", async () => {
    await api.putAway(row.id);
    await load();
  });
function upload(event: Event): void {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = "";
  if (!file) return;
  void attempt(`Reading ${file.name}…`, async () => {
    if (file.size > 2_000_000)
      throw new ApiError(413, {
        code: "too_large",
        message: `${file.name} is ${(file.size / 1e6).toFixed(1)} MB; a build file has at most 2 MB.`,
        problems: [],
        between: [],
        head: null,
      });
    const state = await api.upload(await file.text(), settings.who);
    await router.push(`/b/${state.id}/engine`);
  });
}
</script>

<template>
  <div class="mx-auto max-w-6xl px-4 pb-10">
    <header class="flex flex-wrap items-center justify-between gap-3 py-4">
      <div>
        <p class="font-head text-[1.05rem] font-bold">Uphill Spark</p>
        <h1 class="text-[2rem]">Garage</h1>
      </div>
      <div class="flex flex-wrap items-center gap-2">
        <label class="text-[0.85rem] text-soft"
          >Changes are signed<input
            v-model="settings.who"
            maxlength="80"
            placeholder="your name"
            class="ml-2 h-11 w-36 border border-line bg-sheet px-2 text-ink placeholder:text-soft"
        /></label>
        <button
          type="button"
          class="btn"
          :aria-label="settings.theme === 'night' ? 'Day theme' : 'Night theme'"
          @click="settings.toggleTheme()"
        >
          <component :is="settings.theme === 'night' ? IconSun : IconMoon" :size="18" aria-hidden="true" />
        </button>
        <label class="btn focus-within:outline-3"
          ><IconFileUpload :size="18" aria-hidden="true" /> Open a file<input
            type="file"
            accept=".json,application/json"
            class="sr-only"
            @change="upload"
        /></label>
        <RouterLink to="/new" class="btn btn-main"><IconPlus :size="18" aria-hidden="true" /> New build</RouterLink>
      </div>
    </header>
    <main>
      <p v-if="away" class="border-2 border-spark bg-wash px-4 py-2" role="status">
        The store does not answer. It is tried again every two seconds.
      </p>
      <p v-if="busy" class="py-2" role="status">{{ busy }}</p>
      <div v-if="problem" class="my-3 border-2 border-spark bg-sheet px-4 py-3" role="alert">
        <p class="font-semibold">{{ problem.message }}</p>
        <ul>
          <li v-for="p in problem.problems" :key="p.at" class="mt-1">
            <span class="num">{{ p.at || "the file" }}</span>: {{ p.wants }} <span class="text-soft">(given: {{ p.given }})</span>
          </li>
        </ul>
      </div>
      <div v-if="rows && !rows.length" class="max-w-2xl py-8 text-[1.05rem]">
        <h2 class="text-2xl">No car in here yet</h2>
        <p class="my-3">
          Uphill Spark plans the conversion of a carburetted engine to fuel injection: is the engine fit, will pump and injectors be enough,
          which wire goes where, and what to expect at the first start. One car is one build.
        </p>
        <p class="my-3">
          Answer five questions and the rest is filled in pencil for you to replace. Or look around three invented cars first: a tidy
          estate, a hill-climber, and a camper full of honest mistakes.
        </p>
        <div class="mt-5 flex flex-wrap gap-2">
          <RouterLink to="/new" class="btn btn-main">New build, five questions</RouterLink
          ><button type="button" class="btn" @click="demo"><IconCar :size="18" aria-hidden="true" /> Put the demo cars in</button>
        </div>
      </div>
      <p v-else-if="!rows && !away" class="py-8 text-soft" role="status">Opening the garage…</p>
      <ul v-if="rows" class="flex flex-col">
        <GarageEntry v-for="row in rows" :key="row.id" :row="row" @away="putAway(row)" />
      </ul>
    </main>
  </div>
</template>
