<script setup lang="ts">
// The set that fits best, in its places: each injector's flow against the set's mean, bank by bank, front of the engine to the left.
import { scaleLinear } from "d3-scale";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";

const props = defineProps<{ bench: Stages["injectors"]["bench"]; banks: number[][] }>();
const ROW = 104;
const placed = computed(() => props.banks.map((bank) => bank.map((c) => props.bench.rows.find((r) => r.cylinder === c)!)));
const most = computed(() => Math.max(0.01, ...props.bench.rows.filter((r) => r.cylinder).map((r) => Math.abs(r.deviation ?? 0))) * 1.15);
const y = computed(() => scaleLinear().domain([-most.value, most.value]).range([34, -34])); // prettier-ignore
const H = computed(() => ROW * props.banks.length + 18);
const gap = (width: number, bank: unknown[]) => (width - 90) / Math.max(bank.length, 1);
/** Narrow, the sign stands in the title alone. */
const percent = (d: number | null | undefined, sign = true) =>
  `${(d ?? 0) >= 0 ? "+" : "−"}${Math.abs((d ?? 0) * 100).toFixed(1)}${sign ? " %" : ""}`;
const words = computed(
  () => `Fit ${placed.value.flat().map((r) => `${r.mark} to cylinder ${r.cylinder}, ${percent(r.deviation)}`).join("; ")}.`,
); // prettier-ignore
</script>

<template>
  <Drawing
    :title="`Fit them in this order: spread ${((bench.spread ?? 0) * 100).toFixed(1)} %${banks.length > 1 ? `, banks ${((bench.bank_imbalance ?? 0) * 100).toFixed(2)} % apart` : ''}`"
    :height="H"
    :words="words"
  >
    <template #default="{ width }">
      <g v-for="(bank, b) in placed" :key="b" :transform="`translate(0 ${b * ROW + 54})`">
        <text x="14" y="4" font-size="12" style="fill: var(--soft)">{{ banks.length > 1 ? `bank ${b + 1}` : "front" }}</text>
        <path :d="`M70 0H${width - 16}`" stroke="var(--ink)" stroke-width="1.2" />
        <g v-for="(r, k) in bank" :key="r.mark" :transform="`translate(${70 + gap(width, bank) * (k + 0.5)} 0)`">
          <rect
            x="-15"
            width="30"
            :y="Math.min(y(r.deviation ?? 0), 0)"
            :height="Math.max(Math.abs(y(r.deviation ?? 0)), 1)"
            :fill="Math.abs(r.deviation ?? 0) > 0.025 ? 'var(--care)' : 'var(--good)'"
            opacity="0.75"
          />
          <text :y="(r.deviation ?? 0) >= 0 ? 16 : -6" text-anchor="middle" font-size="15" font-weight="700">{{ r.mark }}</text>
          <text y="48" text-anchor="middle" font-size="12" style="fill: var(--soft)">cyl {{ r.cylinder }}</text>
          <text y="-40" text-anchor="middle" font-size="12" class="num">{{ percent(r.deviation, width >= 480) }}</text>
        </g>
      </g>
    </template>
  </Drawing>
</template>
