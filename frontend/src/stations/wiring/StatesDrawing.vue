<script setup lang="ts">
// Volts of what matters, from key off to full power: a stair for the battery's posts, a mark on it for each thing that hangs below.
import { scaleLinear, scalePoint } from "d3-scale";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";

type Row = Stages["wiring"]["states"][number];
const props = defineProps<{ rows: Row[] }>();
const H = 300;
const THINGS = [
  { key: "unit_v" as const, word: "control unit", shape: "M-5-5H5V5H-5Z" },
  { key: "coils_v" as const, word: "coils", shape: "M0-6L6 5H-6Z" },
  { key: "injectors_v" as const, word: "injectors", shape: "M0-6L6 0L0 6L-6 0Z" },
  { key: "pump_v" as const, word: "pump", shape: "M-5 0A5 5 0 1 0 5 0A5 5 0 1 0-5 0Z" },
];
const SHORT: Record<string, string> = {
  accessory: "accessory",
  off: "off",
  run: "run",
  prime: "prime",
  crank: "crank",
  idle: "idle",
  full: "full",
  night: "night",
};
const live = (v: number | null) => v !== null && v > 1;
const low = computed(() => Math.min(9, ...props.rows.flatMap((r) => THINGS.map((t) => r[t.key]).filter(live) as number[])) - 0.4);
const y = computed(() =>
  scaleLinear()
    .domain([low.value, 14.4])
    .range([H - 62, 22]),
);
const x = (width: number) =>
  scalePoint<string>()
    .domain(props.rows.map((r) => r.key))
    .range([58, width - 40])
    .padding(0.2);
const ticks = computed(() => y.value.ticks(5));
const step = (width: number) => {
  const at = x(width);
  const half = at.step() / 2;
  return props.rows.map((r, i) => `${i ? "L" : "M"}${at(r.key)! - half} ${y.value(r.posts_v)}H${at(r.key)! + half}`).join("");
};
const words = computed(() =>
  props.rows
    .map(
      (r) =>
        `${r.word}: posts ${r.posts_v.toFixed(1)} V${THINGS.filter((t) => live(r[t.key]))
          .map((t) => `, ${t.word} ${r[t.key]!.toFixed(1)} V`)
          .join("")}`,
    )
    .join("; "),
);
/** Under this a control unit resets. */
const RESETS = 9;
</script>

<template>
  <Drawing title="Volts from key off to full power" :height="H" :words="words">
    <template #default="{ width }">
      <g v-for="t in ticks" :key="t">
        <path :d="`M50 ${y(t)}H${width - 12}`" stroke="var(--hair)" />
        <text x="44" :y="y(t) + 4" text-anchor="end" font-size="12" class="num">{{ t }}</text>
      </g>
      <text x="44" y="14" text-anchor="end" font-size="12" style="fill: var(--soft)">V</text>
      <path v-if="low < RESETS" :d="`M50 ${y(RESETS)}H${width - 12}`" stroke="var(--spark)" stroke-width="1.5" stroke-dasharray="5 4" />
      <path :d="step(width)" fill="none" stroke="var(--ink)" stroke-width="2.4" />
      <g v-for="r in rows" :key="r.key" :transform="`translate(${x(width)(r.key)} 0)`">
        <path
          v-for="(t, i) in THINGS"
          v-show="live(r[t.key])"
          :key="t.key"
          :d="t.shape"
          :transform="`translate(${(i - 1.5) * Math.min(13, x(width).step() / 5)} ${y(Math.max(low, r[t.key] ?? low))})`"
          fill="var(--sheet)"
          stroke="var(--ink)"
          stroke-width="1.5"
        />
        <text :y="H - 42" text-anchor="middle" font-size="12">{{ SHORT[r.key] }}</text>
      </g>
      <g v-for="(t, i) in THINGS" :key="t.word" :transform="`translate(${58 + i * Math.min(130, (width - 80) / 4)} ${H - 18})`">
        <path :d="t.shape" fill="var(--sheet)" stroke="var(--ink)" stroke-width="1.5" /><text x="11" y="4" font-size="12">{{
          t.word
        }}</text>
      </g>
    </template>
  </Drawing>
</template>
