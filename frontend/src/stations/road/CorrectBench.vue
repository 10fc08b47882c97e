<script setup lang="ts">
// Where it was driven, and what the cells should be there: visits, what is off, before, after; taken with one press, leaner cells at high load with a name.
import { computed, ref } from "vue";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import type { LogSaid } from "./asks";
import { cells, inWords, type View } from "./correctCells";
import DeedOffer from "./DeedOffer.vue";
import NeedsLog from "./NeedsLog.vue";
import RoadGrid from "./RoadGrid.vue";
import { percent, useRoad } from "./useRoad";

const road = useRoad();
const view = ref<View | "beside">("visits");
const chosen = ref<[number, number]>([-1, -1]);
const fill = ref(true);
const signedBy = ref("");
const signedWhy = ref("");
const VIEWS: { key: View | "beside"; word: string }[] = [
  { key: "visits", word: "Visited" },
  { key: "off", word: "Off by" },
  { key: "before", word: "Before" },
  { key: "after", word: "After" },
  { key: "beside", word: "Side by side" },
];
const TITLES: Record<View, string> = {
  visits: "Where you have been",
  off: "Too lean (warm) or too rich (cool), per cent",
  before: "The fuel table as it was driven",
  after: "The fuel table corrected",
};
/** The tables that are drawn. */
const drawn = computed<View[]>(() => (view.value === "beside" ? ["visits", "before", "after"] : [view.value]));
const words = (said: LogSaid) =>
  `${percent(said.where.coverage, 0)} of the cells that are driven in were visited enough. ${said.correction ? `${said.correction.moved} cells corrected, ${said.correction.held} held back, ${said.correction.filled} filled.` : ""}`;
const asked = computed(() => ({
  causes: [],
  curves: [],
  cells: true,
  fill: fill.value,
  signed_by: signedBy.value,
  signed_why: signedWhy.value,
}));
const constants = computed(() => road.said.value?.split?.causes.filter((c) => c.named && c.patched && c.key !== "tip_in") ?? []);
</script>

<template>
  <NeedsLog v-slot="{ said }" :road="road">
    <ChoiceBar v-model="view" :options="VIEWS" label="What is shown" />
    <div class="grid gap-x-8" :class="{ 'lg:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]': view !== 'beside' }">
      <div>
        <div class="grid gap-x-4" :class="{ 'lg:grid-cols-3': view === 'beside' }">
          <RoadGrid
            v-for="v in drawn"
            :key="v"
            v-model="chosen"
            :title="TITLES[v]"
            :words="words(said)"
            :x="said.where.x"
            :y="said.where.y"
            :y-label="said.where.y_label"
            :cells="cells(said, v, view === 'beside')"
            :counts="v === 'visits' ? said.where.counts : undefined"
            :small="view === 'beside'"
          />
        </div>
        <p v-if="view === 'beside'" class="min-h-[1.4em] text-[0.92rem] leading-snug" aria-live="polite">
          {{ chosen[0] < 0 ? "Press a cell, or walk by the arrow keys: it is marked in all three." : inWords(said, chosen[0], chosen[1]) }}
        </p>
        <p class="text-[0.88rem] leading-snug text-soft">
          <template v-if="drawn.includes('visits')"
            >Seconds in each cell; dark where that is enough. Cells that no road asks for are grey. </template
          ><template v-if="drawn.includes('after')"
            >Thick edge: corrected. Dotted: nobody was there, it follows the engine's shape. Barred: held back.</template
          >
        </p>
      </div>
      <div class="grid content-start gap-3 pt-3 leading-snug">
        <p class="text-[1.15rem]">{{ percent(said.where.coverage, 0) }} of the cells that are driven in were visited enough.</p>
        <template v-if="said.correction">
          <p>
            {{ said.correction.moved }} cells are off by more than their doubt, {{ said.correction.filled }} beside them follow. What is
            left where it was driven: {{ percent(said.correction.before) }} before, {{ percent(said.correction.after) }} after (root of the
            mean square, constants taken out). Spark is never learned from the mixture.
          </p>
          <p v-if="constants.length" class="border-l-4 border-care bg-wash px-3 py-2">
            <b>Constants first:</b> {{ constants.map((c) => c.name.toLowerCase()).join(", ") }}. The cells here are what is left once those
            are right; corrected alone, they leave the larger part.
            <RouterLink :to="{ path: `/b/${road.store.id}/road/off`, query: { log: road.id.value } }" class="underline">To them</RouterLink>
          </p>
          <label class="flex items-center gap-2"
            ><input v-model="fill" type="checkbox" class="size-5" />Cells that nobody visited follow the engine's shape</label
          >
          <fieldset v-if="said.correction.held" class="border border-line px-3 pb-2">
            <legend class="px-1">
              {{ said.correction.held }} {{ said.correction.held === 1 ? "cell" : "cells" }} at high load would be made leaner
            </legend>
            <p class="text-[0.9rem] text-soft">
              They stay as they are unless somebody signs. A lean engine under load burns its pistons; a rich one is slow.
            </p>
            <label class="mt-1 block text-[0.86rem] text-soft"
              >Who signs<input v-model="signedBy" maxlength="120" class="mt-0.5 h-11 w-full border border-line bg-sheet px-2 text-ink"
            /></label>
            <label class="mt-1 block text-[0.86rem] text-soft"
              >Why it is safe<input
                v-model="signedWhy"
                maxlength="600"
                class="mt-0.5 h-11 w-full border border-line bg-sheet px-2 text-ink"
            /></label>
          </fieldset>
          <DeedOffer
            :key="`${fill} ${signedBy} ${signedWhy}`"
            :road="road"
            :asked="asked"
            :word="`Correct ${said.correction.moved} cells`"
            says="As a revision of the kept tune, with this log in its reason. The log before says what it was; the next one says whether it worked."
          />
        </template>
        <p v-else>{{ said.why_not }}</p>
      </div>
    </div>
  </NeedsLog>
</template>
