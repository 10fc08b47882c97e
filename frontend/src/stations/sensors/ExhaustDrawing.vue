<script setup lang="ts">
// The exhaust from the side as it lies, with the stretches where the oxygen sensor may sit, and the pipe end-on with the arc that it may point to.
import { arc } from "d3-shape";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";
import { useScales } from "@/figures/owners";

const props = defineProps<{ exhaust: NonNullable<Stages["sensors"]["exhaust"]>; fixed: boolean }>();
const own = useScales();
const emit = defineEmits<{ distance: [string]; clock: [string] }>();
const H = 250;
const CLOCK = 132;
/** Every stretch as a line on paper, in metres: bends lie flat here, up and down in turn. */
const laid = computed(() => {
  let [x, y] = [0, 0];
  return props.exhaust.pieces.map((p) => {
    const a = (p.heading_deg * 0.3 * Math.PI) / 180;
    const [x0, y0] = [x, y];
    x += (p.ends_m - p.begins_m) * Math.cos(a);
    y += (p.ends_m - p.begins_m) * Math.sin(a);
    return { ...p, x0, y0, x1: x, y1: y };
  });
});
const box = computed(() => {
  const xs = laid.value.flatMap((p) => [p.x0, p.x1]);
  const ys = laid.value.flatMap((p) => [p.y0, p.y1]);
  return { x: Math.max(...xs), low: Math.min(...ys), high: Math.max(...ys) };
});
const scale = (width: number) =>
  Math.min((width - CLOCK - 70) / Math.max(box.value.x, 0.1), 110 / Math.max(box.value.high - box.value.low, 0.05));
function place(width: number, m: number): { x: number; y: number } {
  const p = laid.value.find((q) => m <= q.ends_m) ?? laid.value.at(-1)!;
  const share = p.ends_m > p.begins_m ? (m - p.begins_m) / (p.ends_m - p.begins_m) : 0;
  const k = scale(width);
  return {
    x: 30 + (p.x0 + (p.x1 - p.x0) * share) * k,
    y: 128 + (p.y0 + (p.y1 - p.y0) * share - (box.value.low + box.value.high) / 2) * k,
  };
}
function stretch(width: number, from: number, to: number): string {
  const marks = [from, ...laid.value.map((p) => p.ends_m).filter((m) => m > from && m < to), to];
  return marks.map((m, i) => `${i ? "L" : "M"}${place(width, m).x.toFixed(1)} ${place(width, m).y.toFixed(1)}`).join("");
}
const THICK: Record<string, number> = { pipe: 9, merge: 13, catalyst: 22, silencer: 26, flexible: 12 };
const wrong = computed(() => props.exhaust.wrong.length > 0);
const allowedArc = (from: number, to: number) =>
  arc()({ innerRadius: 38, outerRadius: 46, startAngle: ((90 - from) * Math.PI) / 180, endAngle: ((90 - to) * Math.PI) / 180 }) ?? "";
const hand = computed(() => {
  const a = ((props.exhaust.clock_deg ?? 45) * Math.PI) / 180;
  return { x: Math.cos(a), y: -Math.sin(a) };
});
const words = computed(
  () =>
    `Exhaust of ${own.value.distance.tell(props.exhaust.length_m, 1)}. Allowed for the sensor: ${props.exhaust.allowed_m.map(([a, b]) => `${own.value.length.bare(a!)} to ${own.value.length.tell(b!)}`).join(", ") || "nowhere"}. ${props.exhaust.distance_m == null ? "It is not placed yet." : `It sits at ${own.value.length.tell(props.exhaust.distance_m)}, which is ${wrong.value ? "wrong: the snag says why" : "allowed"}.`}`,
);
</script>

<template>
  <Drawing title="The exhaust from the side, and end-on" :height="H" :words="words">
    <template #default="{ width }">
      <path
        v-for="p in laid"
        :key="p.begins_m"
        :d="stretch(width, p.begins_m, p.ends_m)"
        :stroke-width="THICK[p.what]"
        stroke="var(--line)"
        stroke-linecap="round"
        fill="none"
      />
      <path
        v-for="[a, b] in exhaust.allowed_m as [number, number][]"
        :key="a"
        :d="stretch(width, a, b)"
        stroke="var(--good)"
        stroke-width="5"
        fill="none"
      />
      <template v-for="p in laid" :key="`t${p.begins_m}`">
        <text
          v-if="p.what !== 'pipe'"
          :x="(place(width, p.begins_m).x + place(width, p.ends_m).x) / 2"
          :y="Math.max(place(width, p.begins_m).y, place(width, p.ends_m).y) + 32"
          text-anchor="middle"
          font-size="12"
          >{{ p.what }}</text
        >
      </template>
      <text v-if="width >= 480" :x="place(width, 0).x - 6" :y="place(width, 0).y + 24" font-size="12">ports</text>
      <text :x="place(width, exhaust.length_m).x - 4" :y="place(width, exhaust.length_m).y + 24" text-anchor="end" font-size="12"
        >tail</text
      >
      <g
        v-if="exhaust.distance_m != null"
        :transform="`translate(${place(width, exhaust.distance_m).x} ${place(width, exhaust.distance_m).y})`"
      >
        <path d="M0 -5L-7 -26H7Z" :fill="wrong ? 'var(--spark)' : 'var(--ink)'" />
        <text y="-31" text-anchor="middle" font-size="12.5" font-weight="600" class="num">{{ own.length.tell(exhaust.distance_m) }}</text>
      </g>
      <g :transform="`translate(${width - CLOCK / 2 - 14} 122)`">
        <circle r="34" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
        <path :d="allowedArc(10, 90)" fill="var(--good)" opacity="0.6" />
        <path :d="allowedArc(90, 170)" fill="var(--good)" opacity="0.6" />
        <path d="M-52 0H52" stroke="var(--line)" stroke-dasharray="4 3" />
        <text x="-66" y="16" font-size="12" style="fill: var(--soft)">level</text>
        <template v-if="exhaust.clock_deg != null">
          <path
            :d="`M${hand.x * 20} ${hand.y * 20}L${hand.x * 56} ${hand.y * 56}`"
            :stroke="exhaust.clock_deg >= 10 ? 'var(--ink)' : 'var(--spark)'"
            stroke-width="7"
            stroke-linecap="round"
          />
        </template>
        <text y="78" text-anchor="middle" font-size="12.5" class="num">{{
          exhaust.clock_deg == null ? "not told" : `${Math.round(exhaust.clock_deg)}° above level`
        }}</text>
      </g>
      <path :d="`M30 ${H - 22}h${scale(width) * 0.5}M30 ${H - 27}v10M${30 + scale(width) * 0.5} ${H - 27}v10`" stroke="var(--ink)" />
      <text :x="38 + scale(width) * 0.5" :y="H - 18" font-size="12">{{ own.distance.tell(0.5) }}, bends drawn flat</text>
    </template>
    <template #under>
      <div class="no-print grid grid-cols-2 gap-3">
        <label class="text-[0.88rem] text-soft"
          >Slide it along the pipe
          <input
            type="range"
            class="h-9 w-full"
            min="0"
            :max="Math.round(exhaust.length_m * 1000)"
            step="10"
            :disabled="fixed"
            :value="Math.round((exhaust.distance_m ?? exhaust.length_m / 2) * 1000)"
            @change="emit('distance', `${($event.target as HTMLInputElement).value} mm`)"
        /></label>
        <label class="text-[0.88rem] text-soft"
          >Turn it round the pipe
          <input
            type="range"
            class="h-9 w-full"
            min="-90"
            max="90"
            step="5"
            :disabled="fixed"
            :value="exhaust.clock_deg ?? 45"
            @change="emit('clock', `${($event.target as HTMLInputElement).value} deg`)"
        /></label>
      </div>
    </template>
  </Drawing>
</template>
