<script setup lang="ts">
// Which rows are believed: a funnel of rules, each with what it took; pressed, it shows where on the strip. The lag, the sensor, the weather.
import { scaleLinear } from "d3-scale";
import { computed, defineAsyncComponent, ref } from "vue";
import Drawing from "@/figures/Drawing.vue";
import type { LogSaid, Sieve } from "./asks";
import NeedsLog from "./NeedsLog.vue";
import { useRoad } from "./useRoad";

const StripView = defineAsyncComponent(() => import("./StripView.vue"));
const road = useRoad();
const chosen = ref<string>("moves");
const STEP = 40;
const TOP = 30;
const all = (said: LogSaid) => said.funnel[0]!.took + said.funnel[0]!.left;
const sieve = (said: LogSaid): Sieve => said.funnel.find((s) => s.key === chosen.value) ?? said.funnel[0]!;
const share = (n: number, of: number) => `${((n / Math.max(of, 1)) * 100).toFixed(n && n < of / 1000 ? 1 : 0)} %`;
const lost = (s: Sieve, said: LogSaid) => (s.took ? `− ${s.took.toLocaleString("en-GB")} (${share(s.took, all(said))})` : "none");
const words = (said: LogSaid) =>
  `Of ${all(said).toLocaleString("en-GB")} rows ${said.funnel.at(-1)!.left.toLocaleString("en-GB")} are believed. Taken away: ${said.funnel.map((s) => `${s.word.toLowerCase()} ${s.took.toLocaleString("en-GB")}`).join(", ")}.`;
const height = computed(() => TOP + STEP * 9 + 8);
/** The funnel as trapezia: as wide above as what came, below as what is left. */
function shape(said: LogSaid, i: number, width: number): string {
  const x = scaleLinear()
    .domain([0, all(said)])
    .range([0, width - 232]);
  const before = i ? said.funnel[i - 1]!.left : all(said);
  const a = x(before);
  const b = x(said.funnel[i]!.left);
  const y = TOP + i * STEP;
  return `M0 ${y}H${a}L${b} ${y + STEP - 4}H0Z`;
}
</script>

<template>
  <NeedsLog v-slot="{ said }" :road="road">
    <div class="grid gap-x-8 lg:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
      <Drawing title="From every row to those that are believed" :height="height" :words="words(said)" interactive>
        <template #default="{ width }">
          <text x="2" y="20" font-size="13">{{ all(said).toLocaleString("en-GB") }} rows, {{ said.seconds.toFixed(0) }} s</text>
          <g
            v-for="(s, i) in said.funnel"
            :key="s.key"
            role="button"
            tabindex="0"
            class="cursor-pointer"
            :aria-pressed="chosen === s.key"
            :aria-label="`${s.word} ${lost(s, said)} rows: ${s.why}`"
            @click="chosen = s.key"
            @keydown.enter="chosen = s.key"
            @keydown.space.prevent="chosen = s.key"
          >
            <rect x="0" :y="TOP + i * STEP" :width="width" :height="STEP - 2" :fill="chosen === s.key ? 'var(--wash)' : 'transparent'" />
            <path
              :d="shape(said, i, width)"
              :fill="s.took ? 'var(--line)' : 'var(--hair)'"
              :stroke="chosen === s.key ? 'var(--ink)' : 'none'"
            />
            <text :x="width - 224" :y="TOP + i * STEP + 15" font-size="13"
              ><tspan font-weight="600">{{ s.word }}</tspan
              ><tspan :x="width - 224" dy="16" font-size="12" class="num">{{ ` ${lost(s, said)}` }}</tspan></text
            >
          </g>
          <text x="2" :y="TOP + 8 * STEP + 18" font-size="14" font-weight="600"
            >{{ said.funnel.at(-1)!.left.toLocaleString("en-GB") }} rows believed, {{ share(said.funnel.at(-1)!.left, all(said)) }}</text
          >
        </template>
      </Drawing>
      <div class="grid gap-3 pt-3 leading-snug">
        <p>
          <b>{{ sieve(said).word }}:</b> {{ sieve(said).why }}. It took {{ sieve(said).took_s.toFixed(0) }} s of what was left.
        </p>
        <p class="border-t border-hair pt-2"><b>The sensor.</b> {{ said.sensor.words }}</p>
        <p class="border-t border-hair pt-2">
          <b>The lag.</b> {{ said.lag.words }} Every mixture is laid back to the charge that it came from.
        </p>
        <p class="border-t border-hair pt-2"><b>The day.</b> {{ said.weather.words }}</p>
        <p v-if="said.ratio !== null" class="border-t border-hair pt-2">
          <b>The pulse.</b> <span class="num">{{ said.ratio?.toFixed(2) }}</span> times what this build gives at the same speed and load: it
          is this car.
        </p>
      </div>
    </div>
    <StripView :road="road" :spans="sieve(said).spans" :spans-word="sieve(said).word" brief />
  </NeedsLog>
</template>
