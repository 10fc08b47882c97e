<script setup lang="ts">
// Every part with its terminals and what a meter shows on each, black on battery minus, in this position of the key. One press puts a lead down.
import { computed } from "vue";
import type { UseMeterReturn } from "./useMeter";

const props = defineProps<{ meter: UseMeterReturn }>();
const { board, leads, state, put } = props.meter;
const parts = computed(() => {
  const found = new Map<string, NonNullable<typeof board.value>["terminals"]>();
  for (const t of board.value?.terminals ?? []) found.set(t.part, [...(found.get(t.part) ?? []), t]);
  return [...found].map(([part, pins]) => ({ part, pins }));
});
const word = computed(() => board.value?.states.find((s) => s.key === state.value)?.word ?? "");
const on = (key: string) => (leads.value.red === key ? "red" : leads.value.black === key ? "black" : null);
/** How full the bar under a terminal is: of the volts of the battery. */
const most = computed(() => Math.max(...(board.value?.terminals.map((t) => t.volts) ?? [1]), 1));
const share = (volts: number) => `${Math.max(0, Math.min(1, volts / most.value)) * 100}%`;
</script>

<template>
  <section class="mt-3" aria-label="Terminals">
    <p class="mb-1.5 text-[0.95rem] font-semibold">Black on battery minus, {{ word }}</p>
    <div class="flex flex-wrap gap-x-3 gap-y-2">
      <div v-for="p in parts" :key="p.part" class="max-w-full border-t-2 border-ink pt-0.5">
        <h3 class="text-[0.82rem] font-semibold whitespace-nowrap first-letter:uppercase">{{ p.part }}</h3>
        <div class="flex flex-wrap gap-1">
          <button
            v-for="t in p.pins"
            :key="t.key"
            type="button"
            class="relative flex min-h-11 w-[5.2rem] flex-col justify-between border bg-sheet px-1.5 pt-0.5 pb-1.5 text-left"
            :class="on(t.key) ? 'border-ink outline-2 outline-ink' : 'border-line'"
            :aria-pressed="on(t.key) !== null"
            @click="put(t.key)"
          >
            <span class="flex w-full items-center justify-between gap-1">
              <span class="min-w-0 truncate text-[0.8rem] leading-tight text-soft"
                ><span class="sr-only">{{ p.part }} </span>{{ t.pin || "joint" }}</span
              >
              <span v-if="on(t.key)" class="lead" :class="on(t.key) === 'red' ? 'lead-red' : 'lead-black'" aria-hidden="true">{{
                on(t.key) === "red" ? "red" : "blk"
              }}</span>
            </span>
            <span class="num text-[0.95rem] leading-tight font-semibold">{{ t.volts.toFixed(2) }}<span class="sr-only"> V</span></span>
            <span class="absolute bottom-0 left-0 h-1 bg-good" :style="{ width: share(t.volts) }" aria-hidden="true"></span>
          </button>
        </div>
      </div>
    </div>
  </section>
</template>
