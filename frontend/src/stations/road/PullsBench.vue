<script setup lang="ts">
// Torque and power of each pull in standard air, with their doubt, beside what is aimed at and what the worked engine gives.
import { scaleLinear } from "d3-scale";
import { line as path } from "d3-shape";
import { computed, ref } from "vue";
import AxisX from "@/figures/AxisX.vue";
import Drawing from "@/figures/Drawing.vue";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import type { LogSaid, S } from "./asks";
import NeedsLog from "./NeedsLog.vue";
import { useRoad } from "./useRoad";

const road = useRoad();
const what = ref<"power" | "torque">("power");
const H = 340;
const LEFT = 56;
const FOOT = H - 42;
const of = (p: S["PullPoint"]) => (what.value === "power" ? p.power_w / 1e3 : p.torque_nm);
const unit = computed(() => (what.value === "power" ? "kW" : "N m"));
const aim = computed(() => road.store.stages.road?.target_w ?? null);
const speed = computed(() => (road.store.stages.road?.target_rpm ?? 0) / 60);
const worked = computed(() => ({
  power: road.store.plan?.figures["tune.power.worked"]?.value ?? null,
  torque: road.store.plan?.figures["tune.torque.worked"]?.value ?? null,
}));
const points = (said: LogSaid) => said.pulls.flatMap((p) => p.points);
const most = (said: LogSaid) =>
  Math.max(...points(said).map((p) => of(p) * (1 + p.doubt)), what.value === "power" && aim.value ? aim.value / 1e3 : 0) * 1.05;
const x = (said: LogSaid, width: number) =>
  scaleLinear()
    .domain([Math.min(...points(said).map((p) => p.rpm)), Math.max(...points(said).map((p) => p.rpm), (speed.value ?? 0) * 60)])
    .range([LEFT, width - 30])
    .nice();
const y = (said: LogSaid) =>
  scaleLinear()
    .domain([0, most(said)])
    .range([FOOT, 16]);
/** What lies between the least and the most that a pull may have given. */
function band(said: LogSaid, pull: S["Pull"], width: number): string {
  const at = (p: S["PullPoint"], by: number) => `${x(said, width)(p.rpm).toFixed(1)} ${y(said)(of(p) * (1 + by * p.doubt)).toFixed(1)}`;
  return `M${[...pull.points.map((p) => at(p, 1)), ...[...pull.points].reverse().map((p) => at(p, -1))].join("L")}Z`;
}
const curve = (said: LogSaid, pull: S["Pull"], width: number) =>
  path<S["PullPoint"]>()
    .x((p) => x(said, width)(p.rpm))
    .y((p) => y(said)(of(p)))(pull.points) ?? "";
const DASH = ["", "7 4", "2 4", "9 3 2 3"];
const words = (said: LogSaid) => said.pulls.map((p, i) => `Pull ${i + 1}: ${p.words}`).join(" ");
</script>

<template>
  <NeedsLog v-slot="{ said }" :road="road">
    <p v-if="!said.pulls.length" class="mt-3 leading-snug">
      No pull in this log: foot flat in one gear on the level, the speed up by half at least. Full throttle only on a road that is shut, or
      on a rolling road, and only if the mixture held at three quarters; a passenger works the laptop.
    </p>
    <template v-else>
      <ChoiceBar
        v-model="what"
        :options="[
          { key: 'power', word: 'Power' },
          { key: 'torque', word: 'Torque' },
        ]"
        label="What is shown"
      />
      <Drawing
        :title="what === 'power' ? 'Power at the crank, in standard air' : 'Torque at the crank, in standard air'"
        :height="H"
        :words="words(said)"
      >
        <template #default="{ width }">
          <g v-for="t in y(said).ticks(6)" :key="t">
            <path :d="`M${LEFT} ${y(said)(t)}H${width - 16}`" stroke="var(--hair)" />
            <text :x="LEFT - 6" :y="y(said)(t) + 4" text-anchor="end" font-size="12" class="num">{{ t }}</text>
          </g>
          <text :x="LEFT - 6" y="12" text-anchor="end" font-size="12">{{ unit }}</text>
          <g v-for="(p, i) in said.pulls" :key="p.from_s">
            <path :d="band(said, p, width)" fill="var(--ink)" opacity="0.1" />
            <path :d="curve(said, p, width)" fill="none" stroke="var(--ink)" stroke-width="2.5" :stroke-dasharray="DASH[i % 4]" />
          </g>
          <g v-if="what === 'power' && aim && speed">
            <path :d="`M${x(said, width)(speed * 60) - 7} ${y(said)(aim / 1e3)}h14m-7 -7v14`" stroke="var(--spark)" stroke-width="3" /><text
              :x="x(said, width)(speed * 60) - 10"
              :y="y(said)(aim / 1e3) - 6"
              text-anchor="end"
              font-size="12"
              >aimed at</text
            >
          </g>
          <g v-if="worked[what]">
            <path
              :d="`M${LEFT} ${y(said)(worked[what]!)}H${width - 16}`"
              stroke="var(--info)"
              stroke-width="2"
              stroke-dasharray="4 4"
            /><text :x="LEFT + 6" :y="y(said)(worked[what]!) - 5" font-size="12">the worked engine's best</text>
          </g>
          <AxisX :scale="x(said, width)" :y="FOOT" label="rpm" :count="width < 500 ? 3 : 6" />
        </template>
      </Drawing>
      <ol class="mt-2">
        <li v-for="(p, i) in said.pulls" :key="p.from_s" class="border-t border-hair py-1.5 leading-snug">
          <b>Pull {{ i + 1 }}</b
          >, at {{ Math.round(p.from_s) }} s: {{ p.words }}
        </li>
      </ol>
      <p class="text-[0.88rem] leading-snug text-soft">
        By mass, gearing, drag and the level road; for standard air of 25 °C and 99 kPa (ISO 1585). What the wheels lose on the way is taken
        as usual. Two pulls, one each way, take a slope out.
      </p>
    </template>
  </NeedsLog>
</template>
