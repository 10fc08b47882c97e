<script setup lang="ts">
// What a scope shows over two turns, to hold beside a real one; below it the engine's speed as the starter turns it and how far a spark then misses.
import { scaleLinear } from "d3-scale";
import { computed, useTemplateRef } from "vue";
import { api } from "@/api/client";
import AxisX from "@/figures/AxisX.vue";
import AxisY from "@/figures/AxisY.vue";
import Drawing from "@/figures/Drawing.vue";
import { useAsked } from "@/stores/useAsked";
import { useBuild } from "@/stores/build";
import { useScales } from "@/figures/owners";

const own = useScales();
const store = useBuild();
const { found, stale, trouble } = useAsked("trigger", useTemplateRef<HTMLElement>("here"));
const signals = computed(() => found.value?.signals ?? []);
const ROW = 92;
const LEFT = 64;
const x = (width: number) =>
  scaleLinear()
    .domain([0, 720])
    .range([LEFT, width - 20]);
const H = computed(() => signals.value.length * ROW + 60);
function trace(width: number, volts: number[], top: number): string {
  const low = Math.min(...volts);
  const high = Math.max(...volts);
  const y = scaleLinear()
    .domain([low, high])
    .range([top + ROW - 26, top + 8]);
  return volts.map((v, i) => `${i ? "L" : "M"}${x(width)(i / 2).toFixed(1)} ${y(v).toFixed(1)}`).join("");
}
/** Another wheel: what was counted, measured and tested on the old one goes with it. */
function take(teeth: number, missing: number): void {
  const t = store.build!.sensors!.trigger! as Record<string, unknown>;
  const gone = ["angle", "tooth_at_top", "hand_turn", "light_observed", "light_commanded"].filter((k) => t[k] != null);
  void store.edit(
    [
      { op: "add", path: "/sensors/trigger/pattern", value: "missing" },
      { op: "add", path: "/sensors/trigger/on", value: "crank" },
      { op: "add", path: "/sensors/trigger/teeth", value: teeth },
      { op: "add", path: "/sensors/trigger/missing", value: missing },
      ...gone.map((k) => ({ op: "remove" as const, path: `/sensors/trigger/${k}` })),
    ],
    `A wheel of ${teeth} less ${missing}: angle and tests are to be done afresh`,
  );
}
const HC = 220;
const cranking = computed(() => found.value?.cranking);
const speed = computed(() => {
  const rpm = cranking.value!.speed_rpm;
  return scaleLinear()
    .domain([Math.min(...rpm) * 0.9, Math.max(...rpm) * 1.06])
    .range([HC - 44, 26]);
});
const worst = computed(() => Math.max(...cranking.value!.error_deg.map(Math.abs)));
const error = computed(() =>
  scaleLinear()
    .domain([-worst.value, worst.value])
    .range([HC - 60, 40]),
);
const along = (width: number, values: number[], y: (v: number) => number) =>
  values.map((v, i) => `${i ? "L" : "M"}${x(width)(cranking.value!.angle_deg[i]!).toFixed(1)} ${y(v).toFixed(1)}`).join("");
</script>

<template>
  <div ref="here">
    <p v-if="trouble" class="text-spark" role="alert">{{ trouble }}</p>
    <p v-else-if="!found" class="py-2 text-soft" role="status">Putting the trigger on the scope…</p>
    <div v-if="found" :class="{ 'opacity-60': stale }">
      <Drawing
        v-if="signals.length"
        title="On the scope, two turns at cranking speed"
        :height="H"
        :words="`Signals over 720 crank degrees: ${signals.map((s) => s.label).join(' and ')}`"
      >
        <template #tools><a class="btn btn-small no-print" :href="api.paper(store.id, 'signals.csv')">Signals, CSV</a></template>
        <template #default="{ width }">
          <g v-for="(s, i) in signals" :key="s.key">
            <text x="12" :y="i * ROW + 46" font-size="12.5" font-weight="600">{{ s.label }}</text>
            <text x="12" :y="i * ROW + 62" font-size="12" class="num" style="fill: var(--soft)"
              >{{ Math.max(...s.volts).toFixed(1) }} V</text
            >
            <path :d="trace(width, s.volts, i * ROW + 6)" fill="none" :stroke="i ? 'var(--info)' : 'var(--ink)'" stroke-width="1.3" />
          </g>
          <AxisX :scale="x(width)" :y="H - 44" label="crank degrees after number one's top, compression" />
        </template>
      </Drawing>
      <Drawing
        v-if="cranking"
        title="On the starter: speed swings, and a spark misses by"
        :height="HC"
        :words="`Cranking speed between ${Math.min(...cranking.speed_rpm).toFixed(0)} and ${Math.max(...cranking.speed_rpm).toFixed(0)} rpm; a spark anywhere misses its angle by at most ${cranking.worst_deg.toFixed(2)} degrees`"
      >
        <template #default="{ width }">
          <AxisY :scale="speed" :x="LEFT" label="rpm" :wide="width - LEFT - 20" />
          <path :d="along(width, cranking.speed_rpm, speed)" fill="none" stroke="var(--ink)" stroke-width="2" />
          <path :d="along(width, cranking.error_deg, error)" fill="none" stroke="var(--care)" stroke-width="1.4" />
          <text :x="width - 24" y="18" text-anchor="end" font-size="12" style="fill: var(--care)"
            >miss, at most {{ cranking.worst_deg.toFixed(2) }}°</text
          >
          <AxisX :scale="x(width)" :y="HC - 42" label="crank degrees" />
        </template>
      </Drawing>
      <section class="relative mt-4 overflow-x-auto" role="region" aria-label="Other wheels" tabindex="0">
        <table class="w-full min-w-[32rem] text-[0.92rem]">
          <caption class="text-left text-[0.95rem] font-semibold">
            Other wheels in its place
          </caption>
          <thead class="text-soft">
            <tr>
              <th class="text-left font-normal" scope="col">wheel</th>
              <th class="text-right font-normal" scope="col">tooth to tooth</th>
              <th class="text-right font-normal" scope="col">a second at the limit</th>
              <th class="text-right font-normal" scope="col">a spark misses at worst, cranking</th>
              <th scope="col"><span class="sr-only">take it</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="w in found.wheels" :key="`${w.teeth}-${w.missing}`" class="border-t border-hair" :class="{ 'bg-wash': w.mine }">
              <th class="num py-1 pl-2 text-left whitespace-nowrap" scope="row">{{ w.teeth }}-{{ w.missing }}</th>
              <td class="num text-right" :class="{ 'text-spark': w.fits === false }">
                {{ w.pitch_m === null ? "–" : own.pitch.tell(w.pitch_m)
                }}<span v-if="w.fits === false">, {{ own.pitch.bare(w.least_pitch_m) }} wanted</span>
              </td>
              <td class="num text-right" :class="{ 'text-spark': w.rate_fits === false }">
                {{ Math.round(w.rate_hz).toLocaleString("en-GB") }}
              </td>
              <td class="num text-right">{{ w.miss_deg === null ? "–" : `${w.miss_deg.toFixed(2)}°` }}</td>
              <td class="pr-2 text-right">
                <span v-if="w.mine" class="text-[0.9rem]">as it is</span>
                <button
                  v-else
                  type="button"
                  class="btn btn-small no-print"
                  :disabled="store.readOnly || stale"
                  :aria-label="`Take it: a wheel of ${w.teeth} less ${w.missing}`"
                  @click="take(w.teeth, w.missing)"
                >
                  Take it
                </button>
              </td>
            </tr>
          </tbody>
        </table>
      </section>
      <table v-if="found.vr.length" class="mt-3 w-full text-[0.9rem]">
        <caption class="text-left text-[0.95rem] font-semibold">
          Peak volts of the coil
        </caption>
        <thead>
          <tr class="text-soft">
            <th class="text-left font-normal" scope="col">gap</th>
            <th v-for="v in found.vr_speeds_rpm" :key="v" class="text-right font-normal" scope="col">{{ v }} rpm</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in found.vr" :key="r.gap_m" class="border-t border-hair">
            <th class="num py-0.5 text-left font-normal" scope="row">{{ own.gap.tell(r.gap_m) }}</th>
            <td v-for="(v, i) in r.volts" :key="i" class="num text-right">{{ v.toFixed(2) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>
