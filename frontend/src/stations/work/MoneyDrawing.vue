<script setup lang="ts">
// What is spent, what is still to pay, the reserve for what is not known better, against the budget, on one bar.
import { computed } from "vue";
import { RouterLink } from "vue-router";
import Drawing from "@/figures/Drawing.vue";
import { useWork } from "./useWork";

const { store, work } = useWork();
const m = computed(() => work.value.money);
const told = (n: number) => `${n.toLocaleString("en-GB", { maximumFractionDigits: 0 })} ${m.value.currency}`.trim();
const most = computed(() => Math.max(m.value.spent + m.value.to_pay + m.value.reserve, m.value.budget ?? 0, 1) * 1.06);
const parts = computed(() => {
  let from = 0;
  return [
    { word: "spent", value: m.value.spent, fill: "var(--ink)" },
    { word: "to pay", value: m.value.to_pay, fill: "var(--info)" },
    { word: "reserve", value: m.value.reserve, fill: "url(#doubt)" },
  ].map((p) => ({ ...p, from: (from += p.value) - p.value }));
});
const dearest = computed(() => work.value.parts.filter((p) => p.price).slice(0, 200));
const left = computed(() => (m.value.budget === null ? null : m.value.budget - m.value.cost - m.value.reserve));
const words = computed(
  () =>
    `Spent ${told(m.value.spent)}, to pay ${told(m.value.to_pay)}, reserve ${told(m.value.reserve)}, budget ${m.value.budget === null ? "none" : told(m.value.budget)}`,
);
</script>

<template>
  <p class="flex flex-wrap items-baseline gap-x-5 gap-y-1">
    <span
      ><b class="text-[1.7rem] leading-none font-semibold">{{ m.priced ? told(m.cost) : "no price yet" }}</b
      ><template v-if="m.priced"> all in all</template></span
    >
    <span v-if="left !== null" :class="left < 0 ? 'font-semibold text-spark' : ''">{{
      left < 0 ? `${told(-left)} over the budget, with its reserve` : `${told(left)} of the budget left, with its reserve`
    }}</span>
  </p>
  <Drawing title="Money" :height="104" :words="words">
    <template #default="{ width }">
      <defs>
        <pattern id="doubt" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="7" height="7" fill="var(--sheet)" /><rect width="2" height="7" fill="var(--ink)" />
        </pattern>
      </defs>
      <g v-for="(p, i) in parts" :key="p.word">
        <template v-if="p.value > 0">
          <rect
            :x="12 + (p.from / most) * (width - 24)"
            y="34"
            :width="Math.max((p.value / most) * (width - 24), 1.5)"
            height="26"
            :fill="p.fill"
            stroke="var(--ink)"
          />
          <text
            :x="12 + (p.from / most) * (width - 24) + 2"
            :y="i % 2 ? 92 : 76"
            font-size="13"
            :text-anchor="p.from / most > 0.5 ? 'end' : 'start'"
            >{{ p.word }} {{ told(p.value) }}</text
          >
        </template>
      </g>
      <g v-if="m.budget !== null">
        <path :d="`M${12 + (m.budget / most) * (width - 24)} 22 V66`" stroke="var(--spark)" stroke-width="2.5" />
        <text :x="12 + (m.budget / most) * (width - 24) - 5" y="20" font-size="13" text-anchor="end">budget {{ told(m.budget) }}</text>
      </g>
    </template>
  </Drawing>
  <p class="mt-2">
    {{ m.priced }} lines have a price<template v-if="m.unpriced">; {{ m.unpriced }} that are to come have none yet</template
    ><template v-if="m.back">; {{ told(m.back) }} come back</template>.
    <span v-if="m.strange.length" class="font-semibold text-care"
      >Prices in {{ m.strange.join(", ") }} are in no sum: say beside what that is worth.</span
    >
  </p>
  <p class="text-[0.9rem] text-soft">
    The reserve covers nine of ten chances: a range by its width, a single price by a tenth each way until it is paid.
  </p>
  <details v-if="dearest.length" class="mt-2">
    <summary class="cursor-pointer py-2 font-semibold">Lines with a price</summary>
    <ul class="columns-1 gap-6 sm:columns-2">
      <li v-for="p in dearest" :key="p.key" class="flex break-inside-avoid justify-between gap-3 border-t border-hair py-1">
        <RouterLink :to="{ path: `/b/${store.id}/work/parts`, hash: `#f${p.entered_at}` }" class="min-w-0 underline">{{
          p.what
        }}</RouterLink><span class="num shrink-0">{{ p.price }}</span>
      </li>
    </ul>
  </details>
</template>
