<script setup lang="ts">
// The trigger wheel with its real teeth, from whichever side one looks: drag it, use the arrow keys, or tap the tooth that is under the sensor at top.
import { computed, ref } from "vue";
import type { Stages } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";
import { useScales } from "@/figures/owners";

type Trigger = NonNullable<Stages["trigger"]>;
const props = defineProps<{ trigger: Trigger; fixed: boolean }>();
const own = useScales();
const emit = defineEmits<{ tap: [tooth: number] }>();
const H = 350;
const R = 112;
const turn = ref<number | null>(null);
const tapping = ref(false);
/** Crank degrees before top dead centre at which the wheel is shown; 0 is top. */
const shown = computed(() => turn.value ?? 0);
/** Degrees of this wheel for one of the crank, and which way it goes round on the screen. */
const gear = computed(() => 360 / props.trigger.cycle_deg);
const way = computed(() => (props.trigger.clockwise === props.trigger.from_front ? 1 : -1));
const offset = computed(() => (props.trigger.angle_deg ?? 0) - shown.value);
/** Screen angle [rad] of a place on the wheel, given in crank degrees after the first tooth; the sensor sits at the top. */
const at = (deg: number) => (way.value * (offset.value - deg) * gear.value - 90) * (Math.PI / 180);
const point = (r: number, a: number) => `${(r * Math.cos(a)).toFixed(2)} ${(r * Math.sin(a)).toFixed(2)}`;
function outline([begins, ends]: [number, number]): string {
  const steps = Math.max(1, Math.round(((ends - begins) * gear.value) / 6));
  const outer = Array.from({ length: steps + 1 }, (_, i) => point(R, at(begins + ((ends - begins) * i) / steps)));
  return `M${point(R - 17, at(begins))}L${outer.join("L")}L${point(R - 17, at(ends))}Z`;
}
const teeth = computed(() => props.trigger.edges_deg as [number, number][]);
const under = computed(() => {
  const whole = props.trigger.cycle_deg;
  return ((((offset.value % whole) + whole) % whole) / props.trigger.tooth_angle_deg) as number;
});
let from: { x: number; start: number } | null = null;
function down(event: PointerEvent): void {
  if (tapping.value) return;
  from = { x: event.clientX, start: shown.value };
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
}
function move(event: PointerEvent): void {
  if (from) turn.value = Math.max(-360, Math.min(360, Math.round(from.start - way.value * (event.clientX - from.x) * 0.5)));
}
function tap(k: number): void {
  if (!tapping.value) return;
  tapping.value = false;
  turn.value = null;
  emit("tap", k);
}
const side = computed(() => (props.trigger.from_front ? "front" : "rear"));
const where = computed(() =>
  shown.value === 0 ? "at top dead centre" : `${Math.abs(shown.value)}° ${shown.value > 0 ? "before" : "after"} top`,
);
const words = computed(
  () =>
    `Wheel of ${props.trigger.teeth_per_turn} teeth, seen from the ${side.value}, turning ${way.value > 0 ? "clockwise" : "anticlockwise"}. ${props.trigger.tooth_at_tdc == null ? "The trigger angle is not set." : `At top dead centre of number one, tooth ${props.trigger.tooth_at_tdc.toFixed(1)} after the gap is under the sensor.`}`,
);
</script>

<template>
  <Drawing :title="`Trigger wheel, seen from the ${side} of the engine`" :height="H" :words="words" interactive>
    <template #tools>
      <button
        type="button"
        class="btn btn-small no-print"
        :class="{ 'btn-main': tapping }"
        :aria-pressed="tapping"
        :disabled="fixed"
        @click="tapping = !tapping"
      >
        {{ tapping ? "Tap the tooth under the sensor" : "At top now: tap the tooth" }}
      </button>
    </template>
    <template #default="{ width }">
      <g :transform="`translate(${Math.min(width / 2, 195)} 200)`">
        <g
          :style="{ cursor: tapping ? 'crosshair' : 'grab', touchAction: 'none' }"
          @pointerdown="down"
          @pointermove="move"
          @pointerup="from = null"
          @pointercancel="from = null"
        >
          <circle :r="R - 16" fill="var(--well)" stroke="var(--ink)" stroke-width="1.6" />
          <path
            v-for="(tooth, k) in teeth"
            :key="k"
            :d="outline(tooth)"
            :fill="k === 0 ? 'var(--spark)' : 'var(--ink)'"
            :stroke="tapping ? 'var(--sheet)' : 'none'"
            stroke-width="1.5"
            :role="tapping ? 'button' : undefined"
            :tabindex="tapping ? 0 : undefined"
            :aria-label="tapping ? `Tooth ${k} is under the sensor` : undefined"
            @click="tap(k)"
            @keydown.enter="tap(k)"
          />
          <circle r="22" fill="var(--sheet)" stroke="var(--ink)" stroke-width="1.4" />
          <path d="M-6 0H6M0 -6V6" stroke="var(--ink)" />
        </g>
        <path d="M-11 -163H11V-134L0 -119L-11 -134Z" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
        <text x="17" y="-146" font-size="12.5">sensor</text>
        <g :transform="`scale(${way} 1)`">
          <path d="M44 46A64 64 0 0 1 -8 64" fill="none" stroke="var(--soft)" stroke-width="2" />
          <path d="M-8 64l8 -7M-8 64l10 4" stroke="var(--soft)" stroke-width="2" fill="none" />
        </g>
        <text :x="-22 * way" y="50" font-size="12" text-anchor="middle" style="fill: var(--soft)">turns</text>
      </g>
      <g v-if="width > 520" font-size="13" transform="translate(366 84)">
        <text y="0" font-weight="600" font-size="15">{{ where }}</text>
        <text y="24">tooth under the sensor, from the gap</text>
        <text y="50" class="num" font-size="22" font-weight="600">{{ trigger.angle_deg == null ? "not set" : under.toFixed(1) }}</text>
        <text v-if="trigger.angle_doubt_deg != null" y="72" style="fill: var(--soft)"
          >sure to within {{ trigger.angle_doubt_deg.toFixed(1) }}° of the crank</text
        >
        <text y="98">{{ trigger.teeth_per_turn }} teeth, {{ trigger.tooth_angle_deg.toFixed(1) }}° of the crank apart</text>
        <text v-if="trigger.pitch_m" y="158" :style="{ fill: trigger.pitch_m < trigger.least_pitch_m ? 'var(--spark)' : undefined }"
          >{{ own.pitch.tell(trigger.pitch_m) }} on the rim, {{ own.pitch.bare(trigger.least_pitch_m) }} wanted: tooth and space
          {{ (trigger.pitch_m * 500).toFixed(1) }} each</text
        >
        <text y="118">first tooth after the gap in red, it is 0</text>
        <text v-if="trigger.top_off_deg" y="138"
          >true top {{ Math.abs(trigger.top_off_deg).toFixed(1) }}° {{ trigger.top_off_deg > 0 ? "after" : "before" }} your mark</text
        >
      </g>
    </template>
    <template #under>
      <p class="mt-1 text-[0.92rem] sm:hidden">
        {{ trigger.angle_deg == null ? "Angle not set" : `Tooth ${under.toFixed(1)} from the gap under the sensor` }};
        {{ trigger.teeth_per_turn }} teeth, {{ trigger.tooth_angle_deg.toFixed(1) }}° apart, first after the gap in red.
      </p>
      <label class="no-print mt-1 block text-[0.88rem] text-soft">
        Turn the engine: {{ where }}
        <input
          type="range"
          class="h-9 w-full"
          min="-360"
          max="360"
          step="1"
          :value="-shown"
          @input="turn = -($event.target as HTMLInputElement).valueAsNumber"
        />
      </label>
    </template>
  </Drawing>
</template>
