<script setup lang="ts">
// The fuel table as a map of a drive: a square a cell, its mark as large as it was visited, warm for too lean, cool for too rich; pressed or walked by the arrow keys.
import { computed } from "vue";
import Drawing from "@/figures/Drawing.vue";

export interface GridCell {
  /** Text in the cell, where there is room. */
  text: string;
  /** How large its mark is (0 to 1); none for 0. */
  size: number;
  /** Its colour; how strong (0 to 1). */
  fill: string;
  strength: number;
  edge?: "ink" | "held" | "filled" | "";
  words: string;
}
const props = defineProps<{
  title: string;
  words: string;
  x: number[];
  y: number[];
  yLabel: string;
  cells: GridCell[][];
  counts?: boolean[][];
  at?: { row: number; column: number } | null;
  /** One of several side by side: smaller figures, and what is chosen is told by whoever has them. */
  small?: boolean;
}>();
const NONE: [number, number] = [-1, -1];
const model = defineModel<[number, number] | null>();
const chosen = computed({ get: (): [number, number] => model.value ?? NONE, set: (to) => (model.value = to) });
const LEFT = 46;
const TOP = 8;
const FOOT = 40;
const STEP = 30;
const height = computed(() => TOP + props.y.length * STEP + FOOT);
const wide = (width: number) => (width - LEFT - 6) / props.x.length;
const top = (i: number) => TOP + (props.y.length - 1 - i) * STEP;
const every = (width: number) => Math.max(1, Math.ceil(38 / wide(width)));
function walk(event: KeyboardEvent): void {
  const by = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [1, 0], ArrowDown: [-1, 0] }[event.key];
  if (!by) return;
  event.preventDefault();
  const [r, c] = chosen.value[0] < 0 ? [0, 0] : chosen.value;
  chosen.value = [Math.min(Math.max(r + by[0]!, 0), props.y.length - 1), Math.min(Math.max(c + by[1]!, 0), props.x.length - 1)];
}
const told = computed(() => (chosen.value[0] < 0 ? "" : (props.cells[chosen.value[0]]?.[chosen.value[1]]?.words ?? "")));
</script>

<template>
  <Drawing :title="title" :height="height" :words="words" interactive>
    <template #tools><slot name="tools" /></template>
    <template #default="{ width }">
      <defs>
        <pattern id="road-held" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="2" height="6" fill="var(--spark)" />
        </pattern>
      </defs>
      <g tabindex="0" role="group" :aria-label="`${title}: arrow keys walk from cell to cell`" @keydown="walk">
        <template v-for="(row, i) in cells" :key="i">
          <g v-for="(c, j) in row" :key="j" class="cursor-pointer" @click="chosen = [i, j]">
            <rect
              :x="LEFT + j * wide(width)"
              :y="top(i)"
              :width="wide(width)"
              :height="STEP"
              :fill="counts && !counts[i]![j] ? 'var(--ground)' : 'var(--sheet)'"
              stroke="var(--hair)"
            />
            <rect
              v-if="c.size > 0"
              :x="LEFT + (j + 0.5 - (c.size * 0.94) / 2) * wide(width)"
              :y="top(i) + (STEP * (1 - c.size * 0.94)) / 2"
              :width="wide(width) * c.size * 0.94"
              :height="STEP * c.size * 0.94"
              :fill="c.fill"
              :fill-opacity="c.strength"
              stroke="var(--ink)"
              stroke-width="0.6"
            />
            <rect
              v-if="c.edge === 'held'"
              :x="LEFT + j * wide(width) + 1"
              :y="top(i) + 1"
              :width="wide(width) - 2"
              :height="STEP - 2"
              fill="url(#road-held)"
            />
            <rect
              v-else-if="c.edge === 'ink' || c.edge === 'filled'"
              :x="LEFT + j * wide(width) + 1.5"
              :y="top(i) + 1.5"
              :width="wide(width) - 3"
              :height="STEP - 3"
              fill="none"
              stroke="var(--ink)"
              :stroke-width="c.edge === 'ink' ? 2 : 1"
              :stroke-dasharray="c.edge === 'filled' ? '2 3' : undefined"
            />
            <text
              v-if="wide(width) > (small ? 20 : 34) && c.text"
              :x="LEFT + (j + 0.5) * wide(width)"
              :y="top(i) + STEP / 2 + 4"
              text-anchor="middle"
              :font-size="small ? 10 : 12"
              class="num pointer-events-none"
              :style="{ fill: c.strength > 0.75 ? 'var(--sheet)' : 'var(--ink)' }"
              >{{ c.text }}</text
            >
          </g>
        </template>
        <rect
          v-if="chosen[0] >= 0"
          :x="LEFT + chosen[1] * wide(width)"
          :y="top(chosen[0])"
          :width="wide(width)"
          :height="STEP"
          fill="none"
          stroke="var(--spark)"
          stroke-width="3"
          class="pointer-events-none"
        />
        <rect
          v-if="at"
          :x="LEFT + at.column * wide(width) - 1"
          :y="top(at.row) - 1"
          :width="wide(width) + 2"
          :height="STEP + 2"
          fill="none"
          stroke="var(--info)"
          stroke-width="3"
          class="pointer-events-none"
        />
      </g>
      <text v-for="(v, i) in y" :key="`y${i}`" :x="LEFT - 6" :y="top(i) + STEP / 2 + 4" text-anchor="end" font-size="12" class="num">{{
        Math.round(v)
      }}</text>
      <template v-for="(v, j) in x" :key="`x${j}`"
        ><text
          v-if="j % every(width) === 0"
          :x="LEFT + (j + 0.5) * wide(width)"
          :y="height - FOOT + 16"
          text-anchor="middle"
          font-size="12"
          class="num"
          >{{ Math.round(v) }}</text
        ></template
      >
      <text :x="LEFT" :y="height - 6" font-size="12">{{ yLabel }} up, rpm along</text>
    </template>
    <template v-if="!small" #under
      ><p class="mt-1 min-h-[1.4em] text-[0.92rem] leading-snug" aria-live="polite">{{ told }}</p></template
    >
  </Drawing>
</template>
