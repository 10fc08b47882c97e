<script setup lang="ts">
// The car from above, the harness as a tree between its places, thickness true to the bundle (ten times). One wire traced.
import { scaleLinear } from "d3-scale";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";
import { useCatalogue } from "@/stores/catalogue";
import { useScales } from "@/figures/owners";

const props = defineProps<{ wiring: Stages["wiring"]; traced: string | null; low?: boolean; branch?: string | null }>();
const own = useScales();
const H = props.low ? 296 : 330;
const nodes = computed(() => new Map(props.wiring.nodes.map((n) => [n.key, n])));
const longest = computed(() => Math.max(4.2, ...props.wiring.nodes.map((n) => n.x_m + 0.3)));
const x = (width: number) =>
  scaleLinear()
    .domain([-0.15, longest.value + 0.15])
    .range([18, width - 18]);
const y = scaleLinear()
  .domain([-0.95, 0.95])
  .range([H - 34, 26]);
const wire = computed(() => props.wiring.wires.find((w) => w.key === props.traced) ?? null);
const { zones } = useCatalogue();
const hot = (zone: string) => own.value.temperature.tell(zones.value[zone] ?? 273.15);
const ZONES = [
  { key: "bay", word: "engine bay", from: -0.1, to: 1.4 },
  { key: "cabin", word: "cabin", from: 1.4, to: 3.2 },
  { key: "tank", word: "rear", from: 3.2, to: 9 },
];
const end = (key: string) => nodes.value.get(key);
const thick = (mm: number) => Math.max(1.6, mm * 0.55);
const words = computed(
  () =>
    `Harness from above: ${props.wiring.branches.map((b) => `${b.start} to ${b.end}, ${own.value.distance.tell(b.length_m)}, ${b.wires} wires, ${own.value.length.tell(b.diameter_m)}`).join("; ")}.`,
);
/** Beside the middle of a branch, off its line: above or below one that lies flat, to the right of one that slopes. */
function label(b: Stages["wiring"]["branches"][number], width: number) {
  const [p, q] = [end(b.start)!, end(b.end)!];
  const [dx, dy] = [x(width)(q.x_m) - x(width)(p.x_m), y(q.y_m) - y(p.y_m)];
  const long = Math.hypot(dx, dy) || 1;
  const off = thick(b.diameter_m * 1e3) / 2 + 6;
  const at = { x: x(width)((p.x_m + q.x_m) / 2), y: y((p.y_m + q.y_m) / 2) };
  if (Math.abs(dy) < Math.abs(dx) * 0.12) return { x: at.x, y: at.y + (below(b.start) ? -off - 2 : off + 10), anchor: "middle" };
  if (Math.abs(dy) < Math.abs(dx) * 0.45 && below(b.end)) return { x: at.x - off, y: at.y - off, anchor: "end" };
  const side = dy > 0 === dx > 0 ? -1 : 1; // where the line falls away to the right the words stand above it, else below
  return {
    x: at.x + (off * Math.abs(dy)) / long + 2,
    y: at.y + (off * side * Math.abs(dx)) / long + (side > 0 ? 10 : -1),
    anchor: "start",
  };
}
/** On a phone neighbours' names stand in two rows. */
const step = (key: string, width: number) =>
  width < 480 && ["unit", "panel", "front", "exhaust"].includes(key) ? ({ unit: 40, panel: 14 }[key] ?? 15) : 0;
const below = (key: string) => ["dash", "engine", "front", "exhaust"].includes(key);
</script>

<template>
  <Drawing title="The harness from above, front of the car on the left" :height="H" :words="words">
    <template #default="{ width }">
      <g v-for="z in ZONES" :key="z.key">
        <path v-if="z.from > 0" :d="`M${x(width)(z.from)} 34V${H - 40}`" stroke="var(--line)" stroke-dasharray="6 5" />
        <text :x="x(width)(Math.max(z.from, 0)) + 8" :y="H - 12" font-size="12" style="fill: var(--soft)"
          >{{ z.word }}, {{ hot(z.key) }}</text
        >
      </g>
      <rect
        :x="x(width)(-0.05)"
        :y="y(0.85)"
        :width="x(width)(longest) - x(width)(-0.05)"
        :height="y(-0.85) - y(0.85)"
        :rx="width > 500 ? 46 : 22"
        fill="none"
        stroke="var(--line)"
        stroke-width="1.6"
      />
      <rect
        v-for="[wx, wy] in [
          [0.75, 0.82],
          [0.75, -0.82],
          [longest - 0.85, 0.82],
          [longest - 0.85, -0.82],
        ] as [number, number][]"
        :key="`${wx}${wy}`"
        :x="x(width)(wx) - 20"
        :y="y(wy) - 7"
        width="40"
        height="14"
        rx="4"
        fill="var(--well)"
        stroke="var(--line)"
      />
      <template v-for="b in wiring.branches" :key="b.key">
        <path
          v-if="end(b.start) && end(b.end)"
          :d="`M${x(width)(end(b.start)!.x_m)} ${y(end(b.start)!.y_m)}L${x(width)(end(b.end)!.x_m)} ${y(end(b.end)!.y_m)}`"
          :stroke="wire?.path.includes(b.key) || branch === b.key ? 'var(--spark)' : b.wires ? 'var(--ink)' : 'var(--line)'"
          :stroke-width="thick(b.diameter_m * 1e3)"
          :stroke-dasharray="b.zone === 'near_exhaust' ? '8 4' : undefined"
          stroke-linecap="round"
        />
        <text
          v-if="b.wires && width > 560"
          :x="label(b, width).x"
          :y="label(b, width).y"
          :text-anchor="label(b, width).anchor"
          font-size="12"
          style="paint-order: stroke; stroke: var(--sheet); stroke-width: 4px"
        >
          {{ b.wires }} wires, {{ own.length.tell(b.diameter_m) }}
        </text>
      </template>
      <g v-for="n in wiring.nodes" :key="n.key" :transform="`translate(${x(width)(n.x_m)} ${y(n.y_m)})`">
        <rect
          x="-8"
          y="-8"
          width="16"
          height="16"
          fill="var(--sheet)"
          stroke="var(--ink)"
          stroke-width="2"
          :rx="n.key === 'firewall' ? 8 : 1"
        />
        <text
          class="halo"
          :x="n.key === 'firewall' ? 14 : 0"
          :y="n.key === 'firewall' ? 18 : below(n.key) ? 24 + step(n.key, width) : -14 - step(n.key, width)"
          :text-anchor="n.key === 'firewall' ? 'start' : 'middle'"
          font-size="12.5"
          font-weight="600"
          >{{ n.name }}</text
        >
      </g>
    </template>
  </Drawing>
</template>
