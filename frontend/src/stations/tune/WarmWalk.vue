<script setup lang="ts">
// From frost to hot: what the engine gets at each temperature of its coolant, with the tables in use.
import { useQuery } from "@pinia/colada";
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { computed, ref } from "vue";
import { tuneApi } from "./asks";
import type { WarmStep } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";
import { useScales } from "@/figures/owners";
import { useBuild } from "@/stores/build";

const store = useBuild();
const own = useScales();
const { data } = useQuery({ key: () => ["walk", store.id, store.revision], query: () => tuneApi.walk(store.id, store.revision) });
const steps = computed(() => data.value ?? []);
const index = ref(10);
const now = computed<WarmStep | undefined>(() => steps.value[Math.min(index.value, steps.value.length - 1)]);
const told = (celsius: number) => own.value.temperature.tell(celsius + 273.15);
const H = 300;
/** Each in a band of its own: they share nothing but the coolant. */
const LINES = [
  { key: "idle_ms", word: "pulse at idle", unit: "ms" },
  { key: "idle_rpm", word: "idle target", unit: "rpm" },
  { key: "crank_ms", word: "cranking pulse", unit: "ms" },
] as const;
const BAND = 84;
const y = (k: number) => {
  const values = steps.value.map((s) => s[LINES[k]!.key]);
  return scaleLinear()
    .domain([0, Math.max(1e-9, ...values)])
    .range([18 + (k + 1) * BAND - 8, 18 + k * BAND + 22]);
};
const x = (width: number) =>
  scaleLinear()
    .domain([steps.value[0]?.coolant ?? -20, steps.value.at(-1)?.coolant ?? 100])
    .range([40, width - 40]);
const path = (k: number, width: number) =>
  line<WarmStep>()
    .x((s) => x(width)(s.coolant))
    .y((s) => y(k)(s[LINES[k]!.key]))(steps.value) ?? "";
const rows = computed(() => {
  const s = now.value;
  if (!s) return [];
  return [
    ["Prime, as the key goes on", `${s.prime_ms} ms`],
    ["Cranking pulse", `${s.crank_ms} ms`],
    ["After the start", `${s.after_start} % more, gone in ${s.after_start_s} s`],
    ["Warm-up fuel", `times ${s.warm_up}`],
    ["Pulse at idle", `${s.idle_ms} ms`],
    ["Idle target", `${s.idle_rpm.toLocaleString("en-GB")} rpm`],
    ["Idle air", `${s.idle_air} % of the valve`],
    ...(s.idle_advance == null ? [] : [["Advance at idle", `${s.idle_advance}° before top`]]),
    ["Wets the wall", `${Math.round(s.wets * 100)} % of a squirt`],
    ["Fan", `${s.fan} %`],
  ];
});
const words = computed(() =>
  now.value ? `At ${told(now.value.coolant)}: ${rows.value.map((r) => r.join(" ")).join(", ")}.` : "The warm-up walk",
);
</script>

<template>
  <div v-if="now">
    <label class="mt-3 block text-[0.86rem] text-soft"
      >Coolant <b class="num text-[1.2rem] text-ink">{{ told(now.coolant) }}</b>
      <input
        v-model.number="index"
        type="range"
        min="0"
        :max="steps.length - 1"
        step="1"
        class="mt-1 h-11 w-full"
        :aria-valuetext="told(now.coolant)"
      />
    </label>
    <div class="grid grid-cols-1 gap-x-6 lg:grid-cols-[minmax(0,1fr)_20rem]">
      <Drawing title="From frost to hot" :height="H" :words="words">
        <template #default="{ width }">
          <path :d="`M${x(width)(now.coolant)} 14V${H - 30}`" stroke="var(--spark)" stroke-width="2" />
          <template v-for="(l, k) in LINES" :key="l.key">
            <path :d="`M40 ${18 + (k + 1) * BAND - 8}H${width - 40}`" stroke="var(--line)" />
            <path :d="path(k, width)" fill="none" stroke="var(--ink)" stroke-width="2" />
            <circle :cx="x(width)(now.coolant)" :cy="y(k)(now[l.key])" r="4.5" fill="var(--spark)" />
            <text :x="width - 40" :y="18 + k * BAND + 16" text-anchor="end" font-size="13"
              ><tspan font-weight="700" class="num">{{ now[l.key].toLocaleString("en-GB") }} {{ l.unit }}</tspan> {{ l.word }}</text
            >
          </template>
          <template v-for="s in steps" :key="s.coolant"
            ><text
              v-if="s.coolant % (width < 520 ? 40 : 20) === 0"
              :x="x(width)(s.coolant)"
              :y="H - 10"
              text-anchor="middle"
              font-size="12"
              class="num"
              >{{ told(s.coolant) }}</text
            ></template
          >
        </template>
      </Drawing>
      <table class="mt-3 w-full text-[0.95rem]">
        <tbody>
          <tr v-for="r in rows" :key="r[0]" class="border-t border-hair">
            <th scope="row" class="py-1.5 pr-2 text-left font-normal text-soft">{{ r[0] }}</th>
            <td class="num py-1.5 font-semibold">{{ r[1] }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="mt-1 text-[0.85rem] text-soft">
      Where the engine starts, dies and starts again, move one curve at a time, and only at its own temperature.
    </p>
  </div>
</template>
