<script setup lang="ts">
// The trigger wheel with its real teeth, seen from the front, turning clockwise: drag it, or use the arrow keys.
import { computed, ref } from "vue";
import type { Stages } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";

const props = defineProps<{ trigger: NonNullable<Stages["sensors"]["trigger"]> }>();
const H = 330;
const turn = ref<number | null>(null);
/** Crank degrees before top dead centre at which the wheel is shown. 0 is top dead centre. */
const shown = computed(() => turn.value ?? 0);
const pitch = computed(() => 360 / props.trigger.teeth);
// At top dead centre the tooth numbered angle / pitch after the gap is under the sensor, which sits at the top.
const offset = computed(() => (props.trigger.angle_deg ?? 0) - shown.value);
const tooth = (k: number) => (-k * pitch.value + offset.value) * (Math.PI / 180);
const teeth = computed(() => Array.from({ length: props.trigger.teeth - props.trigger.missing }, (_, k) => k));
const under = computed(() => {
  const at = (((offset.value / pitch.value) % props.trigger.teeth) + props.trigger.teeth) % props.trigger.teeth;
  return at;
});
const R = 108;
function outline(k: number): string {
  const a = tooth(k) - Math.PI / 2;
  const half = (pitch.value * 0.26 * Math.PI) / 180;
  const p = (r: number, b: number) => `${(r * Math.cos(b)).toFixed(2)} ${(r * Math.sin(b)).toFixed(2)}`;
  return `M${p(R - 15, a - half)}L${p(R, a - half)}L${p(R, a + half)}L${p(R - 15, a + half)}Z`;
}
let from: { x: number; start: number } | null = null;
function down(event: PointerEvent): void {
  from = { x: event.clientX, start: shown.value };
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
}
function move(event: PointerEvent): void {
  if (from) turn.value = Math.max(-360, Math.min(360, Math.round(from.start - (event.clientX - from.x) * 0.5)));
}
const marks = computed(() => (props.trigger.tooth_at_tdc == null ? null : props.trigger.tooth_at_tdc));
const words = computed(
  () =>
    `Trigger wheel of ${props.trigger.teeth} teeth less ${props.trigger.missing}. ${marks.value == null ? "The trigger angle is not set." : `At top dead centre of number one, tooth ${marks.value.toFixed(1)} after the gap is under the sensor.`}`,
);
const where = computed(() =>
  shown.value === 0 ? "at top dead centre" : `${Math.abs(shown.value)}° ${shown.value > 0 ? "before" : "after"} top`,
);
</script>

<template>
  <Drawing title="Trigger wheel, seen from the front of the engine" :height="H" :words="words">
    <template #default="{ width }">
      <g :transform="`translate(${Math.min(width / 2, 190)} 190)`">
        <g
          style="cursor: grab; touch-action: none"
          @pointerdown="down"
          @pointermove="move"
          @pointerup="from = null"
          @pointercancel="from = null"
        >
          <circle :r="R - 14" fill="var(--well)" stroke="var(--ink)" stroke-width="1.6" />
          <path v-for="k in teeth" :key="k" :d="outline(k)" :fill="k === 0 ? 'var(--spark)' : 'var(--ink)'" stroke="none" />
          <circle r="22" fill="var(--sheet)" stroke="var(--ink)" stroke-width="1.4" />
          <path d="M-6 0H6M0 -6V6" stroke="var(--ink)" />
        </g>
        <path d="M-11 -156H11V-128L0 -114L-11 -128Z" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
        <text x="17" y="-140" font-size="12.5">sensor</text>
        <path d="M44 46A64 64 0 0 1 -8 64" fill="none" stroke="var(--soft)" stroke-width="2" />
        <path d="M-8 64l8 -7M-8 64l10 4" stroke="var(--soft)" stroke-width="2" fill="none" />
        <text x="-22" y="50" font-size="11.5" text-anchor="middle" style="fill: var(--soft)">turns</text>
      </g>
      <g v-if="width > 520" font-size="13" :transform="`translate(360 84)`">
        <text y="0" font-weight="600" font-size="15">{{ where }}</text>
        <text y="24">tooth under the sensor, from the gap</text>
        <text y="48" class="num" font-size="22" font-weight="600">{{ trigger.angle_deg == null ? "not set" : under.toFixed(1) }}</text>
        <text y="80">{{ trigger.teeth_per_turn }} teeth seen in a turn</text>
        <text y="100">{{ pitch.toFixed(1) }}° from tooth to tooth</text>
        <text y="120">first tooth after the gap in red</text>
      </g>
    </template>
    <template #under>
      <p class="mt-1 text-[0.92rem] sm:hidden">
        {{ trigger.angle_deg == null ? "Angle not set" : `Tooth ${under.toFixed(1)} from the gap under the sensor` }};
        {{ trigger.teeth_per_turn }} teeth in a turn, {{ pitch.toFixed(1) }}° apart, first after the gap in red.
      </p>
      <label class="no-print mt-1 block text-[0.88rem] text-soft">
        Turn the engine: {{ where }}
        <input
          type="range"
          class="h-9 w-full accent-[var(--ink)]"
          min="-360"
          max="360"
          step="1"
          :value="-shown"
          @input="turn = -Number(($event.target as HTMLInputElement).value)"
        />
      </label>
    </template>
  </Drawing>
</template>
