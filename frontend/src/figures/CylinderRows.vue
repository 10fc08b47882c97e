<script setup lang="ts">
// Cylinders from above as they are numbered, front to the left, and the place of each in the firing order. Goes into a drawing of some width.
import { computed } from "vue";

const props = defineProps<{
  width: number;
  arrangement: string;
  cylinders: number;
  order: number[];
  banks?: number[][] | null;
  apart?: number;
  top?: number;
}>();
const apart = computed(() => props.apart ?? 96);
/** Banks side by side, front to back. Without numbers of its own an engine has them in a row, or shared between its banks in order. */
const rows = computed<number[][]>(() => {
  if (props.banks?.length) return props.banks;
  const all = Array.from({ length: props.cylinders }, (_, i) => i + 1);
  if (props.arrangement === "inline") return [all];
  const half = Math.ceil(all.length / 2);
  return [all.slice(0, half), all.slice(half)];
});
const longest = computed(() => Math.max(...rows.value.map((b) => b.length)));
/** Cylinders as wide apart as the sheet allows; the second bank stands half a step back, as crank pins are shared. */
const step = computed(() => Math.min((props.width - 20) / (longest.value + (rows.value.length > 1 ? 0.5 : 0)), apart.value));
const at = (bank: number, i: number) => ({
  x: 10 + step.value * (i + 0.5 + (bank ? 0.5 : 0)),
  y: (props.top ?? apart.value / 2) + bank * apart.value,
});
const radius = computed(() => Math.min(apart.value * 0.31, step.value * 0.44));
const turn = (c: number) => props.order.indexOf(c) + 1;
</script>

<template>
  <g v-for="(bank, b) in rows" :key="b">
    <line
      :x1="at(b, 0).x - step / 2"
      :x2="at(b, bank.length - 1).x + step / 2"
      :y1="at(b, 0).y"
      :y2="at(b, 0).y"
      stroke="var(--line)"
      stroke-width="1.4"
      stroke-dasharray="9 4 2 4"
    />
    <g v-for="(c, i) in bank" :key="c" :transform="`translate(${at(b, i).x} ${at(b, i).y})`">
      <circle :r="radius" fill="var(--sheet)" stroke="var(--ink)" stroke-width="1.8" />
      <text
        text-anchor="middle"
        :dy="radius < 22 ? 5 : 2"
        class="num"
        :font-size="Math.max(Math.min(21, radius * 0.9 + 2), 14)"
        font-weight="600"
        fill="var(--ink)"
        >{{ c }}</text
      >
      <text v-if="turn(c) && radius >= 22" text-anchor="middle" :dy="17" font-size="12" fill="var(--soft)">{{ turn(c) }}.</text>
    </g>
  </g>
</template>
