<script setup lang="ts">
// What is still to be driven, in words that a passenger reads out; one a card on a phone.
import { IconPrinter } from "@tabler/icons-vue";
import { roadApi } from "./asks";
import NeedsLog from "./NeedsLog.vue";
import { onDevice, percent, useRoad } from "./useRoad";

const road = useRoad();
const done = onDevice<Record<string, string[]>>("uphill-spark.driven", {});
const is = (what: string) => done.value[road.id.value]?.includes(what) ?? false;
function tick(what: string): void {
  const mine = done.value[road.id.value] ?? [];
  done.value = { ...done.value, [road.id.value]: is(what) ? mine.filter((w) => w !== what) : [...mine, what] };
}
const bar = (share: number) => `${Math.round(share * 100)}%`;
const lasts = (s: number) => (s >= 120 ? `${Math.round(s / 60)} min` : `${s} s`);
</script>

<template>
  <NeedsLog v-slot="{ said }" :road="road">
    <p class="mt-3 border-l-4 border-spark bg-wash px-3 py-2 leading-snug">
      <b>Never while driving.</b> A passenger reads this out and works the laptop. Keep to the road's limits; a hill or a rolling road gives
      load without speed.
    </p>
    <div class="mt-3 flex flex-wrap items-center justify-between gap-3">
      <div class="min-w-56 flex-1">
        <p>{{ percent(said.where.coverage, 0) }} of the cells that are driven in were visited enough.</p>
        <div
          class="mt-1 h-2 border border-ink"
          role="progressbar"
          aria-label="Cells that were visited enough"
          aria-valuemin="0"
          aria-valuemax="100"
          :aria-valuenow="Math.round(said.where.coverage * 100)"
        >
          <div class="h-full bg-[var(--ink)]" :style="{ width: bar(said.where.coverage) }"></div>
        </div>
      </div>
      <a :href="roadApi.paper(road.store.id, road.id.value, 'plan.pdf')" class="btn no-print"
        ><IconPrinter :size="18" aria-hidden="true" />On paper</a
      >
    </div>
    <p v-if="!said.to_drive.length" class="mt-3">Nothing is missing: drive it, and log it again after the next change.</p>
    <ol class="mt-2">
      <li v-for="(l, i) in said.to_drive" :key="l.what" class="flex gap-3 border-t border-ink py-3" :class="{ 'opacity-60': is(l.what) }">
        <span class="num w-7 shrink-0 text-[1.45rem] leading-none">{{ i + 1 }}</span>
        <div class="min-w-0 flex-1">
          <p class="text-[1.2rem] leading-snug" :class="{ 'line-through': is(l.what) }">{{ l.what }}</p>
          <p class="leading-snug text-soft">
            {{ lasts(l.seconds) }}<template v-if="l.km_h.length">, {{ l.km_h[0] }} to {{ l.km_h[1] }} km/h</template>. {{ l.why }}.
          </p>
          <p v-if="l.caution" class="mt-1 border-l-4 border-spark pl-2 text-[0.92rem] leading-snug">{{ l.caution }}</p>
        </div>
        <button type="button" class="btn no-print self-start" :aria-pressed="is(l.what)" @click="tick(l.what)">
          {{ is(l.what) ? "Driven" : "Tick" }}<span class="sr-only">: {{ l.what }}</span>
        </button>
      </li>
    </ol>
  </NeedsLog>
</template>
