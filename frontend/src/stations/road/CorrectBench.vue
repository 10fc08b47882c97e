<script setup lang="ts">
// Where it was driven, and what the cells should be there: visits, what is off, before, after; taken with one press, leaner cells at high load with a name.
import { computed, ref } from "vue";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import type { LogSaid, S } from "./asks";
import DeedOffer from "./DeedOffer.vue";
import NeedsLog from "./NeedsLog.vue";
import RoadGrid, { type GridCell } from "./RoadGrid.vue";
import { percent, useRoad } from "./useRoad";

const road = useRoad();
type View = "visits" | "off" | "before" | "after";
const view = ref<View>("visits");
const chosen = ref<[number, number]>([-1, -1]);
const fill = ref(true);
const signedBy = ref("");
const signedWhy = ref("");
const VIEWS: { key: View; word: string }[] = [
  { key: "visits", word: "Visited" },
  { key: "off", word: "Off by" },
  { key: "before", word: "Before" },
  { key: "after", word: "After" },
];
const IS: Record<S["Cell"]["what"], string> = {
  kept: "off by no more than its doubt: left",
  corrected: "corrected",
  limited: "corrected by a tenth, which is the most at a time",
  held: "held back: it would be made leaner at high load",
  filled: "not visited; follows the engine's own shape",
  not_visited: "not visited: left",
};
const at = (said: LogSaid, i: number, j: number) => said.correction!.cells[i * said.correction!.x.length + j]!;
const colour = (off: number) => (off > 0 ? "var(--spark)" : "var(--info)");
const strength = (off: number) => Math.min(Math.abs(off) / 0.08, 1);
function cell(said: LogSaid, i: number, j: number): GridCell {
  const seconds = said.where.seconds[i]![j]!;
  const off = said.where.off[i]![j];
  const doubt = said.where.doubt[i]![j];
  const c = said.correction ? at(said, i, j) : null;
  const where = `${Math.round(said.where.x[j]!)} rpm, ${Math.round(said.where.y[i]!)}: ${seconds.toFixed(1)} s`;
  const lean =
    off === null || off === undefined ? "" : `, ${percent(Math.abs(off))} too ${off > 0 ? "lean" : "rich"} ± ${percent(2 * (doubt ?? 0))}`;
  const became = c ? `. ${c.old} to ${c.new} %: ${IS[c.what]}` : "";
  const words = `${where}${lean}${became}.`;
  const edge =
    view.value === "after" && c ? (c.what === "held" ? "held" : c.what === "filled" ? "filled" : c.new !== c.old ? "ink" : "") : "";
  if (view.value === "visits")
    return {
      text: seconds >= 1 ? `${Math.round(seconds)}` : "",
      size: seconds ? Math.min(Math.sqrt(seconds / 12), 1) : 0,
      fill: "var(--ink)",
      strength: doubt && doubt < 0.012 && seconds >= 3 ? 0.85 : 0.28,
      words,
    };
  if (view.value === "off")
    return {
      text: off == null || seconds < 0.5 ? "" : `${off > 0 ? "+" : "−"}${Math.abs(off * 100).toFixed(1)}`,
      size: off == null || seconds < 0.3 ? 0 : 1,
      fill: colour(off ?? 0),
      strength: strength(off ?? 0) * 0.85,
      words,
    };
  const value = view.value === "before" ? c?.old : c?.new;
  const by = c ? Math.log(c.new / c.old) : 0;
  return {
    text: value === undefined ? "" : value.toFixed(1),
    size: view.value === "after" && by ? 1 : 0,
    fill: colour(by),
    strength: strength(by) * 0.7,
    edge,
    words,
  };
}
const cells = (said: LogSaid) => said.where.y.map((_, i) => said.where.x.map((__, j) => cell(said, i, j)));
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
    <div class="grid gap-x-8 lg:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
      <div>
        <ChoiceBar v-model="view" :options="VIEWS" label="What is shown" />
        <RoadGrid
          v-model="chosen"
          :title="
            view === 'visits'
              ? 'Where you have been'
              : view === 'off'
                ? 'Too lean (warm) or too rich (cool), per cent'
                : view === 'before'
                  ? 'The fuel table as it was driven'
                  : 'The fuel table corrected'
          "
          :words="words(said)"
          :x="said.where.x"
          :y="said.where.y"
          :y-label="said.where.y_label"
          :cells="cells(said)"
          :counts="view === 'visits' ? said.where.counts : undefined"
        />
        <p class="text-[0.88rem] leading-snug text-soft">
          <template v-if="view === 'visits'"
            >Seconds in each cell; dark where that is enough. Cells that no road asks for are grey.</template
          >
          <template v-else-if="view === 'after'"
            >Thick edge: corrected. Dotted: nobody was there, it follows the engine's shape. Barred: held back.</template
          >
        </p>
      </div>
      <div class="grid gap-3 pt-3 leading-snug">
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
