<script setup lang="ts">
// Every build with its climb in small and what blocks it. Empty, it explains itself.
import { IconCar, IconDeviceMobile, IconFileUpload, IconMoon, IconPlus, IconSun } from "@tabler/icons-vue";
import { computed, defineAsyncComponent, ref } from "vue";
import { RouterLink, useRouter } from "vue-router";
import { api, ApiError } from "@/api/client";
import type { ErrorBody, GarageRow } from "@/api/types";
import { newId } from "@/stores/queue";
import { useSettings } from "@/stores/settings";
import AsideEntry from "./AsideEntry.vue";
import GarageEntry from "./GarageEntry.vue";
import KeepingNote from "./KeepingNote.vue";
import { useGarage } from "./useGarage";

const settings = useSettings();
const router = useRouter();
const { rows, head, down, search, words, aside, load, more, hasMore, take } = useGarage();
/** So many that one looks for one; or one is looking. */
const many = computed(() => (head.value?.count ?? 0) > 8 || search.value !== "");
const problem = ref<ErrorBody | null>(null);
const busy = ref("");

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
const demo = () => attempt("Putting the demo cars in…", async () => take(await api.demo(settings.who, newId())));
const then = (doing: string, work: (id: string) => Promise<void>) => (row: GarageRow) =>
  attempt(doing, async () => {
    await work(row.id);
    await load();
  });
const putAway = then("Putting it away…", api.putAway);
const bringBack = then("Bringing it back…", api.bringBack);
function turn(): void {
  search.value = "";
  aside.value = !aside.value;
}
/** Opened seldom: fetched when it is first opened. */
const DevicesDialog = defineAsyncComponent(() => import("./DevicesDialog.vue"));
const phones = ref(false);
const removeForGood = then("Removing it for good…", api.removeForGood);
function upload(event: Event): void {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = "";
  if (!file) return;
  void attempt(`Reading ${file.name}…`, async () => {
    if (/\.zip$/i.test(file.name) || file.type === "application/zip") {
      const { putBack } = await import("@/api/seldom");
      return void (await router.push(`/b/${(await putBack(file)).id}/work`));
    }
    if (file.size > 2_000_000)
      throw new ApiError(413, {
        code: "too_large",
        message: `${file.name} is ${(file.size / 1e6).toFixed(1)} MB; a build file has at most 2 MB.`,
        problems: [],
        between: [],
        head: null,
        whole: true,
        heading: [],
        wanted: [],
      });
    const state = await api.upload(await file.text(), settings.who, newId());
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
        <button type="button" class="btn" @click="phones = true"><IconDeviceMobile :size="18" aria-hidden="true" /> Phones</button>
        <label class="btn focus-within:outline-3"
          ><IconFileUpload :size="18" aria-hidden="true" /> Open a file<input
            type="file"
            accept=".json,.zip,application/json,application/zip"
            class="sr-only"
            @change="upload"
        /></label>
        <RouterLink to="/new" class="btn btn-main"><IconPlus :size="18" aria-hidden="true" /> New build</RouterLink>
      </div>
    </header>
    <main>
      <p v-if="down" class="border-2 border-spark bg-wash px-4 py-2" role="status">
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
      <div v-if="many || aside" class="flex flex-wrap items-center gap-x-6 gap-y-2 border-t border-ink py-2">
        <h2 v-if="aside" class="text-[1.35rem]">Put away</h2>
        <label v-if="many" class="flex min-h-11 items-center gap-2"
          >Find<input
            v-model="search"
            type="search"
            maxlength="80"
            placeholder="name or notes"
            class="h-11 w-64 border border-line bg-sheet px-2 placeholder:text-soft"
        /></label>
        <p v-if="head" class="text-soft" role="status">
          <span class="num">{{ head.count }}</span> {{ head.count === 1 ? "build" : "builds" }}{{ words ? ` with “${words}”` : "" }}
        </p>
      </div>
      <p v-if="head?.pending" class="border-t border-hair py-2 text-soft" role="status">
        The rules have changed with an update: <span class="num">{{ head.pending }}</span>
        {{ head.pending === 1 ? "build is" : "builds are" }} still being worked out by the new ones.
      </p>
      <div v-if="rows && !rows.length && (words || aside)" class="py-8 text-soft">
        {{ words ? "No build has these words in its name or notes." : "Nothing was put away." }}
      </div>
      <div v-else-if="rows && !rows.length" class="max-w-2xl py-8 text-[1.05rem]">
        <h2 class="text-2xl">No car in here yet</h2>
        <p class="my-3">
          Uphill Spark plans the conversion of a carburetted engine to fuel injection: is the engine fit, will pump and injectors be enough,
          which wire goes where, and what to expect at the first start. One car is one build.
        </p>
        <p class="my-3">
          Answer a few questions and the rest is filled in pencil for you to replace. Or look around three invented cars first: a tidy
          estate, a hill-climber, and a camper full of honest mistakes.
        </p>
        <div class="mt-5 flex flex-wrap gap-2">
          <RouterLink to="/new" class="btn btn-main">New build</RouterLink
          ><button type="button" class="btn" @click="demo"><IconCar :size="18" aria-hidden="true" /> Put the demo cars in</button>
        </div>
      </div>
      <p v-else-if="!rows && !down" class="py-8 text-soft" role="status">Opening the garage…</p>
      <ul v-if="rows" class="flex flex-col">
        <template v-for="row in rows" :key="row.id">
          <AsideEntry v-if="row.put_away" :row="row" @back="bringBack(row)" @remove="removeForGood(row)" />
          <GarageEntry v-else :row="row" @away="putAway(row)" />
        </template>
      </ul>
      <p v-if="rows" class="flex flex-wrap gap-2 border-t border-ink py-3">
        <button v-if="hasMore" type="button" class="btn" @click="more">Show more</button>
        <button type="button" class="btn btn-plain" @click="turn">
          {{ aside ? "Back to the garage" : "What was put away" }}
        </button>
      </p>
      <KeepingNote v-if="head" :keeping="head.keeping" />
    </main>
    <DevicesDialog v-if="phones" :open="phones" @close="phones = false" />
  </div>
</template>
