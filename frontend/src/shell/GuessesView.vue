<script setup lang="ts">
// What rests on guesses: every value in pencil of the car, those first that could change a verdict; accepted, replaced where they are entered, or printed for an evening.
import { computed, onMounted, ref } from "vue";
import { RouterLink } from "vue-router";
import PaperLink from "@/parts/PaperLink.vue";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import { useAsked } from "@/stores/useAsked";

const store = useBuild();
const { title } = useCatalogue();
const frame = ref<HTMLElement | null>(null);
const { found } = useAsked("guesses", frame);
const all = ref(false);
const FIRST = 20;
const rows = computed(() => found.value?.guesses ?? []);
const shown = computed(() => (all.value ? rows.value : rows.value.slice(0, FIRST)));
const turning = computed(() => rows.value.filter((g) => g.turns.length).length);
/** A mark of its own can be taken off; what stands while a field is empty is made the person's own. */
const accept = (at: string) =>
  store.usual.has(at) ? store.edit([{ op: "add", path: at, usual: true }]) : store.accept(store.pencil(at) ?? at);
const heading = ref<HTMLElement | null>(null);
onMounted(() => heading.value?.focus());
</script>

<template>
  <section ref="frame" class="mx-auto max-w-5xl px-4 pb-8">
    <h1 ref="heading" tabindex="-1" class="pt-3 text-[1.45rem] focus:outline-none">What rests on guesses</h1>
    <p v-if="!found" class="py-3 text-soft" role="status">Trying each at both ends of its doubt…</p>
    <template v-else-if="rows.length">
      <p class="mb-2 max-w-3xl text-soft">
        <span class="num">{{ rows.length }}</span> values in pencil hold something up; <span class="num">{{ turning }}</span> of them could
        change a verdict within their own doubt, and stand first.
      </p>
      <p class="mb-3"><PaperLink name="evening.pdf">To measure this evening, PDF</PaperLink></p>
      <ul aria-label="In pencil">
        <li
          v-for="g in shown"
          :key="g.at"
          class="grid items-center gap-x-4 gap-y-1 border-t border-hair py-2 sm:grid-cols-[minmax(0,1.2fr)_minmax(0,1.3fr)_auto]"
        >
          <div class="min-w-0">
            <p class="leading-tight font-semibold">
              {{ g.title }} <span v-if="g.says" class="num pencil-text font-normal">{{ g.says }}</span>
            </p>
            <p class="text-[0.86rem] text-soft">
              {{ title(g.station) }}; with {{ g.measured_with }}<template v-if="g.where">. {{ g.where }}</template>
            </p>
          </div>
          <p class="text-[0.9rem] leading-tight" :class="g.turns.length ? 'text-info' : 'text-soft'">
            <template v-if="g.turns.length">Could change {{ g.turns.join(", ") }}</template>
            <template v-else>Changes nothing alone; {{ g.holds }} {{ g.holds === 1 ? "verdict rests" : "verdicts rest" }} on it</template>
          </p>
          <div class="flex gap-2">
            <button type="button" class="btn btn-small" :disabled="store.readOnly" :aria-label="`Accept ${g.title}`" @click="accept(g.at)">
              Accept
            </button>
            <RouterLink
              :to="{ path: `/b/${store.id}/${g.station}/${g.bench}`, hash: `#f${g.at}` }"
              class="btn btn-small"
              :aria-label="`Replace ${g.title}`"
              >Replace</RouterLink
            >
          </div>
        </li>
      </ul>
      <button v-if="!all && rows.length > FIRST" type="button" class="btn mt-3" @click="all = true">All {{ rows.length }}</button>
    </template>
    <p v-else class="py-3">Nothing sound on this car rests on a guess.</p>
  </section>
</template>
