<script setup lang="ts">
// The engine from the side: where the coolant, air and pressure sensors may sit, and where they sit in this build.
import { computed } from "vue";
import type { Build, Stages } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";

const props = defineProps<{ sensors: NonNullable<Build["sensors"]>; places: Stages["sensors"]["places"]; fixed: boolean }>();
const emit = defineEmits<{ coolant: [string]; air: [string] }>();
const H = 300;
interface Spot {
  key: string;
  of: "coolant" | "air";
  word: string;
  x: number;
  y: number;
  lx: number;
  ly: number;
}
const SPOTS = computed<Spot[]>(() => [
  { key: "before_thermostat", of: "coolant", word: "engine side of the thermostat", x: 150, y: 112, lx: 112, ly: 92 },
  { key: "head", of: "coolant", word: "in the head", x: 292, y: 118, lx: 300, ly: 106 },
  { key: "dead_pocket", of: "coolant", word: "dead pocket", x: 388, y: 128, lx: 398, ly: 132 },
  { key: "radiator", of: "coolant", word: "radiator", x: 50, y: 178, lx: 28, ly: 262 },
  { key: "heater_hose", of: "coolant", word: "heater hose", x: 442, y: 158, lx: 430, ly: 186 },
  { key: "after_filter", of: "air", word: "after the filter", x: 130, y: 38, lx: 108, ly: 24 },
  { key: "after_blower", of: "air", word: "after the blower", x: 198, y: 38, lx: 184, ly: 24 },
  { key: "plastic_plenum", of: "air", word: "plastic plenum", x: 270, y: 42, lx: 252, ly: 24 },
  { key: "metal_plenum", of: "air", word: "metal plenum", x: 344, y: 42, lx: 334, ly: 24 },
  { key: "runner", of: "air", word: "a runner", x: 330, y: 80, lx: 342, ly: 84 },
]);
const good = (s: Spot) => props.places[s.of]?.[s.key] ?? false;
const now = computed(() => ({ coolant: props.sensors.coolant?.place ?? "", air: props.sensors.air?.place ?? "" }));
const shown = computed(() => SPOTS.value.filter((s) => (s.of === "coolant" ? props.sensors.coolant : props.sensors.air)));
const chosen = (s: Spot) => now.value[s.of] === s.key;
const words = computed(() =>
  (["coolant", "air"] as const)
    .filter((k) => props.sensors[k])
    .map((k) => {
      const at = SPOTS.value.find((s) => s.of === k && chosen(s));
      return `The ${k} sensor ${at ? `sits ${at.word}${good(at) ? ", which is right" : ", which is wrong"}` : "is not placed"}`;
    })
    .join("; "),
);
function choose(s: Spot): void {
  if (props.fixed || chosen(s)) return;
  if (s.of === "coolant") emit("coolant", s.key);
  else emit("air", s.key);
}
</script>

<template>
  <Drawing title="Where coolant and air sensor sit: press a place" :height="H" :words="words" interactive>
    <template #default="{ width }">
      <g
        :transform="`translate(${Math.max((width - 500) / 2, 0)} 8) scale(${Math.min(width / 500, 1)})`"
        fill="none"
        stroke="var(--line)"
        stroke-width="1.6"
      >
        <rect x="34" y="92" width="32" height="150" />
        <path d="M40 100V234M47 100V234M54 100V234" />
        <path d="M66 108H140M66 226C110 226 120 214 168 214" stroke-width="7" stroke-opacity="0.5" />
        <rect x="140" y="100" width="26" height="26" />
        <path d="M153 100V126" />
        <rect x="168" y="128" width="232" height="116" />
        <rect x="176" y="100" width="216" height="28" />
        <path d="M400 150H466V214H430" stroke-width="6" stroke-opacity="0.5" />
        <rect x="84" y="28" width="34" height="30" />
        <path d="M118 36H232M118 52H232" />
        <path d="M214 52L222 36" stroke-width="3" />
        <rect x="232" y="28" width="140" height="30" />
        <path d="M250 58V100M290 58V100M330 58V100M362 58V100" stroke-width="8" stroke-opacity="0.5" />
        <g stroke="none" fill="var(--soft)" font-size="12">
          <text x="254" y="190" text-anchor="middle" font-size="13">engine</text>
          <text x="84" y="72">filter</text>
          <text x="436" y="228">heater</text>
        </g>
      </g>
      <g :transform="`translate(${Math.max((width - 500) / 2, 0)} 8) scale(${Math.min(width / 500, 1)})`" font-size="12">
        <g
          v-for="s in shown"
          :key="s.of + s.key"
          role="button"
          :tabindex="fixed ? -1 : 0"
          :aria-pressed="chosen(s)"
          :aria-label="`${s.of} sensor: ${s.word}${good(s) ? '' : ', not a good place'}`"
          :style="{ cursor: fixed ? 'default' : 'pointer' }"
          @click="choose(s)"
          @keydown.enter="choose(s)"
          @keydown.space.prevent="choose(s)"
        >
          <rect :x="s.x - 18" :y="s.y - 18" width="36" height="36" fill="transparent" />
          <circle v-if="good(s)" :cx="s.x" :cy="s.y" r="11" fill="none" stroke="var(--good)" stroke-width="2" stroke-dasharray="4 3" />
          <circle
            v-if="s.of === 'coolant'"
            :cx="s.x"
            :cy="s.y"
            r="6"
            :fill="chosen(s) ? (good(s) ? 'var(--good)' : 'var(--spark)') : 'var(--sheet)'"
            stroke="var(--ink)"
            stroke-width="1.6"
          />
          <rect
            v-else
            :x="s.x - 5.5"
            :y="s.y - 5.5"
            width="11"
            height="11"
            :fill="chosen(s) ? (good(s) ? 'var(--good)' : 'var(--spark)') : 'var(--sheet)'"
            stroke="var(--ink)"
            stroke-width="1.6"
          />
          <text v-if="chosen(s)" :x="s.lx" :y="s.ly" font-weight="700" :style="{ fill: good(s) ? undefined : 'var(--spark)' }">{{
            s.word
          }}</text>
        </g>
        <g transform="translate(16 284)" style="fill: var(--soft)">
          <circle cx="4" cy="-4" r="5" fill="none" stroke="var(--ink)" /><text x="14">coolant</text>
          <rect x="74" y="-9" width="10" height="10" fill="none" stroke="var(--ink)" /><text x="90">air</text>
          <circle cx="132" cy="-4" r="9" fill="none" stroke="var(--good)" stroke-dasharray="4 3" stroke-width="2" /><text x="147"
            >a good place</text
          >
        </g>
      </g>
    </template>
  </Drawing>
</template>
