<script setup lang="ts">
import { IconCheck, IconPrinter } from "@tabler/icons-vue";
import { computed, defineAsyncComponent } from "vue";
import { RouterLink, useRoute } from "vue-router";
import { api } from "@/api/client";
import EntryList, { type Entry } from "@/parts/EntryList.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import BenchRow from "@/parts/BenchRow.vue";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import StartGates from "./StartGates.vue";
import StepCard from "./StepCard.vue";

const RehearsalBench = defineAsyncComponent(() => import("./RehearsalBench.vue"));
const CarBench = defineAsyncComponent(() => import("./CarBench.vue"));
const OffBench = defineAsyncComponent(() => import("./OffBench.vue"));
const PracticeBench = defineAsyncComponent(() => import("./PracticeBench.vue"));
const BusBench = defineAsyncComponent(() => import("./BusBench.vue"));
const store = useBuild();
const blocked = computed(() => (store.plan?.findings ?? []).some((f) => f.holds && !f.overruled));
const BENCHES = ["steps", "car", "off", "practice", "rehearsal", "bus", "temporary"];
const route = useRoute();
const { benches } = useCatalogue();
const bench = computed(() => {
  const led = /^#f\/start\/(steps|temporary)/.exec(route.hash)?.[1];
  return led ?? (BENCHES.includes(String(route.params.bench)) ? String(route.params.bench) : "overview");
});
const NEW = "temporary fit";
const fits = computed<Entry[]>(() =>
  (store.build?.start?.temporary ?? []).map((fit, i) => ({
    token: i,
    title: fit.what,
    note: fit.undone ? `undone on ${fit.undone}` : `not undone${fit.where ? `, ${fit.where}` : ""}`,
    bad: !fit.undone,
    open: fit.what === NEW || route.hash.startsWith(`#f/start/temporary/${i}`),
    out: "Strike it from the list",
  })),
);
const steps = computed(() => store.plan!.stages.start.steps);
const done = computed(() => store.plan!.stages.start.done);
/** The step that is open: the one in the address, else the first that nobody has signed. */
const chosen = computed(() => /steps\/(\d+)/.exec(route.hash)?.[1]);
const step = computed(() => steps.value.find((s) => `${s.number}` === chosen.value) ?? steps.value.find((s) => !s.done) ?? steps.value[0]!);
const sheet = computed(() => `${api.paper(store.id, "start-sheet.pdf")}?revision=${store.revision}`);
</script>

<template>
  <div v-if="store.plan">
    <BenchRow station="start" :row="benches('start')" :bench="bench" />
    <section class="mx-auto w-full max-w-5xl px-4 pb-8">
      <h1 v-if="bench === 'car'" class="sr-only" tabindex="-1">At the car: {{ store.plan.name }}</h1>
      <div v-else class="flex flex-wrap items-end justify-between gap-3 pt-3 pb-3">
        <div class="min-w-0 flex-1 basis-80">
          <h1 class="text-[1.6rem] [overflow-wrap:anywhere]" tabindex="-1">First start: {{ store.plan.name }}</h1>
          <p class="text-soft">
            {{ store.plan.verdict }} {{ done }} of {{ steps.length }} steps signed. Parts' own data, local rules and licensed practice come
            first.
          </p>
        </div>
        <a v-if="bench === 'overview' || bench === 'steps'" :href="sheet" class="btn btn-main no-print"
          ><IconPrinter :size="18" aria-hidden="true" /> Sheet as PDF</a
        >
      </div>

      <StartGates v-if="bench === 'overview'" :step="step" />
      <CarBench v-else-if="bench === 'car'" />
      <OffBench v-else-if="bench === 'off'" />
      <PracticeBench v-else-if="bench === 'practice'" />
      <BusBench v-else-if="bench === 'bus'" />
      <RehearsalBench v-else-if="bench === 'rehearsal'" />

      <FieldGroup
        v-else-if="bench === 'temporary'"
        group="temporary"
        note="A feed by clip, a can in place of the tank, a switch on a wire: written down here, it is listed until it is undone."
      >
        <EntryList
          at="/start/temporary"
          :entries="fits"
          :fields="['what', 'where', 'since', 'bars', 'undone']"
          noun="a temporary fit"
          @add="store.edit([{ op: 'add', path: '/start/temporary/-', value: { what: NEW } }])"
          @out="(i) => store.edit([{ op: 'remove', path: `/start/temporary/${i}` }])"
        />
      </FieldGroup>

      <template v-else>
        <ol class="no-print mb-3 flex gap-1.5 overflow-x-auto" aria-label="All steps">
          <li v-for="s in steps" :key="s.number" class="shrink-0">
            <RouterLink
              :to="{ path: `/b/${store.id}/start/steps`, query: route.query, hash: `#f/start/steps/${s.number}` }"
              class="btn !px-3"
              :class="{ 'btn-main': s.number === step.number }"
              :aria-current="s.number === step.number ? 'step' : undefined"
              :title="s.title"
              ><span class="num">{{ s.number }}</span
              ><IconCheck v-if="s.done" :size="16" aria-label="signed" /><span class="sr-only">{{ s.title }}</span></RouterLink
            >
          </li>
        </ol>
        <StepCard :key="step.number" :step="step" :blocked="blocked" />
      </template>
      <div class="hidden print:block"><StepCard v-for="s in steps" :key="s.number" :step="s" :blocked="blocked" printed /></div>
    </section>
  </div>
</template>
