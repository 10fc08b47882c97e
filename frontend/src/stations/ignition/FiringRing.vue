<script setup lang="ts">
// Two turns of the crank as one ring: cylinders where they fire, companions joined, charge arcs to scale with speed.
import { arc } from "d3-shape";
import { computed, ref } from "vue";
import type { Stages } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";

const props = defineProps<{ ignition: Stages["ignition"]; limitRpm: number }>();
const H = 380;
const rpm = ref(3000);
const R = 118;
const dwell = computed(() => props.ignition.charging_dwell_s);
/** Crank degrees that the charge takes at the speed shown: six degrees a second for each turn a minute. */
const charge = computed(() => (dwell.value == null ? 0 : dwell.value * rpm.value * 6));
const single = computed(() => props.ignition.coils === 1);
const at = (deg: number, r: number) => {
  const a = (deg / 720) * 2 * Math.PI - Math.PI / 2;
  return { x: r * Math.cos(a), y: r * Math.sin(a) };
};
const fires = computed(() =>
  props.ignition.outputs.flatMap((o, i) => o.proposed.map((c, k) => ({ cylinder: c, deg: o.fires_deg[k]!, output: i, name: o.name }))),
);
const pairs = computed(() => props.ignition.outputs.filter((o) => o.fires_deg.length === 2));
const radius = (output: number) => (single.value ? R - 20 : R - 16 - (output % 4) * 9);
const chargeArc = (deg: number, output: number) =>
  arc()({
    innerRadius: radius(output) - 3,
    outerRadius: radius(output) + 3,
    startAngle: ((deg - Math.min(charge.value, 719)) / 720) * 2 * Math.PI,
    endAngle: (deg / 720) * 2 * Math.PI,
  }) ?? "";
const STROKES = ["var(--good)", "var(--info)", "var(--care)", "var(--spark)"];
const words = computed(
  () =>
    `Firing order round the ring: ${[...fires.value]
      .sort((a, b) => a.deg - b.deg)
      .map((f) => `${f.cylinder} at ${Math.round(f.deg)} degrees`)
      .join(", ")}. Charging takes ${charge.value.toFixed(0)} crank degrees at ${rpm.value} rpm.`,
);
</script>

<template>
  <Drawing title="Two turns of the crank: who fires, and when its coil charges" :height="H" :words="words">
    <template #default="{ width }">
      <g :transform="`translate(${width > 560 ? 200 : width / 2} 190)`">
        <circle :r="R" fill="none" stroke="var(--ink)" stroke-width="1.4" />
        <path
          v-for="k in 24"
          :key="k"
          :d="`M${at(k * 30, R).x} ${at(k * 30, R).y}L${at(k * 30, R + (k % 6 === 0 ? 8 : 4)).x} ${at(k * 30, R + (k % 6 === 0 ? 8 : 4)).y}`"
          stroke="var(--ink)"
        />
        <path
          v-for="o in pairs"
          :key="o.name"
          :d="`M${at(o.fires_deg[0]!, 78).x} ${at(o.fires_deg[0]!, 78).y}L${at(o.fires_deg[1]!, 78).x} ${at(o.fires_deg[1]!, 78).y}`"
          stroke="var(--line)"
          stroke-width="1.6"
          stroke-dasharray="3 3"
        />
        <template v-for="f in fires" :key="`${f.cylinder}`">
          <path :d="chargeArc(f.deg, f.output)" :fill="STROKES[f.output % 4]" />
          <g :transform="`translate(${at(f.deg, R + 26).x} ${at(f.deg, R + 26).y})`">
            <circle r="15" fill="var(--sheet)" stroke="var(--ink)" stroke-width="1.8" />
            <text text-anchor="middle" y="5.5" font-size="15" font-weight="650">{{ f.cylinder }}</text>
          </g>
        </template>
        <circle r="40" fill="var(--sheet)" />
        <g font-size="12" style="fill: var(--soft)"
          ><text text-anchor="middle" y="-4" font-size="12.5">720°</text
          ><text text-anchor="middle" y="12" class="num">{{ charge.toFixed(0) }}° charge</text></g
        >
        <text :x="0" :y="R + 66" text-anchor="middle" font-size="12">clockwise, number one at the top</text>
      </g>
      <g v-if="width > 560" transform="translate(392 60)" font-size="13.5">
        <text font-weight="600">Output</text><text x="120" font-weight="600">fires</text><text x="190" font-weight="600">as wired</text>
        <g v-for="(o, i) in ignition.outputs" :key="o.name" :transform="`translate(0 ${24 + i * 24})`">
          <rect y="-11" width="8" height="12" :fill="STROKES[i % 4]" /><text x="14">{{ o.name }}</text
          ><text x="120" class="num">{{ o.proposed.join(" + ") }}</text>
          <text x="190" class="num" :style="{ fill: ignition.outputs_in_order === false ? 'var(--spark)' : undefined }">{{
            o.wired ? o.wired.join(" + ") : "?"
          }}</text>
        </g>
      </g>
    </template>
    <template #under>
      <table class="mt-1 w-full text-[0.92rem] sm:hidden">
        <thead class="text-left text-[0.82rem] text-soft">
          <tr>
            <th class="font-normal">Output</th>
            <th class="font-normal">fires</th>
            <th class="font-normal">as wired</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="o in ignition.outputs" :key="o.name" class="border-t border-hair">
            <td>{{ o.name }}</td>
            <td>{{ o.proposed.join(" + ") }}</td>
            <td :class="{ 'text-spark': ignition.outputs_in_order === false }">{{ o.wired ? o.wired.join(" + ") : "?" }}</td>
          </tr>
        </tbody>
      </table>
      <label class="no-print mt-1 block text-[0.88rem] text-soft">
        At {{ rpm.toLocaleString("en-GB") }} rpm the charge takes {{ charge.toFixed(0) }} crank degrees
        <input v-model.number="rpm" type="range" class="h-9 w-full" min="200" :max="limitRpm" step="50" />
      </label>
    </template>
  </Drawing>
</template>
