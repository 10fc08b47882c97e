<script setup lang="ts">
// Cylinders in a row as bars of compression, with the band of spread hanging from the highest.
import { scaleLinear } from "d3-scale";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";
import AxisY from "@/figures/AxisY.vue";
import { useScales } from "@/figures/owners";

const props = defineProps<{ engine: Stages["engine"]; cylinders: number }>();
const own = useScales();
const H = 250;
const LEAST_SHOWN = 8e5; // Pa
const of = (pa: number) => own.value.compression.of(pa);
const bare = (n: number) => n.toFixed(0);
/** Cylinders that were read. */
const read = computed(() =>
  props.engine.compression.flatMap((b) =>
    b.dry_pa == null
      ? []
      : [{ cylinder: b.cylinder, dry: of(b.dry_pa), wet: b.wet_pa && of(b.wet_pa), before: b.before_pa && of(b.before_pa) }],
  ),
);
const bars = computed(() => {
  const by = new Map(read.value.map((b) => [b.cylinder, b]));
  return Array.from({ length: props.cylinders }, (_, i) => ({ cylinder: i + 1, bar: by.get(i + 1) }));
});
const highest = computed(() => Math.max(0, ...read.value.map((b) => b.dry)));
const lowest = computed(() => Math.min(...read.value.map((b) => b.dry)));
const expected = computed(() => of(props.engine.compression_expected_pa));
const y = computed(() =>
  scaleLinear()
    .domain([0, Math.max(highest.value, expected.value, of(LEAST_SHOWN)) * 1.12])
    .range([H - 30, 26]),
);
const left = 58;
const x = (i: number, width: number) => left + 14 + ((i + 0.5) * (width - left - 120)) / props.cylinders;
const wide = (width: number) => Math.min(52, ((width - left - 120) / props.cylinders) * 0.62);
/** The words beside the lines, pushed apart where two lines lie close. */
const beside = computed(() => {
  const rows = highest.value
    ? ([0.9, 0.8, 0.65] as const).map((share) => ({
        key: `${Math.round((1 - share) * 100)} % below`,
        y: y.value(highest.value * share),
        blue: false,
      }))
    : [];
  const all = [...rows, { key: "to expect", y: y.value(expected.value), blue: true }].sort((a, b) => a.y - b.y);
  for (let i = 1; i < all.length; i++) all[i]!.y = Math.max(all[i]!.y, all[i - 1]!.y + 13);
  return all;
});
const before = computed(() => props.engine.compression.some((b) => b.before_pa));
const words = computed(() =>
  highest.value
    ? `Compression by cylinder: ${bars.value.map((b) => `${b.cylinder} ${b.bar ? `${bare(b.bar.dry)} ${own.value.compression.unit}${b.bar.before ? `, before ${bare(b.bar.before)}` : ""}` : "not read"}`).join(", ")}`
    : "No compression read yet",
);
</script>

<template>
  <Drawing title="Compression, cylinder by cylinder" :height="H" :words="words">
    <template #default="{ width }">
      <AxisY :scale="y" :x="left" :label="`${own.compression.unit}, gauge`" :wide="width - left - 106" />
      <template v-if="highest">
        <rect
          :x="left"
          :width="width - left - 106"
          :y="y(highest)"
          :height="y(highest * 0.9) - y(highest)"
          fill="var(--good)"
          opacity="0.16"
        />
        <path
          v-for="share in [0.9, 0.8, 0.65]"
          :key="share"
          :d="`M${left} ${y(highest * share)}H${width - 104}`"
          stroke="var(--soft)"
          stroke-dasharray="3 4"
        />
      </template>
      <path :d="`M${left} ${y(expected)}H${width - 104}`" stroke="var(--info)" stroke-width="1.5" stroke-dasharray="8 3" />
      <text
        v-for="l in beside"
        :key="l.key"
        :x="width - 100"
        :y="l.y + 4"
        font-size="12"
        :style="{ fill: l.blue ? 'var(--info)' : undefined }"
        >{{ l.key }}</text
      >
      <g v-for="(b, i) in bars" :key="b.cylinder">
        <template v-if="b.bar">
          <rect
            v-if="b.bar.wet"
            :x="x(i, width) - wide(width) / 2"
            :width="wide(width)"
            :y="y(b.bar.wet)"
            :height="y(0) - y(b.bar.wet)"
            fill="none"
            stroke="var(--info)"
            stroke-dasharray="4 3"
          />
          <rect
            :x="x(i, width) - wide(width) / 2"
            :width="wide(width)"
            :y="y(b.bar.dry)"
            :height="y(0) - y(b.bar.dry)"
            :fill="b.bar.dry < highest * 0.8 ? 'var(--spark)' : 'var(--ink)'"
          />
          <g v-if="b.bar.before" :transform="`translate(${x(i, width)} ${y(b.bar.before)})`">
            <path :d="`M${-wide(width) / 2 - 7} 0h${wide(width) + 14}`" stroke="var(--soft)" stroke-width="3" />
            <path v-if="b.bar.before < b.bar.dry" :d="`M${-wide(width) / 2} 0h${wide(width)}`" stroke="var(--sheet)" stroke-width="1.5" />
          </g>
          <text :x="x(i, width)" :y="y(b.bar.dry) - 6" text-anchor="middle" font-size="12" font-weight="600" class="halo num">{{
            bare(b.bar.dry)
          }}</text>
        </template>
        <template v-else>
          <rect
            :x="x(i, width) - wide(width) / 2"
            :width="wide(width)"
            :y="y(expected)"
            :height="y(0) - y(expected)"
            fill="none"
            stroke="var(--line)"
            stroke-dasharray="3 4"
          />
          <text :x="x(i, width)" :y="y(expected / 2)" text-anchor="middle" font-size="12" style="fill: var(--soft)">?</text>
        </template>
        <text :x="x(i, width)" :y="H - 11" text-anchor="middle" font-size="13">{{ b.cylinder }}</text>
      </g>
      <g v-if="before">
        <path :d="`M${width - 100} 14h16`" stroke="var(--soft)" stroke-width="3" />
        <text :x="width - 79" y="18" font-size="12">time before</text>
      </g>
      <g v-if="highest && engine.compression.length > 1" :transform="`translate(${left + 8} 0)`">
        <path
          :d="`M0 ${y(highest)}V${y(lowest)}M-4 ${y(highest)}h8M-4 ${y(lowest)}h8`"
          stroke="var(--ink)"
          stroke-width="1.4"
          fill="none"
        />
      </g>
    </template>
  </Drawing>
</template>
