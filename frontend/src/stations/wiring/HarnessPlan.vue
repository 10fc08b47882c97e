<script setup lang="ts">
// The car from above, the harness as a tree between its places, at true length and thickness. In a position of the key it shows what flows. Where it may be
// changed, places and bends are dragged, or moved with the arrow keys.
import { useQuery } from "@pinia/colada";
import { scaleLinear } from "d3-scale";
import { computed, ref, watch } from "vue";
import { api } from "@/api/client";
import type { KeyState, Stages } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";
import { along, placed, type Box, type Wanted } from "@/figures/labels";
import { useScales } from "@/figures/owners";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import { useDragged } from "./useDragged";

const props = defineProps<{ wiring: Stages["wiring"]; traced: string | null; low?: boolean; branch?: string | null; editable?: boolean }>();
const emit = defineEmits<{ look: [string] }>();
const own = useScales();
const store = useBuild();
const H = props.low ? 316 : 380;
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
const STATES: { key: KeyState | "made"; word: string }[] = [
  { key: "made", word: "sizes" },
  { key: "off", word: "off" },
  { key: "run", word: "run" },
  { key: "prime", word: "prime" },
  { key: "crank", word: "crank" },
  { key: "idle", word: "idle" },
  { key: "full", word: "full" },
];
const state = ref<KeyState | "made">("made");
const { data: flows } = useQuery({
  key: () => ["flows", store.id, store.revision, state.value],
  query: () => api.flows(store.id, { revision: store.revision, state: state.value as KeyState }),
  enabled: () => state.value !== "made",
});
const shown = computed(() => (state.value === "made" ? null : (flows.value ?? null)));

const { held, at, bendOf, drag, nudge } = useDragged(props, (width) => ({
  x: (px: number) => x(width).invert(px),
  y: (py: number) => y.invert(py),
}));
const thick = (mm: number) => Math.max(1.6, mm * 0.55);
type B = Stages["wiring"]["branches"][number];
/** The points of a branch [px]: through its bend if it has one; else bowed so far that its length is the string's, as long as that can be drawn. */
function points(b: B, width: number): [number, number][] {
  const [p, q] = [at(b.start), at(b.end)];
  if (!p || !q) return [];
  const bend = bendOf(b.key);
  const to = (m: { x: number; y: number }): [number, number] => [x(width)(m.x), y(m.y)];
  const chord = Math.hypot(q.x - p.x, q.y - p.y) || 1e-6;
  const mid = { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 };
  if (!bend && b.length_m <= chord * 1.01) return [to(p), to(q)];
  const high = chord * Math.min(0.16, Math.sqrt((3 / 8) * Math.max(0, b.length_m / chord - 1)));
  const across = { x: -(q.y - p.y) / chord, y: (q.x - p.x) / chord };
  const out = across.y * mid.y >= 0 ? high : -high; // away from the middle of the car
  const top = bend ?? { x: mid.x + across.x * out, y: mid.y + across.y * out };
  const control = { x: 2 * top.x - mid.x, y: 2 * top.y - mid.y };
  return Array.from({ length: 15 }, (_, k) => {
    const t = k / 14;
    const [a, c, d] = [(1 - t) ** 2, 2 * t * (1 - t), t * t];
    return to({ x: a * p.x + c * control.x + d * q.x, y: a * p.y + c * control.y + d * q.y });
  });
}
/** Where the bend of the pressed branch is [px]. */
function bendAt(width: number): [number, number] {
  const b = props.wiring.branches.find((r) => r.key === props.branch);
  const pts = b ? points(b, width) : [];
  if (pts.length === 2) return [(pts[0]![0] + pts[1]![0]) / 2, (pts[0]![1] + pts[1]![1]) / 2];
  return pts[Math.floor(pts.length / 2)] ?? [0, 0];
}
const line = (pts: [number, number][]) => pts.map(([px, py], i) => `${i ? "L" : "M"}${px.toFixed(1)} ${py.toFixed(1)}`).join("");
const amps = (v: number) => (v >= 10 ? v.toFixed(0) : v.toFixed(1));
function branchWords(b: B): string {
  const f = shown.value?.branches.find((r) => r.key === b.key);
  if (!f) return `${b.wires} wires, ${own.value.length.tell(b.diameter_m)}`;
  if (!f.out_a && !f.back_a) return "no current";
  return [f.out_a ? `${amps(f.out_a)} A out` : "", f.back_a ? `${amps(f.back_a)} A back` : ""].filter(Boolean).join(", ");
}
const partsAt = (place: string) =>
  (shown.value?.parts ?? []).filter((p) => p.place === place).map((p) => `${p.name} ${p.volts.toFixed(1)} V`);
interface Lettered {
  key: string;
  lines: string[];
  bold: boolean;
  x: number;
  y: number;
}
/** Every word on the drawing, put where there is room. */
function letters(width: number): Lettered[] {
  const taken: Box[] = [];
  const [left, right, top, under] = [x(width)(-0.05), x(width)(longest.value), y(0.85), y(-0.85)];
  for (const edge of [
    [left, top, left, under],
    [right, top, right, under],
    [left, top, right, top],
    [left, under, right, under],
    ...ZONES.filter((z) => z.from > 0).map((z) => [x(width)(z.from), 34, x(width)(z.from), H - 40]),
  ])
    taken.push(
      ...along(
        [
          [edge[0]!, edge[1]!],
          [edge[2]!, edge[3]!],
        ],
        2,
      ),
    );
  for (const b of props.wiring.branches) taken.push(...along(points(b, width), thick(b.diameter_m * 1e3) + 4));
  for (const n of props.wiring.nodes) taken.push({ x: x(width)(at(n.key)!.x) - 10, y: y(at(n.key)!.y) - 10, w: 20, h: 20 });
  const small = width < 480;
  const names: Wanted[] = props.wiring.nodes.map((n) => ({
    key: `n:${n.key}`,
    x: x(width)(at(n.key)!.x),
    y: y(at(n.key)!.y),
    off: 9,
    lines: [n.name, ...partsAt(n.key)],
    size: small ? 11 : 12.5,
  }));
  const branches: Wanted[] = props.wiring.branches
    .filter((b) => b.wires && !small)
    .map((b) => {
      const pts = points(b, width);
      const [px, py] = pts[Math.floor(pts.length / 2)] ?? [0, 0];
      const [mx, my] = pts.length === 2 ? [(pts[0]![0] + pts[1]![0]) / 2, (pts[0]![1] + pts[1]![1]) / 2] : [px, py];
      return { key: `b:${b.key}`, x: mx, y: my, off: thick(b.diameter_m * 1e3) / 2 + 3, lines: [branchWords(b)], size: 12 };
    });
  const where = placed([...names, ...branches], taken, { x: 2, y: 4, w: width - 4, h: H - 30 });
  return [...names, ...branches].map((l) => ({ key: l.key, lines: l.lines, bold: l.key.startsWith("n:"), ...where.get(l.key)! }));
}
const words = computed(
  () =>
    `Harness from above: ${props.wiring.branches.map((b) => `${b.start} to ${b.end}, ${own.value.distance.tell(b.length_m)}, ${branchWords(b)}`).join("; ")}.`,
);
const lit = (b: B) => wire.value?.path.includes(b.key) || props.branch === b.key;
watch(
  () => props.traced,
  () => (held.value = null),
);
</script>

<template>
  <Drawing title="The harness from above, front of the car on the left" :height="H" :words="words" :interactive="editable">
    <template #tools><ChoiceBar v-model="state" class="!mt-0" :options="STATES" label="What is shown on it" /></template>
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
      <g v-for="b in wiring.branches" :key="b.key">
        <path
          :d="line(points(b, width))"
          fill="none"
          :stroke="lit(b) ? 'var(--spark)' : b.wires ? 'var(--ink)' : 'var(--line)'"
          :stroke-width="thick(b.diameter_m * 1e3)"
          :stroke-dasharray="b.zone === 'near_exhaust' ? '8 4' : undefined"
          stroke-linecap="round"
          stroke-linejoin="round"
        />
        <path
          v-if="editable"
          :d="line(points(b, width))"
          fill="none"
          stroke="transparent"
          stroke-width="22"
          class="cursor-pointer"
          @click="emit('look', b.key)"
        />
      </g>
      <g v-for="n in wiring.nodes" :key="n.key" :transform="`translate(${x(width)(at(n.key)!.x)} ${y(at(n.key)!.y)})`">
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
        <rect
          v-if="editable"
          :id="`f/wiring/nodes/${n.key}`"
          x="-15"
          y="-15"
          width="30"
          height="30"
          fill="transparent"
          class="cursor-move touch-none"
          tabindex="0"
          role="button"
          :aria-label="`${n.name}: move with the arrow keys`"
          @pointerdown="drag($event, width, 'place', n.key)"
          @keydown="nudge($event, 'place', n.key)"
        />
      </g>
      <circle
        v-if="editable && branch"
        :cx="bendAt(width)[0]"
        :cy="bendAt(width)[1]"
        r="9"
        fill="var(--sheet)"
        stroke="var(--spark)"
        stroke-width="2.5"
        class="cursor-move touch-none"
        tabindex="0"
        role="button"
        aria-label="Bend of this branch: move with the arrow keys, Delete takes it away"
        @pointerdown="drag($event, width, 'bend', branch)"
        @keydown="nudge($event, 'bend', branch)"
      />
      <text
        v-for="l in letters(width)"
        :key="l.key"
        class="halo"
        data-label
        text-anchor="middle"
        :font-size="l.bold ? (width < 480 ? 11 : 12.5) : 12"
        style="pointer-events: none"
      >
        <tspan
          v-for="(t, i) in l.lines"
          :key="i"
          :x="l.x"
          :y="l.y + i * (l.bold ? (width < 480 ? 13 : 14.75) : 14.2)"
          :font-weight="l.bold && !i ? 600 : 400"
          :class="{ num: l.bold && i }"
          >{{ t }}</tspan
        >
      </text>
    </template>
  </Drawing>
</template>
