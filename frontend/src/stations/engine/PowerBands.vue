<script setup lang="ts">
// The power as it can be told in several ways, each as a band: whether they agree is to be seen at once.
import { scaleLinear } from "d3-scale";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import AxisX from "@/figures/AxisX.vue";
import Drawing from "@/figures/Drawing.vue";
import { useScales } from "@/figures/owners";

const props = defineProps<{ power: Stages["engine"]["power"] }>();
const own = useScales();
const WORDS: Record<string, string> = { target: "wanted", air: "from the air", road: "rolling road", run: "from the run" };
const ROW = 34;
const H = computed(() => props.power.length * ROW + 66);
const kw = (w: number) => own.value.power.of(w);
/** The end of a band; where nothing bounds it, some way past its middle, drawn open. */
const end = (p: { middle: number; high: number | null }) => kw(p.high ?? p.middle * 1.25);
const target = computed(() => kw(props.power.find((p) => p.key === "target")!.middle));
const x = (width: number) =>
  scaleLinear()
    .domain([Math.min(...props.power.map((p) => kw(p.low))) * 0.8, Math.max(...props.power.map((p) => end(p))) * 1.12])
    .range([118, width - 24]);
const words = computed(() =>
  props.power
    .map(
      (p) =>
        `${WORDS[p.key]} ${kw(p.low).toFixed(0)} to ${p.high === null ? "more than can be told" : kw(p.high).toFixed(0)} ${own.value.power.unit}`,
    )
    .join("; "),
);
</script>

<template>
  <Drawing title="Do the ways to tell the power agree" :height="H" :words="words">
    <template #default="{ width }">
      <rect
        :x="x(width)(target * 0.9)"
        :width="x(width)(target * 1.1) - x(width)(target * 0.9)"
        y="14"
        :height="H - 58"
        fill="var(--wash)"
      />
      <path :d="`M${x(width)(target)} 14V${H - 44}`" stroke="var(--ink)" stroke-width="1.6" stroke-dasharray="6 4" />
      <g v-for="(p, i) in power" :key="p.key" :transform="`translate(0 ${32 + i * ROW})`">
        <text x="14" y="4" font-size="13">{{ WORDS[p.key] }}</text>
        <template v-if="p.high === null || p.high > p.low">
          <path :d="`M${x(width)(kw(p.low))} 0H${x(width)(end(p))}`" stroke="var(--good)" stroke-width="9" stroke-opacity="0.45" />
          <path
            :d="`M${x(width)(kw(p.low))} -8V8${p.high === null ? `M${x(width)(end(p)) - 7} -7L${x(width)(end(p))} 0l-7 7` : `M${x(width)(end(p))} -8V8`}`"
            stroke="var(--good)"
            stroke-width="1.6"
          />
        </template>
        <circle :cx="x(width)(kw(p.middle))" r="5.5" :fill="p.key === 'target' ? 'var(--ink)' : 'var(--good)'" />
        <text :x="x(width)(end(p)) + 12" y="4" font-size="12.5" class="num">{{ kw(p.middle).toFixed(0) }}</text>
      </g>
      <AxisX :scale="x(width)" :y="H - 42" :label="own.power.unit" />
    </template>
  </Drawing>
</template>
