<script setup lang="ts">
// The verdict on the engine: fit or not and why, what is likely wrong, and the test that would settle it soonest.
import { computed } from "vue";
import type { Fitness, Severity } from "@/api/types";
import SeverityMark from "@/parts/SeverityMark.vue";

const props = defineProps<{ fitness: Fitness }>();
const WORDS: Record<Fitness["word"], [string, Severity]> = {
  fit: ["Fit for injection", "sound"],
  with_care: ["Fit, with something to watch", "watch"],
  mend_first: ["Mend first", "sort_out"],
  not_fit: ["Not fit as it is", "stop"],
  not_known: ["Not known yet", "unknown"],
};
const said = computed(() => WORDS[props.fitness.word]);
</script>

<template>
  <section class="mt-3 border border-ink p-3" aria-label="Is the engine fit">
    <p class="flex flex-wrap items-center gap-x-2 text-[1.25rem] font-semibold">
      <SeverityMark :severity="said[1]" :size="22" />{{ said[0] }}
    </p>
    <p class="mt-0.5">{{ fitness.reason }}</p>
    <ul v-if="fitness.causes.length" class="mt-2" aria-label="What is likely wrong">
      <li
        v-for="c in fitness.causes"
        :key="c.key"
        class="grid grid-cols-[7.2rem_minmax(0,1fr)] items-baseline gap-x-3 border-t border-hair py-1 leading-tight"
      >
        <span>
          <span class="block text-[0.9rem]">{{ c.how_sure }}</span>
          <span class="mt-1 block h-1.5 bg-well"
            ><span class="block h-full bg-ink" :style="{ width: `${Math.round(c.chance * 100)}%` }"></span
          ></span>
        </span>
        <span
          ><b>{{ c.label.charAt(0).toUpperCase() + c.label.slice(1) }}</b
          ><br /><span class="text-[0.92rem]">{{ c.mend }}</span></span
        >
      </li>
    </ul>
    <p v-if="fitness.next_test" class="mt-2 border-t border-hair pt-2 leading-snug">
      <b>Test next: {{ fitness.next_test.label.charAt(0).toLowerCase() + fitness.next_test.label.slice(1) }}</b
      >, about {{ fitness.next_test.hours }} h. It tells {{ fitness.next_test.tells }}.
      <span class="block text-[0.92rem] text-soft">{{ fitness.next_test.how }}</span>
    </p>
  </section>
</template>
