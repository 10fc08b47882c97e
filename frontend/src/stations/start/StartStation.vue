<script setup lang="ts">
import { IconPrinter } from "@tabler/icons-vue";
import { computed, inject } from "vue";
import { api } from "@/api/client";
import SnagCard from "@/parts/SnagCard.vue";
import { OVERRULE } from "@/shell/keys";
import { useBuild } from "@/stores/build";
import StepCard from "./StepCard.vue";

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
const steps = computed(() => store.plan!.stages.start.steps);
const done = computed(() => store.plan!.stages.start.done);
const sheet = computed(() => `${api.paper(store.id, "start-sheet.pdf")}?revision=${store.revision}`);
</script>

<template>
  <section v-if="store.plan" class="mx-auto w-full max-w-5xl px-4 pb-8">
    <div class="flex flex-wrap items-end justify-between gap-3 pt-3 pb-3">
      <div>
        <h1 class="text-[1.6rem]">First start: {{ store.plan.name }}</h1>
        <p class="text-soft">
          {{ store.plan.verdict }} {{ done }} of {{ steps.length }} steps signed. Parts' own data, local rules and licensed practice come
          first.
        </p>
      </div>
      <a :href="sheet" class="btn btn-main no-print"><IconPrinter :size="18" aria-hidden="true" /> Sheet as PDF</a>
    </div>
    <div v-if="open.length" class="mb-5 border-2 border-spark p-4" role="region" aria-label="What holds the first start">
      <h2 class="mb-2 text-[1.3rem] text-spark">Do not start: {{ headline }}</h2>
      <div class="flex flex-col gap-2.5"><SnagCard v-for="f in open" :key="f.code + f.at" :finding="f" @overrule="overrule" /></div>
    </div>
    <div v-if="stops.length > open.length" class="mb-5 border border-ink p-4" role="region" aria-label="Signed for">
      <h2 class="mb-2 text-[1.1rem]">Going on over</h2>
      <div class="flex flex-col gap-2.5"><SnagCard v-for="f in stops.filter((s) => s.overruled)" :key="f.code + f.at" :finding="f" /></div>
    </div>
    <StepCard v-for="s in steps" :key="s.number" :step="s" :blocked="open.length > 0" />
  </section>
</template>
