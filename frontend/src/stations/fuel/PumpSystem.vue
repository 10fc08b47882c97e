<script setup lang="ts">
// The pump's curve against the system's, in a state of the engine, with the three points where they meet.
import { scaleLinear } from "d3-scale";
import { curveMonotoneX, line } from "d3-shape";
import { computed } from "vue";
import type { FuelDepth, Stages } from "@/api/types";
import AxisX from "@/figures/AxisX.vue";
import AxisY from "@/figures/AxisY.vue";
import Drawing from "@/figures/Drawing.vue";
import { STATES, wordOf, type FuelResult, type StateName } from "./states";
import { useScales } from "@/figures/owners";

/** `band` is null while something is dragged: its draws are not made again under the hand. */
const props = defineProps<{ fuel: FuelResult; band: Stages["doubt"] | null; state: StateName; shelf?: FuelDepth["shelf"] }>();
const own = useScales();
const H = 300;
const left = 52;
const flow = (m3_s: number) => own.value.flow.of(m3_s);
const pressure = (pa: number) => own.value.pressure.of(pa);
const curve = computed(() => props.fuel.curves[props.state]!);
const point = computed(() => props.fuel.points[props.state]!);
const need = computed(() => flow(props.fuel.need_m3_s));
const mostQ = computed(() => flow(Math.max(...Object.values(props.fuel.curves).flatMap((c) => c!.map((p) => p[0])))));
const mostP = computed(() => pressure(Math.max(...Object.values(props.fuel.points).map((p) => p!.pump_pressure_pa))));
const y = computed(() =>
  scaleLinear()
    .domain([0, mostP.value * 1.9])
    .range([H - 44, 26]),
);
const x = (width: number) =>
  scaleLinear()
    .domain([0, Math.max(mostQ.value * 0.85, need.value * 1.25, (props.band?.high ?? 0) * need.value * 1.05)])
    .range([left, width - 20]);
/** Places in a curve: 1 what the pump makes, 2 what the system needs. */
const drawn = (width: number, of: 1 | 2) =>
  line<(typeof curve.value)[number]>()
    .x((p) => x(width)(flow(p[0])))
    .y((p) => y.value(pressure(p[of])))
    .curve(curveMonotoneX)(curve.value) ?? "";
/** Where the band lies: at what the pump makes at its capacity, which is its point unless it falls short. */
const atCapacity = computed(() => {
  const [[q0, p0], [q1, p1]] = [curve.value[0]!, curve.value[1]!];
  return pressure(p0 + ((point.value.capacity_m3_s - q0) / (q1 - q0)) * (p1 - p0));
});
/** How much of the drawing's height the pump's own table covers; above it the line is drawn on as the fit says. */
const inTable = computed(() => pressure(props.fuel.highest_listed_pa) / y.value.domain()[1]!);
const mine = computed(() => props.shelf?.find((p) => p.mine)?.name);
const others = computed(() => (props.state === "full" ? (props.shelf ?? []).filter((p) => !p.mine && p.name !== mine.value) : []));
const shelfCurve = (width: number, points: [number, number][]) =>
  line<[number, number]>()
    .x((p) => x(width)(flow(p[0])))
    .y((p) => y.value(pressure(p[1])))(points) ?? "";
/** Where a shelf pump's name stands: on its curve, at a height of its own. */
function nameAt(width: number, points: [number, number][], k: number) {
  const level = mostP.value * (1.62 - k * 0.12);
  const after = points.findIndex((p) => pressure(p[1]) <= level);
  const [a, b] = [Math.max(after - 1, 0), Math.max(after, 0)].map((i) => [flow(points[i]![0]), pressure(points[i]![1])] as const) as [
    readonly [number, number],
    readonly [number, number],
  ];
  const share = a[1] === b[1] ? 0 : (a[1] - level) / (a[1] - b[1]);
  return { x: x(width)(a[0] + share * (b[0] - a[0])), y: y.value(level) };
}
const words = computed(
  () =>
    `Pump against system at ${wordOf(props.state)}: they meet at ${own.value.flow.tell(point.value.flow_m3_s)} and ${own.value.pressure.tell(point.value.pump_pressure_pa)}; ${own.value.flow.tell(props.fuel.need_m3_s)} are needed at full power.`,
);
/** Others whose name stands on the plot. */
const named = (width: number) =>
  others.value.filter((p, k) => {
    const at = nameAt(width, p.curve as [number, number][], k);
    return at.y > 30 && at.x > left + 70 && at.x < width - 70;
  });
</script>

<template>
  <Drawing :title="`Pump against system, ${wordOf(state)}`" :height="H" :words="words">
    <template #default="{ width }">
      <defs
        ><clipPath id="listed"><rect :x="left" :y="y(pressure(fuel.highest_listed_pa))" :width="width - left - 14" :height="H" /></clipPath
        ><clipPath id="plot"><rect :x="left" y="20" :width="width - left - 14" :height="H - 64" /></clipPath
      ></defs>
      <AxisY :scale="y" :x="left" :label="`${own.pressure.unit} at the pump`" :wide="width - left - 20" />
      <AxisX :scale="x(width)" :y="H - 44" :label="`flow, ${own.flow.unit}`" />
      <path :d="`M${x(width)(need)} ${y(0)}V30`" stroke="var(--spark)" stroke-width="1.6" stroke-dasharray="7 4" />
      <text
        :x="x(width)(need) + (x(width)(need) > width - 170 ? -5 : 5)"
        y="38"
        font-size="12"
        :text-anchor="x(width)(need) > width - 170 ? 'end' : 'start'"
        style="fill: var(--spark)"
        >needed at full power {{ own.flow.bare(fuel.need_m3_s) }}</text
      >
      <g clip-path="url(#plot)">
        <path
          v-for="p in others"
          :key="p.name"
          :d="shelfCurve(width, p.curve as [number, number][])"
          fill="none"
          stroke="var(--line)"
          stroke-width="1.6"
        />
        <text
          v-for="(p, k) in named(width)"
          :key="`t${p.name}`"
          :x="nameAt(width, p.curve as [number, number][], k).x"
          :y="nameAt(width, p.curve as [number, number][], k).y"
          font-size="12"
          text-anchor="middle"
          style="fill: var(--soft); paint-order: stroke; stroke: var(--sheet); stroke-width: 4px"
          >{{ width < 480 ? p.name.replace(/\D+/, "") : p.name }} {{ p.margin.toFixed(1) }}×{{
            p.past_table && width >= 480 ? ", past its table" : ""
          }}</text
        >
        <path :d="drawn(width, 2)" fill="none" stroke="var(--info)" stroke-width="2.2" stroke-dasharray="9 4" />
        <path
          :d="drawn(width, 1)"
          fill="none"
          stroke="var(--ink)"
          stroke-width="2.4"
          :clip-path="inTable < 1 ? 'url(#listed)' : undefined"
        />
        <template v-if="inTable < 1">
          <path :d="drawn(width, 1)" fill="none" stroke="var(--ink)" stroke-width="1.4" stroke-dasharray="2 4" />
          <text v-if="width >= 480" :x="left + 8" :y="y(pressure(fuel.highest_listed_pa)) - 5" font-size="12" style="fill: var(--soft)"
            >its table ends here</text
          >
          <path :d="`M${left} ${y(pressure(fuel.highest_listed_pa))}H${width - 20}`" stroke="var(--line)" stroke-dasharray="2 4" />
        </template>
      </g>
      <g v-if="state === 'full' && band" :transform="`translate(0 ${y(atCapacity)})`">
        <rect
          :x="x(width)(band.low * need)"
          :width="Math.max(x(width)(band.high * need) - x(width)(band.low * need), 1)"
          y="-6"
          height="12"
          fill="var(--good)"
          opacity="0.25"
        />
        <path :d="`M${x(width)(band.low * need)} -9V9M${x(width)(band.high * need)} -9V9`" stroke="var(--good)" stroke-width="1.6" />
      </g>
      <g v-for="s in STATES" :key="s.key">
        <circle
          :cx="x(width)(flow(fuel.points[s.key]!.flow_m3_s))"
          :cy="y(pressure(fuel.points[s.key]!.pump_pressure_pa))"
          :r="s.key === state ? 6.5 : 4"
          :fill="s.key === state ? 'var(--good)' : 'var(--sheet)'"
          stroke="var(--good)"
          stroke-width="2"
        />
      </g>
      <text
        :x="x(width)(flow(point.flow_m3_s))"
        :y="y(pressure(point.pump_pressure_pa)) - 14"
        :text-anchor="x(width)(flow(point.flow_m3_s)) > width - 130 ? 'end' : 'middle'"
        style="paint-order: stroke; stroke: var(--sheet); stroke-width: 5px"
        font-size="13"
        font-weight="600"
      >
        {{ own.flow.tell(point.flow_m3_s) }}, {{ point.volts.toFixed(1) }} V, {{ point.current_a.toFixed(1) }} A
      </text>
      <g font-size="12">
        <path :d="`M${left + 14} ${H - 78}h26`" stroke="var(--ink)" stroke-width="2.4" /><text :x="left + 46" :y="H - 74"
          >pump on its wire</text
        >
        <path :d="`M${left + 14} ${H - 60}h26`" stroke="var(--info)" stroke-width="2.2" stroke-dasharray="9 4" /><text
          :x="left + 46"
          :y="H - 56"
          >lines, filter, rail</text
        >
      </g>
    </template>
  </Drawing>
</template>
