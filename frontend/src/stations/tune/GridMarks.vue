<script setup lang="ts">
// Places on the grid that a driver knows: a ring each, its name beside it where there is room.
import { computed } from "vue";
import type { Landmark, Table } from "@/api/types";
import { along, grid } from "./layout";

const props = defineProps<{ marks: Landmark[]; table: Table; width: number }>();
const at = computed(() => grid(props.width, props.table));
const placed = computed(() =>
  props.marks.map((m) => ({
    ...m,
    x: at.value.cx(along(props.table.x, m.rpm)),
    y: at.value.cy(along(props.table.y, m.load)),
  })),
);
const roomy = computed(() => props.width > 520);
/** A name stands left of its ring where it would leave the grid on the right. */
const left = (x: number) => x > at.value.x + at.value.w * 0.75;
</script>

<template>
  <g v-for="m in placed" :key="m.key" style="pointer-events: none">
    <circle :cx="m.x" :cy="m.y" r="6" fill="var(--sheet)" fill-opacity="0.75" stroke="var(--ink)" stroke-width="2" />
    <circle :cx="m.x" :cy="m.y" r="1.8" fill="var(--ink)" />
    <rect
      v-if="roomy"
      :x="left(m.x) ? m.x - 14 - m.word.length * 7 : m.x + 8"
      :y="m.y - 19"
      :width="m.word.length * 7 + 6"
      height="16"
      rx="2"
      fill="var(--sheet)"
      fill-opacity="0.9"
    />
    <text
      v-if="roomy"
      :x="m.x + (left(m.x) ? -11 : 11)"
      :y="m.y - 7"
      :text-anchor="left(m.x) ? 'end' : 'start'"
      font-size="12.5"
      font-weight="700"
      class="halo"
      >{{ m.word }}</text
    >
  </g>
</template>
