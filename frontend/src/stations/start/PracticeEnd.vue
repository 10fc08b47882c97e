<script setup lang="ts">
// How a practice ended: the fault, the score and how it was made up, both ways drawn by minutes and by what was open still.
import { computed } from "vue";
import Drawing from "@/figures/Drawing.vue";
import type { components } from "@/api/schema";

const props = defineProps<{ practice: components["schemas"]["Practice"] }>();
defineEmits<{ again: [] }>();
const end = computed(() => props.practice.ended!);
const H = 260;
const [LEFT, RIGHT, FOOT, TOP] = [52, 16, 40, 18];
type Way = components["schemas"]["LookWay"];
const ways = computed(() => [
  { key: "best", word: "the short way", rows: end.value.best },
  { key: "own", word: "yours", rows: end.value.own },
]);
const minutes = (rows: Way[]) => rows.reduce((sum, w) => sum + w.minutes, 0);
const longest = computed(() => Math.max(5, ...ways.value.map((w) => minutes(w.rows))));
const most = computed(() => Math.max(1, ...ways.value.flatMap((w) => w.rows.map((r) => r.open_bits))));
const x = (width: number, m: number) => LEFT + ((width - LEFT - RIGHT) * m) / longest.value;
const y = (bits: number) => TOP + ((H - TOP - FOOT) * (most.value - bits)) / most.value;
function line(width: number, rows: Way[]): string {
  let m = 0;
  const points = [`M${x(width, 0)},${y(most.value)}`];
  for (const r of rows) {
    m += r.minutes;
    points.push(`H${x(width, m)}`, `V${y(r.open_bits)}`);
  }
  return points.join("");
}
const words = computed(() => ways.value.map((w) => `${w.word}: ${w.rows.length} looks, ${minutes(w.rows)} min`).join("; "));
</script>

<template>
  <div>
    <div class="flex flex-wrap items-end gap-x-6 gap-y-2 border-b-2 border-ink pb-3">
      <p>
        <b class="num block text-[2rem] leading-none" data-testid="score">{{ end.score }}</b><span class="text-soft">of 100</span>
      </p>
      <div class="min-w-0 flex-1 basis-60">
        <h2 class="text-[1.3rem] leading-tight">{{ end.found ? "Found" : "It was" }}: {{ end.fault }}</h2>
        <p>{{ end.mend }}</p>
        <p class="text-soft">{{ end.settles }}</p>
      </div>
      <button type="button" class="btn btn-main" @click="$emit('again')">Another</button>
    </div>
    <ul class="mt-2">
      <li v-for="t in end.told" :key="t" class="py-0.5">{{ t }}</li>
    </ul>
    <Drawing title="What was open, minute by minute" :height="H" :words="words">
      <template #default="{ width }">
        <line :x1="LEFT" :x2="width - RIGHT" :y1="y(0)" :y2="y(0)" stroke="var(--line)" />
        <path
          v-for="w in ways"
          :key="w.key"
          :d="line(width, w.rows)"
          fill="none"
          :stroke="w.key === 'own' ? 'var(--spark)' : 'var(--ink)'"
          :stroke-width="w.key === 'own' ? 2 : 3"
          :stroke-dasharray="w.key === 'own' ? '6 4' : undefined"
        />
        <text :x="LEFT - 8" :y="y(most) + 4" text-anchor="end" font-size="12">open</text>
        <text :x="LEFT - 8" :y="y(0) + 4" text-anchor="end" font-size="12">sure</text>
        <text :x="width - RIGHT" :y="H - 12" text-anchor="end" font-size="12">{{ longest }} min</text>
        <text :x="LEFT" :y="H - 12" font-size="12">
          <tspan font-weight="700">whole line</tspan>: the short way; <tspan font-weight="700" fill="var(--spark)">broken line</tspan>:
          yours
        </text>
      </template>
    </Drawing>
    <div class="mt-2 grid gap-x-8 gap-y-3 lg:grid-cols-2">
      <section v-for="w in ways" :key="w.key" :aria-label="w.word">
        <h3 class="text-[1.05rem]">{{ w.key === "best" ? "The short way" : "Your looks" }}, {{ minutes(w.rows) }} min</h3>
        <p v-if="!w.rows.length" class="text-soft">None.</p>
        <ol class="list-none">
          <li v-for="(r, k) in w.rows" :key="k" class="border-b border-hair py-1 leading-tight">
            {{ r.words }}: <b>{{ r.says }}</b> <span class="text-[0.85rem] text-soft">{{ r.minutes }} min</span>
          </li>
        </ol>
      </section>
    </div>
  </div>
</template>
