<script setup lang="ts">
// The car from above, the harness as a tree between its places, at true length and thickness. In a position of the key it shows what flows.
import { useQuery } from "@pinia/colada";
import { computed, defineAsyncComponent, ref } from "vue";
import { api } from "@/api/client";
import type { KeyState, Stages } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";
import { useScales } from "@/figures/owners";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import { LETTERS, useHarnessPlan, ZONES, type Branch } from "./useHarnessPlan";
import { KEY_STATES } from "./keyStates";

const HarnessGrips = defineAsyncComponent(() => import("./HarnessGrips.vue"));
const props = defineProps<{ wiring: Stages["wiring"]; traced: string | null; low?: boolean; branch?: string | null; editable?: boolean }>();
defineEmits<{ look: [string] }>();
const own = useScales();
const store = useBuild();
const H = props.low ? 276 : 380;
const { zones } = useCatalogue();
const hot = (zone: string) => own.value.temperature.tell(zones.value[zone] ?? 273.15);
const STATES = [{ key: "made" as const, word: "sizes" }, ...KEY_STATES];
const state = ref<KeyState | "made">("made");
const { data } = useQuery({
  key: () => ["flows", store.id, store.revision, state.value],
  query: () => api.flows(store.id, { revision: store.revision, state: state.value as KeyState }),
  enabled: () => state.value !== "made",
});
const flows = computed(() => (state.value === "made" ? null : (data.value ?? null)));
const plan = useHarnessPlan(props, H, flows);
const { longest, x, y, at, points, thick, branchWords, letters } = plan;
const line = (pts: [number, number][]) => pts.map(([px, py], i) => `${i ? "L" : "M"}${px.toFixed(1)} ${py.toFixed(1)}`).join("");
const wire = computed(() => props.wiring.wires.find((w) => w.key === props.traced) ?? null);
const lit = (b: Branch) => wire.value?.path.includes(b.key) || props.branch === b.key;
const words = computed(
  () =>
    `Harness from above: ${props.wiring.branches.map((b) => `${b.start} to ${b.end}, ${own.value.distance.tell(b.length_m)}, ${branchWords(b)}`).join("; ")}.`,
);
const wheels = computed<[number, number][]>(() => [0.75, longest.value - 0.85].flatMap((wx): [number, number][] => [[wx, 0.82], [wx, -0.82]])); // prettier-ignore
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
        v-for="[wx, wy] in wheels"
        :key="`${wx}${wy}`"
        :x="x(width)(wx) - 20"
        :y="y(wy) - 7"
        width="40"
        height="14"
        rx="4"
        fill="var(--well)"
        stroke="var(--line)"
      />
      <path
        v-for="b in wiring.branches"
        :key="b.key"
        :d="line(points(b, width))"
        fill="none"
        :stroke="lit(b) ? 'var(--spark)' : b.wires ? 'var(--ink)' : 'var(--line)'"
        :stroke-width="thick(b)"
        :stroke-dasharray="b.zone === 'near_exhaust' ? '8 4' : undefined"
        stroke-linecap="round"
        stroke-linejoin="round"
      />
      <rect
        v-for="n in wiring.nodes"
        :key="n.key"
        :x="x(width)(at(n.key).x) - 8"
        :y="y(at(n.key).y) - 8"
        width="16"
        height="16"
        fill="var(--sheet)"
        stroke="var(--ink)"
        stroke-width="2"
        :rx="n.key === 'firewall' ? 8 : 1"
      />
      <HarnessGrips v-if="editable" :wiring="wiring" :plan="plan" :width="width" :branch="branch ?? null" @look="(k) => $emit('look', k)" />
      <text v-for="l in letters(width)" :key="l.key" class="halo pointer-events-none" data-label text-anchor="middle">
        <tspan
          v-for="(t, i) in l.lines"
          :key="i"
          :x="l.x"
          :y="l.y + i * LETTERS.name * 1.18"
          :font-size="l.bold ? LETTERS.name : LETTERS.more"
          :font-weight="l.bold && !i ? 600 : 400"
          :class="{ num: l.bold && i }"
          >{{ t }}</tspan
        >
      </text>
    </template>
    <template #under>
      <ul v-if="flows" class="mt-1 flex flex-wrap gap-x-4 text-[0.88rem] sm:hidden" aria-label="Volts at each part">
        <li v-for="p in flows.parts" :key="p.part">
          {{ p.name }} <b class="num">{{ p.volts.toFixed(1) }} V</b>
        </li>
      </ul>
    </template>
  </Drawing>
</template>
