<script setup lang="ts">
import { IconCheck, IconPrinter } from "@tabler/icons-vue";
import { computed, defineAsyncComponent, inject, ref } from "vue";
import { RouterLink, useRoute } from "vue-router";
import { api } from "@/api/client";
import SnagCard from "@/parts/SnagCard.vue";
import EntryList, { type Entry } from "@/parts/EntryList.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import BenchRow from "@/parts/BenchRow.vue";
import { OVERRULE } from "@/shell/keys";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import StepCard from "./StepCard.vue";

const RehearsalBench = defineAsyncComponent(() => import("./RehearsalBench.vue"));
const store = useBuild();
const overrule = inject(OVERRULE, () => undefined);
const stops = computed(() => (store.plan?.findings ?? []).filter((f) => f.holds));
const open = computed(() => stops.value.filter((f) => !f.overruled));
const openStops = computed(() => open.value.filter((f) => f.severity === "stop").length);
const headline = computed(() => {
  const unknown = open.value.length - openStops.value;
  const stops = `${openStops.value} open ${openStops.value === 1 ? "Stop" : "Stops"}`;
  return [openStops.value ? stops : "", unknown ? `${unknown} not known that must be` : ""].filter(Boolean).join(", ");
});
const route = useRoute();
const { benches } = useCatalogue();
const bench = computed(() => {
  const led = /^#f\/start\/(steps|temporary)/.exec(route.hash)?.[1];
  return led ?? (["steps", "rehearsal", "temporary"].includes(String(route.params.bench)) ? String(route.params.bench) : "overview");
});
/** What bars moving, and the road, though not starting where the car stands. */
const GATES = [
  { bars: "move", title: "Before it moves" },
  { bars: "road", title: "Before the road" },
];
const gates = computed(() =>
  GATES.map((g) => ({
    ...g,
    shut: (store.plan?.findings ?? []).filter((f) => f.severity === "stop" && f.bars === g.bars && !f.overruled),
  })),
);
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
const FIRST = 3;
const all = ref(false);
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
      <div class="flex flex-wrap items-end justify-between gap-3 pt-3 pb-3">
        <div class="min-w-0">
          <h1 class="text-[1.6rem] [overflow-wrap:anywhere]" tabindex="-1">First start: {{ store.plan.name }}</h1>
          <p class="text-soft">
            {{ store.plan.verdict }} {{ done }} of {{ steps.length }} steps signed. Parts' own data, local rules and licensed practice come
            first.
          </p>
        </div>
        <a :href="sheet" class="btn btn-main no-print"><IconPrinter :size="18" aria-hidden="true" /> Sheet as PDF</a>
      </div>

      <template v-if="bench === 'overview'">
        <div v-if="open.length" class="mb-5 border-2 border-spark p-4" role="region" aria-label="What holds the first start">
          <h2 class="mb-2 text-[1.3rem] text-spark">Do not start: {{ headline }}</h2>
          <div class="flex flex-col gap-2.5">
            <SnagCard v-for="f in all ? open : open.slice(0, FIRST)" :key="f.code + f.at" :finding="f" @overrule="overrule" />
            <button v-if="open.length > FIRST" type="button" class="btn btn-small self-start" :aria-expanded="all" @click="all = !all">
              {{ all ? "The worst three" : `All ${open.length} that hold it` }}
            </button>
          </div>
        </div>
        <p v-else class="mb-4 text-[1.1rem]">Nothing holds the first start.</p>
        <template v-for="g in gates" :key="g.bars">
          <div v-if="g.shut.length" role="region" :aria-label="g.title" class="mb-3 border border-spark px-4 py-1">
            <details :open="!open.length">
              <summary class="min-h-11 cursor-pointer py-2 font-semibold text-spark">
                {{ g.title }}: {{ g.shut.length }} {{ g.shut.length === 1 ? "Stop" : "Stops" }}
              </summary>
              <div class="flex flex-col gap-2.5 pb-3">
                <SnagCard v-for="f in g.shut" :key="f.code + f.at" :finding="f" @overrule="overrule" />
              </div>
            </details>
          </div>
        </template>
        <div v-if="stops.length > open.length" class="mb-5 border border-ink p-4" role="region" aria-label="Signed for">
          <h2 class="mb-2 text-[1.1rem]">Going on over</h2>
          <div class="flex flex-col gap-2.5">
            <SnagCard v-for="f in stops.filter((s) => s.overruled)" :key="f.code + f.at" :finding="f" />
          </div>
        </div>
        <h2 class="mt-2 text-[1.1rem]">The steps</h2>
        <ol class="mt-1 border-t border-line lg:columns-2 lg:gap-8" aria-label="The steps">
          <li v-for="s in steps" :key="s.number" class="break-inside-avoid border-b border-hair">
            <RouterLink
              :to="{ path: `/b/${store.id}/start/steps`, query: route.query, hash: `#f/start/steps/${s.number}` }"
              class="flex min-h-11 items-center gap-3 px-1 leading-tight hover:bg-wash"
            >
              <span class="num w-5 text-right text-soft">{{ s.number }}</span>
              <span class="flex-1" :class="{ 'font-semibold': s.number === step.number }">{{ s.title }}</span>
              <span class="text-[0.9rem] text-soft">{{ s.done ? `signed, ${s.by}` : s.number === step.number ? "next" : "" }}</span>
              <IconCheck v-if="s.done" :size="18" class="text-good" aria-hidden="true" />
            </RouterLink>
          </li>
        </ol>
      </template>

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
        <StepCard :key="step.number" :step="step" :blocked="open.length > 0" />
      </template>
      <div class="hidden print:block"><StepCard v-for="s in steps" :key="s.number" :step="s" :blocked="open.length > 0" printed /></div>
    </section>
  </div>
</template>
