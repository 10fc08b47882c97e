<script setup lang="ts">
// Five questions; the rest is filled in pencil.
import { computed, reactive, ref, watch } from "vue";
import { RouterLink, useRouter } from "vue-router";
import { api, ApiError } from "@/api/client";
import { newId } from "@/stores/queue";
import { useSettings } from "@/stores/settings";

const router = useRouter();
const settings = useSettings();
const LAYOUTS = [
  {
    value: "port_plenum",
    word: "At each port, one throttle",
    note: "A plenum with one injector per cylinder. Load from manifold pressure.",
  },
  {
    value: "throttle_body",
    word: "In a throttle body, where the carburettor sat",
    note: "Injectors in the body; the distributor may stay.",
  },
  { value: "individual_throttles", word: "One throttle per cylinder", note: "Load from throttle angle." },
];
const MEASURES = [
  { key: "cylinders", word: "2. Cylinders", example: "" },
  { key: "displacement", word: "3. Displacement", example: "2597 cc" },
  { key: "power", word: "4. Power wanted", example: "118 kW or 158 hp" },
] as const;
const answers = reactive({ name: "", layout: "", cylinders: "", displacement: "", power: "", fuel: "E10" });
/** Sent twice, because no answer came, it is one build; changed answers are another. */
let id = newId();
watch(answers, () => (id = newId()), { deep: true });
const problems = ref<Record<string, string>>({});
const trouble = ref("");
const busy = ref(false);
const ready = computed(() => answers.name.trim() && answers.layout && answers.cylinders && answers.displacement && answers.power);

async function create(): Promise<void> {
  busy.value = true;
  problems.value = {};
  trouble.value = "";
  try {
    const state = await api.create({ ...answers }, settings.who, id);
    await router.push(`/b/${state.id}/engine`);
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    for (const p of error.body.problems ?? []) problems.value[p.at.slice(1)] = p.wants.charAt(0).toUpperCase() + p.wants.slice(1) + ".";
    trouble.value = error.away ? "The store does not answer. Your answers stay here; try again in a moment." : error.message;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div class="mx-auto max-w-3xl px-4 pb-12">
    <header class="py-4"><RouterLink to="/" class="font-head font-bold hover:underline">Uphill Spark</RouterLink></header>
    <main>
      <h1 class="text-[2rem]">Five questions</h1>
      <p class="mb-5 text-soft">Everything else is filled in pencil: usual values, marked as assumed, for you to accept or replace.</p>
      <form class="flex flex-col gap-6" novalidate @submit.prevent="create">
        <div>
          <label for="a-name" class="block font-semibold">What do you call the car?</label>
          <input
            id="a-name"
            v-model="answers.name"
            maxlength="80"
            class="mt-1 h-12 w-full max-w-md border border-line bg-sheet px-3 text-lg"
            autocomplete="off"
          />
          <p v-if="problems.name" class="text-spark" role="alert">{{ problems.name }}</p>
        </div>
        <fieldset>
          <legend class="font-semibold">1. Where will the injectors sit?</legend>
          <div class="mt-1 grid gap-2 md:grid-cols-3">
            <label
              v-for="l in LAYOUTS"
              :key="l.value"
              class="flex cursor-pointer gap-2.5 border p-3 has-checked:border-2 has-checked:border-ink"
              :class="answers.layout === l.value ? 'bg-well' : 'border-line bg-sheet'"
            >
              <input
                v-model="answers.layout"
                type="radio"
                name="layout"
                :value="l.value"
                class="mt-1 size-5 shrink-0 accent-[var(--ink)]"
              /><span
                ><b class="block leading-tight">{{ l.word }}</b
                ><span class="text-[0.88rem] text-soft">{{ l.note }}</span></span
              >
            </label>
          </div>
          <p v-if="problems.layout" class="text-spark" role="alert">{{ problems.layout }}</p>
        </fieldset>
        <div class="grid gap-6 sm:grid-cols-3">
          <div v-for="q in MEASURES" :key="q.key">
            <label :for="`a-${q.key}`" class="block font-semibold">{{ q.word }}</label>
            <input
              :id="`a-${q.key}`"
              v-model="answers[q.key]"
              :placeholder="q.example"
              class="num mt-1 h-12 w-full border border-line bg-sheet px-3 text-lg placeholder:text-soft"
              autocomplete="off"
            />
            <p v-if="problems[q.key]" class="text-spark" role="alert">{{ problems[q.key] }}</p>
          </div>
        </div>
        <fieldset>
          <legend class="font-semibold">5. Fuel</legend>
          <div class="mt-1 flex flex-wrap gap-2">
            <label v-for="f in ['E0', 'E10', 'E85']" :key="f" class="btn cursor-pointer !px-5" :class="{ 'btn-main': answers.fuel === f }"
              ><input v-model="answers.fuel" type="radio" name="fuel" :value="f" class="size-5 accent-[var(--ink)]" />{{
                f === "E0" ? "E0, no alcohol" : f
              }}</label
            >
          </div>
        </fieldset>
        <p v-if="trouble" class="border-2 border-spark bg-sheet px-3 py-2" role="alert">{{ trouble }}</p>
        <div>
          <button type="submit" class="btn btn-main !min-h-12 !px-6 text-lg" :disabled="!ready || busy">
            {{ busy ? "Filling in the rest…" : "Fill in the rest" }}
          </button>
        </div>
      </form>
    </main>
  </div>
</template>
