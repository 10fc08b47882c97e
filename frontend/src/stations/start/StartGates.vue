<script setup lang="ts">
// What stands before the key, before it moves, before the road; and the steps.
import { IconCheck } from "@tabler/icons-vue";
import { computed, inject, ref } from "vue";
import { RouterLink, useRoute } from "vue-router";
import type { SheetStep } from "@/api/types";
import SnagCard from "@/parts/SnagCard.vue";
import { OVERRULE } from "@/shell/keys";
import { useBuild } from "@/stores/build";

defineProps<{ step: SheetStep }>();
const store = useBuild();
const route = useRoute();
const overrule = inject(OVERRULE, () => undefined);
const stops = computed(() => (store.plan?.findings ?? []).filter((f) => f.holds));
const open = computed(() => stops.value.filter((f) => !f.overruled));
const openStops = computed(() => open.value.filter((f) => f.severity === "stop").length);
const headline = computed(() => {
  const unknown = open.value.length - openStops.value;
  const stops = `${openStops.value} open ${openStops.value === 1 ? "Stop" : "Stops"}`;
  return [openStops.value ? stops : "", unknown ? `${unknown} not known that must be` : ""].filter(Boolean).join(", ");
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
const FIRST = 3;
const all = ref(false);
const steps = computed(() => store.plan!.stages.start.steps);
</script>

<template>
  <div>
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
  </div>
</template>
