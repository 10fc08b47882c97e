<script setup lang="ts">
// A fault is hidden in this car: looked for, named; at the end the own way beside the shortest.
import { computed, onScopeDispose, ref, shallowRef, watch } from "vue";
import { useSessionStorage } from "@vueuse/core";
import { ApiError } from "@/api/client";
import { useBuild } from "@/stores/build";
import { useSettings } from "@/stores/settings";
import { startApi, type Move, type Practised } from "./asks";
import PracticeEnd from "./PracticeEnd.vue";
import PracticeMoves from "./PracticeMoves.vue";
import type { components } from "@/api/schema";

const store = useBuild();
const settings = useSettings();
const going = useSessionStorage<Record<string, string>>("uphill-spark.practice", {});
const said = shallowRef<Practised | null>(null);
const past = shallowRef<components["schemas"]["PracticeList"] | null>(null);
const trouble = ref("");
const level = ref<number>(0);
const seed = ref<number | "">("");
const LEVELS = [
  { key: 0, word: "As my path goes" },
  { key: 1, word: "1 plain" },
  { key: 2, word: "2 with a meter" },
  { key: 3, word: "3 looks like another" },
  { key: 4, word: "4 comes and goes" },
];
const AGAIN = 700; // ms
let timer: ReturnType<typeof setTimeout> | undefined;
onScopeDispose(() => clearTimeout(timer));
async function tried(act: () => Promise<Practised | void>): Promise<void> {
  trouble.value = "";
  clearTimeout(timer);
  try {
    const answer = await act();
    if (!answer) return;
    said.value = answer;
    if (answer.id) going.value = { ...going.value, [store.id]: answer.id };
    if (answer.state === "failed") trouble.value = answer.why || "What each fault looks like could not be worked out.";
    if (answer.state === "running") timer = setTimeout(() => void tried(() => startApi.practice(store.id, going.value[store.id]!)), AGAIN);
    if (answer.practice?.ended) await list();
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    if (error.status === 404) going.value = { ...going.value, [store.id]: "" };
    trouble.value = error.body.problems[0]?.wants ?? error.message;
    if (error.status === 409) void tried(() => startApi.practice(store.id, going.value[store.id]!));
  }
}
const list = async () => {
  past.value = await startApi.practices(store.id, settings.who);
};
watch(
  () => store.id,
  (id) => {
    void tried(async () => {
      await list();
      if (going.value[id]) return startApi.practice(id, going.value[id]);
    });
  },
  { immediate: true },
);
const begin = () => {
  const typed = seed.value === "" ? null : seed.value;
  if (typed !== null && (!Number.isInteger(typed) || typed < 0)) {
    trouble.value = "A seed is a whole number, as 42.";
    return;
  }
  said.value = null;
  void tried(() => startApi.begin(store.id, settings.who, level.value || null, typed));
};
const practice = computed(() => said.value?.practice ?? null);
const move = (m: Move) => void tried(() => startApi.move(store.id, said.value!.id!, m, practice.value!.steps.length));
const other = () => {
  going.value = { ...going.value, [store.id]: "" };
  said.value = null;
};
const scored = computed(() => (past.value?.rows ?? []).filter((r) => r.score != null));
</script>

<template>
  <section class="min-h-64" aria-label="Practice">
    <p v-if="trouble" role="alert" class="mb-2 font-semibold">{{ trouble }}</p>
    <div v-if="!said || (!practice && said.state !== 'running')">
      <p class="">
        One fault is hidden in this very car, taken as in order but for it. Look, read, swap, and name it. Minutes and money count, and what
        can hurt counts against you.
      </p>
      <fieldset class="mt-3">
        <legend class="text-[0.9rem] text-soft">How hard</legend>
        <div class="flex flex-wrap gap-1.5">
          <button
            v-for="l in LEVELS"
            :key="l.key"
            type="button"
            class="btn"
            :class="{ 'btn-main': level === l.key }"
            :aria-pressed="level === l.key"
            @click="level = l.key"
          >
            {{ l.word }}<template v-if="!l.key && past">: {{ past.level }}</template>
          </button>
        </div>
      </fieldset>
      <div class="mt-3 flex flex-wrap items-end gap-3">
        <label class="text-[0.9rem]"
          >Seed, to meet the same again<input
            v-model.number="seed"
            type="number"
            min="0"
            class="block h-11 w-40 border border-line bg-sheet px-2"
            placeholder="any"
        /></label>
        <button type="button" class="btn btn-main h-12" @click="begin">Hide a fault</button>
      </div>
      <section v-if="scored.length" class="mt-4" aria-label="Your path">
        <h2 class="text-[1.05rem]">Your path</h2>
        <ol class="">
          <li v-for="r in scored.slice(0, 12)" :key="r.id" class="flex gap-3 border-b border-hair py-1.5">
            <span class="num w-6 text-soft">{{ r.level }}</span>
            <span class="flex-1">{{ r.fault }}{{ r.found ? "" : ", not found" }}</span>
            <b class="num">{{ r.score }}</b>
          </li>
        </ol>
      </section>
    </div>
    <p v-else-if="said.state === 'running'" role="status">
      What each fault looks like on this car is being worked out{{ said.progress ? `: ${Math.round(said.progress * 100)} %` : "" }} …
    </p>
    <template v-else-if="practice">
      <PracticeEnd v-if="practice.ended" :practice="practice" @again="other" />
      <PracticeMoves v-else :id="said.id!" :practice="practice" :looks="said.looks!" @move="move" />
    </template>
  </section>
</template>
