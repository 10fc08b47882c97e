<script setup lang="ts">
// A circuit laid out in layers, power on top: terminals as dots with their volts, what joins them as boxes on straight lines.
import dagre from "@dagrejs/dagre";
import { computed } from "vue";
import type { Circuits } from "@/api/types";

const props = defineProps<{ drawn: Circuits["drawn"] }>();
type Tie = Circuits["drawn"]["ties"][number];
const told = (t: Tie) => {
  const made = t.kind === "wire" && t.area_m2 ? `${t.colour} ${+(t.area_m2 * 1e6).toPrecision(3)} mm²` : "";
  const amps = t.open
    ? "open"
    : t.amps < 0.0005
      ? "no current"
      : t.amps < 0.1
        ? `${(t.amps * 1e3).toFixed(1)} mA`
        : `${t.amps.toFixed(2)} A`;
  return { made, amps };
};
const BOX = { width: 190, height: 44 };
const DOT = { width: 264, height: 22 };
const laid = computed(() => {
  const g = new dagre.graphlib.Graph({ multigraph: true });
  g.setGraph({ rankdir: "TB", nodesep: 14, ranksep: 16, marginx: 10, marginy: 8 });
  g.setDefaultEdgeLabel(() => ({}));
  for (const s of props.drawn.spots) g.setNode(`s:${s.key}`, { ...DOT });
  for (const t of props.drawn.ties) {
    g.setNode(`t:${t.key}`, { ...BOX });
    g.setEdge(`s:${t.start}`, `t:${t.key}`);
    g.setEdge(`t:${t.key}`, `s:${t.end}`);
  }
  dagre.layout(g);
  const at = (id: string) => g.node(id) as unknown as { x: number; y: number };
  const size = g.graph() as { width?: number; height?: number };
  return {
    width: size.width ?? 300,
    height: size.height ?? 200,
    spots: props.drawn.spots.map((s) => ({ ...s, ...at(`s:${s.key}`) })),
    ties: props.drawn.ties.map((t) => ({ ...t, ...told(t), ...at(`t:${t.key}`), from: at(`s:${t.start}`), to: at(`s:${t.end}`) })),
  };
});
/** Down, across, down: no line slants. */
const bend = (a: { x: number; y: number }, b: { x: number; y: number }) => {
  const half = (a.y + b.y) / 2;
  return Math.abs(a.x - b.x) < 1 ? `M${a.x} ${a.y}V${b.y}` : `M${a.x} ${a.y}V${half}H${b.x}V${b.y}`;
};
const words = computed(() =>
  props.drawn.ties
    .map((t) => `${t.label}, from ${t.start.replaceAll("_", " ")} to ${t.end.replaceAll("_", " ")}, ${told(t).amps}`)
    .join("; "),
);
</script>

<template>
  <figure class="mt-2">
    <figcaption class="mb-1 text-[0.95rem] font-semibold first-letter:uppercase">{{ drawn.label }}</figcaption>
    <div class="overflow-x-auto border border-line bg-sheet" tabindex="0" role="region" :aria-label="`Circuit of ${drawn.label}`">
      <svg
        :width="laid.width"
        :height="laid.height"
        :viewBox="`0 0 ${laid.width} ${laid.height}`"
        class="mx-auto block"
        role="img"
        :aria-label="words"
      >
        <g v-for="t in laid.ties" :key="t.key">
          <path
            :d="bend(t.from, { x: t.x, y: t.y - 20 })"
            fill="none"
            stroke="var(--ink)"
            stroke-width="1.6"
            :stroke-dasharray="t.open ? '4 4' : undefined"
          />
          <path
            :d="bend({ x: t.x, y: t.y + 20 }, t.to)"
            fill="none"
            stroke="var(--ink)"
            stroke-width="1.6"
            :stroke-dasharray="t.open ? '4 4' : undefined"
          />
        </g>
        <g v-for="t in laid.ties" :key="`b${t.key}`" :transform="`translate(${t.x} ${t.y})`">
          <rect
            x="-95"
            y="-20"
            width="190"
            height="40"
            :rx="t.kind === 'load' ? 20 : t.kind === 'wire' ? 0 : 6"
            :fill="t.kind === 'wire' ? 'var(--sheet)' : 'var(--well)'"
            :stroke="t.open ? 'var(--spark)' : 'var(--line)'"
            :stroke-width="t.kind === 'load' ? 2 : 1"
          />
          <text y="-3" text-anchor="middle" font-size="12.5" font-weight="600">
            {{ t.label.length > 25 ? `${t.label.slice(0, 24)}…` : t.label }}
          </text>
          <text y="13" text-anchor="middle" font-size="12" class="num" :style="{ fill: t.open ? 'var(--spark)' : 'var(--soft)' }">
            {{ [t.made, t.amps].filter(Boolean).join(", ") }}
          </text>
        </g>
        <g v-for="s in laid.spots" :key="s.key" :transform="`translate(${s.x} ${s.y})`">
          <circle r="4.5" :fill="s.end === 'between' ? 'var(--sheet)' : 'var(--ink)'" stroke="var(--ink)" stroke-width="1.6" />
          <path v-if="s.end === 'ground'" d="M-9 9H9M-6 12.5H6M-3 16H3" stroke="var(--ink)" stroke-width="1.6" />
          <text class="halo" :x="s.end === 'ground' ? 15 : 9" y="-1" font-size="12">{{ s.name }}</text>
          <text class="halo num" :x="s.end === 'ground' ? 15 : 9" y="12" font-size="12" font-weight="600">{{ s.volts.toFixed(2) }} V</text>
        </g>
      </svg>
    </div>
  </figure>
</template>
