<script setup lang="ts">
// The fuel's way from tank to rail and back, unrolled along its true length: the pressure in it above, the height and bore of the line below.
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { computed, ref } from "vue";
import AxisY from "@/figures/AxisY.vue";
import Drawing from "@/figures/Drawing.vue";
import DragHandle from "./DragHandle.vue";
import type { Parts } from "./path";
import { partWord, pointOf, wordOf, type FuelResult, type StateName } from "./states";

const props = defineProps<{ fuel: FuelResult; parts: Parts; ambientPa: number; state: StateName; fixed: boolean }>();
const emit = defineEmits<{ attempt: [string, string]; settle: [string, string] }>();
type Place = FuelResult["grades"][string]["forth"][number];
const H = 330;
const LEFT = 52;
const BORES = [3.2, 4.8, 6.3, 7.9, 9.5, 12.7]; // mm, as tube is sold
const [LOWEST, HIGHEST] = [-2, 2.5]; // m, how far the rail is pulled
const grade = computed(() => props.fuel.grades[props.state]!);
const every = computed(() => [...grade.value.forth, ...grade.value.back]);
const most = computed(() => Math.max(...every.value.map((p) => p[3])) / 1e3);
const length = computed(() => Math.max(...every.value.map((p) => p[1]), 0.5));
/** The fuel's vapour pressure as a gauge pressure. */
const tide = computed(() => (props.fuel.inlet.vapour_pa - props.ambientPa) / 1e3);
const y = computed(() => scaleLinear().domain([Math.min(-45, tide.value - 25), most.value * 1.16]).range([198, 24])); // prettier-ignore
const z = computed(() => {
  const heights = every.value.map((p) => p[2]);
  return scaleLinear().domain([Math.min(-0.1, ...heights), Math.max(0.35, ...heights)]).range([286, 226]); // prettier-ignore
});
const x = (width: number) => scaleLinear().domain([0, length.value]).range([LEFT + 18, width - 26]); // prettier-ignore
const kpa = (pa: number) => Math.round(pa / 1e3);
const pressureLine = (width: number, places: Place[]) =>
  line<Place>().x((p) => x(width)(p[1])).y((p) => y.value(p[3] / 1e3))(places) ?? ""; // prettier-ignore
const last = (name: string) => grade.value.forth.filter((p) => p[0] === name).at(-1);
const first = (name: string) => grade.value.forth.find((p) => p[0] === name);
const rail = computed(() => last("rail")!);
const pump = computed(() => last("pump")!);
const inlet = computed(() => first("pump")!);
const point = computed(() => pointOf(props.fuel, props.state));

/** Runs of line, each with where it starts and ends, forth and back. */
interface Segment {
  name: string;
  a: Place;
  b: Place;
  bore: number;
  back: boolean;
}
const segments = computed<Segment[]>(() =>
  grade.value.losses
    .filter((l) => l.kind === "run")
    .map((l) => {
      const back = !grade.value.forth.some((p) => p[0] === l.part);
      const places = (back ? grade.value.back : grade.value.forth).filter((p) => p[0] === l.part);
      const part = props.parts[l.part];
      const bore =
        dragged.value?.at === `/fuel/parts/${l.part}/bore` ? dragged.value.value : part?.kind === "run" ? millimetres(part.bore) : 8;
      return { name: l.part, a: places[0]!, b: places.at(-1)!, bore, back };
    }),
);
function millimetres(text: string): number {
  const number = Number.parseFloat(text);
  return /in|"/.test(text)
    ? text.includes("/")
      ? (Number(text.split("/")[0]) / Number.parseFloat(text.split("/")[1]!)) * 25.4
      : number * 25.4
    : number;
}
/** Labels of the losses that count: at least a fiftieth of what the pump makes, biggest first, four at most. */
const told = computed(() => {
  const least = Math.max(pump.value[3] / 50, 2e3);
  return grade.value.losses
    .filter((l) => l.loss_pa >= least && grade.value.forth.some((p) => p[0] === l.part))
    .sort((a, b) => b.loss_pa - a.loss_pa)
    .slice(0, 4)
    .map((l) => {
      const places = grade.value.forth.filter((p) => p[0] === l.part);
      return { ...l, at: places.at(-1)!, run: (places[0]![1] + places.at(-1)![1]) / 2 };
    })
    .sort((a, b) => a.run - b.run);
});
/** The run that carries the rail: dragging the rail changes its rise. */
const carrier = computed(() => {
  const found = segments.value.filter((s) => !s.back).at(-1);
  const after = found && grade.value.forth.findIndex((p) => p[0] === "pump") < grade.value.forth.findIndex((p) => p[0] === found.name);
  return found && after ? found : null;
});

/** What is dragged: a place in the build, its value (metres of rise, or mm of bore), and where the hand took hold. */
const dragged = ref<{ at: string; value: number; from: number; start: number } | null>(null);
const written = (at: string, value: number) => (at.endsWith("/bore") ? `${value} mm` : `${value.toFixed(2)} m`);
function grab(event: PointerEvent, at: string, value: number): void {
  if (props.fixed) return;
  dragged.value = { at, value, from: event.clientY, start: value };
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
}
function drag(event: PointerEvent): void {
  const d = dragged.value;
  if (!d) return;
  const up = d.from - event.clientY;
  let value: number;
  if (d.at.endsWith("/bore")) {
    const at = BORES.findIndex((b) => b >= d.start - 0.05);
    value = BORES[Math.max(0, Math.min(BORES.length - 1, (at < 0 ? BORES.length - 1 : at) + Math.round(up / 14)))]!;
  } else value = Math.max(LOWEST, Math.min(HIGHEST, Math.round((d.start + up / Math.abs(z.value(1) - z.value(0))) * 100) / 100));
  if (value === d.value) return;
  dragged.value = { ...d, value };
  emit("attempt", d.at, written(d.at, value));
}
function drop(): void {
  const d = dragged.value;
  dragged.value = null;
  if (d && d.value !== d.start) emit("settle", d.at, written(d.at, d.value));
}
function nudge(event: KeyboardEvent, at: string, value: number): void {
  const step = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
  if (!step || props.fixed) return;
  event.preventDefault();
  const bore = at.endsWith("/bore");
  const next = bore ? (step > 0 ? BORES.find((b) => b > value + 0.05) : BORES.filter((b) => b < value - 0.05).at(-1)) : value + step * 0.05;
  if (next !== undefined) emit("settle", at, written(at, next));
}
const riseOf = (name: string) =>
  dragged.value?.at === `/fuel/parts/${name}/rise` ? dragged.value.value : metres((props.parts[name] as { rise?: string }).rise ?? "0 m");
/** A length in metres, in the few units that a rise is written in. */
function metres(text: string): number {
  const unit = /[a-z"]+$/.exec(text.trim())?.[0] ?? "m";
  return Number.parseFloat(text) * ({ m: 1, cm: 0.01, mm: 0.001, in: 0.0254, '"': 0.0254, ft: 0.3048 }[unit] ?? 1);
}
const marks = computed(() =>
  grade.value.losses.filter((l) => l.kind !== "run").map((l) => ({ ...l, place: every.value.find((p) => p[0] === l.part)! })),
);
const words = computed(
  () =>
    `At ${wordOf(props.state)}: ${kpa(pump.value[3])} kPa at the pump, ${grade.value.losses.map((l) => `${kpa(l.loss_pa)} lost in ${partWord(l.part)}`).join(", ")}, ${kpa(rail.value[3])} kPa at the rail${grade.value.back.length ? `, ${kpa(point.value.return_pressure_pa)} kPa in the return` : ""}.`,
);
</script>

<template>
  <Drawing interactive :title="`Pressure along the way, ${wordOf(state)}`" :height="H" :words="words">
    <template #default="{ width }">
      <AxisY :scale="y" :x="LEFT" label="kPa" :wide="width - LEFT - 14" :count="4" />
      <rect
        :x="LEFT"
        :width="width - LEFT - 14"
        :y="y(tide)"
        :height="Math.max(y.range()[0]! - y(tide), 0)"
        fill="var(--info)"
        opacity="0.22"
      />
      <text :x="width - 20" :y="y.range()[0]! - 5" text-anchor="end" font-size="11.5" style="fill: var(--info)"
        >boils below this, fuel at {{ (fuel.inlet.fuel_k - 273.15).toFixed(0) }} °C</text
      >
      <path
        :d="`${pressureLine(width, grade.forth)}L${x(width)(rail[1])} ${y(0)}L${x(width)(0)} ${y(0)}Z`"
        fill="var(--wash)"
        opacity="0.7"
      />
      <path
        :d="pressureLine(width, grade.back)"
        fill="none"
        stroke="var(--good)"
        stroke-width="2"
        stroke-dasharray="6 3"
        stroke-linejoin="round"
      />
      <path :d="pressureLine(width, grade.forth)" fill="none" stroke="var(--good)" stroke-width="2.6" stroke-linejoin="round" />
      <template v-if="fuel.inlet.known">
        <circle
          :cx="x(width)(inlet[1])"
          :cy="y(inlet[3] / 1e3)"
          r="5"
          fill="var(--sheet)"
          :stroke="point.inlet_margin_m < 0 ? 'var(--spark)' : 'var(--good)'"
          stroke-width="2.4"
        />
        <text :x="x(width)(inlet[1]) + 10" :y="y(inlet[3] / 1e3) - 5" font-size="12"
          >inlet, {{ point.inlet_margin_m.toFixed(1) }} m {{ point.inlet_margin_m < 0 ? "below" : "above" }} boiling</text
        >
      </template>
      <g font-size="12.5">
        <text :x="x(width)(pump[1]) + 4" :y="y(pump[3] / 1e3) - 8" font-weight="600">{{ kpa(pump[3]) }} at the pump</text>
        <text
          v-for="(l, i) in told"
          :key="l.part"
          :x="x(width)(l.run) + 4"
          :y="y(l.at[3] / 1e3) + 20 + (i % 2) * 16"
          :text-anchor="x(width)(l.run) > width * 0.6 ? 'end' : 'start'"
          style="paint-order: stroke; stroke: var(--sheet); stroke-width: 4px"
          >{{ partWord(l.part) }} −{{ kpa(l.loss_pa) }}</text
        >
        <text
          :x="x(width)(rail[1]) + (x(width)(rail[1]) > width - 110 ? -6 : 6)"
          :y="y(rail[3] / 1e3) - 8"
          :text-anchor="x(width)(rail[1]) > width - 110 ? 'end' : 'start'"
          font-weight="600"
          >{{ kpa(rail[3]) }} at the rail</text
        >
        <text
          v-if="grade.back.length > 2 && grade.back[0]![1] >= rail[1]"
          :x="(x(width)(grade.back[0]![1]) + x(width)(grade.back.at(-1)![1])) / 2"
          :y="y(point.return_pressure_pa / 1e3) - 8"
          text-anchor="middle"
          style="paint-order: stroke; stroke: var(--sheet); stroke-width: 4px"
          >return {{ kpa(point.return_pressure_pa).toString().replace("-", "−") }}</text
        >
      </g>
      <path :d="`M${x(width)(rail[1])} 30V286`" stroke="var(--line)" stroke-dasharray="2 4" />
      <g v-for="s in segments" :key="s.name">
        <path
          :d="`M${x(width)(s.a[1])} ${z(s.a[2])}L${x(width)(s.b[1])} ${z(s.b[2])}`"
          stroke="var(--ink)"
          :stroke-width="Math.max(s.bore * 0.75, 1.5)"
          :stroke-opacity="s.back ? 0.45 : 0.85"
        />
        <DragHandle
          :label="`Bore of ${partWord(s.name)}`"
          :now="s.bore"
          :text="`${s.bore} mm`"
          :least="BORES[0]!"
          :most="BORES.at(-1)!"
          :fixed="fixed"
          @grab="(e) => grab(e, `/fuel/parts/${s.name}/bore`, s.bore)"
          @drag="drag"
          @drop="drop"
          @cancel="dragged = null"
          @nudge="(e) => nudge(e, `/fuel/parts/${s.name}/bore`, s.bore)"
        >
          <rect
            :x="(x(width)(s.a[1]) + x(width)(s.b[1])) / 2 - 22"
            :y="z((s.a[2] + s.b[2]) / 2) - 22"
            width="44"
            height="44"
            fill="transparent"
          />
          <rect
            :x="(x(width)(s.a[1]) + x(width)(s.b[1])) / 2 - 4"
            :y="z((s.a[2] + s.b[2]) / 2) - 9"
            width="8"
            height="18"
            rx="1"
            fill="var(--sheet)"
            :stroke="dragged?.at === `/fuel/parts/${s.name}/bore` ? 'var(--spark)' : 'var(--ink)'"
            stroke-width="1.6"
          />
          <text
            :x="(x(width)(s.a[1]) + x(width)(s.b[1])) / 2"
            :y="z((s.a[2] + s.b[2]) / 2) - 13"
            text-anchor="middle"
            font-size="11.5"
            class="num"
            style="paint-order: stroke; stroke: var(--sheet); stroke-width: 4px"
            >{{ s.bore }} mm</text
          >
        </DragHandle>
      </g>
      <circle :cx="x(width)(pump[1])" :cy="z(pump[2])" r="7" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
      <rect
        v-for="m in marks"
        :key="m.part"
        :x="x(width)(m.place[1]) - 6"
        :y="z(m.place[2]) - 6"
        width="12"
        height="12"
        fill="var(--sheet)"
        stroke="var(--ink)"
        stroke-width="1.6"
      />
      <DragHandle
        v-if="carrier"
        label="Height of the rail"
        :now="Math.round(riseOf(carrier.name) * 100) / 100"
        :text="`${riseOf(carrier.name).toFixed(2)} m up from where its line starts`"
        :least="LOWEST"
        :most="HIGHEST"
        :fixed="fixed"
        @grab="(e) => grab(e, `/fuel/parts/${carrier!.name}/rise`, riseOf(carrier!.name))"
        @drag="drag"
        @drop="drop"
        @cancel="dragged = null"
        @nudge="(e) => nudge(e, `/fuel/parts/${carrier!.name}/rise`, riseOf(carrier!.name))"
      >
        <rect :x="x(width)(rail[1]) - 22" :y="z(rail[2]) - 22" width="44" height="44" fill="transparent" />
        <rect
          :x="x(width)(rail[1]) - 16"
          :y="z(rail[2]) - 4"
          width="32"
          height="8"
          :fill="dragged?.at.endsWith('/rise') ? 'var(--spark)' : 'var(--ink)'"
        />
      </DragHandle>
      <g font-size="12" style="fill: var(--soft)">
        <text :x="x(width)(pump[1]) - 6" y="318">pump</text>
        <text :x="x(width)(rail[1])" y="318" :text-anchor="x(width)(rail[1]) > width - 80 ? 'end' : 'middle'"
          >rail, {{ rail[1].toFixed(1) }} m, {{ (rail[2] - pump[2]).toFixed(2) }} m up</text
        >
        <text v-if="grade.back.length && length - rail[1] > length * 0.2" :x="x(width)(length)" y="318" text-anchor="end"
          >{{ partWord(grade.back.at(-1)![0]) }}, {{ length.toFixed(1) }} m</text
        >
      </g>
    </template>
    <template #under>
      <p class="no-print mt-1 text-[0.82rem] text-soft">
        Drag the rail up and down, or a line's handle through its bores; arrow keys do the same. It is solved as you drag.
      </p>
    </template>
  </Drawing>
</template>
