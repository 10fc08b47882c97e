<script setup lang="ts">
// Panes of a strip, one under the other, on one clock and one cursor.
import { IconChevronLeft, IconChevronRight, IconZoomIn, IconZoomOut, IconZoomReset } from "@tabler/icons-vue";
import { useElementSize } from "@vueuse/core";
import uPlot from "uplot";
import "uplot/dist/uPlot.min.css";
import { nextTick, onBeforeUnmount, ref, watch } from "vue";
import { written } from "@/figures/format";
import { useSettings } from "@/stores/settings";
import { COLOURS, DASHES, dataOf, optionsOf, type Pane } from "./strip";
import { minutes } from "./useRoad";

const props = defineProps<{
  time: number[];
  panes: Pane[];
  range: [number, number];
  whole: number;
  spans?: number[][];
  spansWord?: string;
  rowsEach: number;
}>();
const emit = defineEmits<{ moved: [[number, number]]; place: [{ t: number; values: Record<string, number | null> } | null] }>();
const settings = useSettings();
const frame = ref<HTMLElement | null>(null);
const hold = ref<HTMLElement | null>(null);
const { width } = useElementSize(frame);
let plots: uPlot[] = [];
let range: [number, number] = [...props.range];
const values = ref<{ t: number; told: string[] } | null>(null);

const options = (pane: Pane, last: boolean) =>
  optionsOf(pane, last, Math.max(width.value, 240), { range: () => range, spans: () => props.spans ?? [], told, go });
function told(u: uPlot): void {
  const k = u.cursor.idx;
  if (k === null || k === undefined || u.cursor.left! < 0) {
    values.value = null;
    emit("place", null);
    return;
  }
  if (u !== plots[0]) return;
  const found: Record<string, number | null> = {};
  const said = props.panes.flatMap((p) =>
    p.lines.map((l) => {
      const low = l.low[k] ?? null;
      const high = l.high[k] ?? null;
      found[l.key] = low === null || high === null ? null : (low + high) / 2;
      return `${l.word} ${found[l.key] === null ? "–" : found[l.key]!.toFixed(Math.abs(found[l.key]!) < 20 ? 2 : 0)}`;
    }),
  );
  values.value = { t: props.time[k]!, told: said };
  emit("place", { t: props.time[k]!, values: found });
}
function go(to: [number, number]): void {
  const span = Math.min(Math.max(to[1] - to[0], 0.5), Math.max(props.whole, 1));
  const a = Math.min(Math.max(to[0], 0), Math.max(props.whole - span, 0));
  range = [a, a + span];
  for (const p of plots) p.setScale("x", { min: range[0], max: range[1] });
  emit("moved", range);
}
const zoom = (by: number, at = (range[0] + range[1]) / 2) => go([at - (at - range[0]) * by, at + (range[1] - at) * by]);
const pan = (by: number) => go([range[0] + (range[1] - range[0]) * by, range[1] + (range[1] - range[0]) * by]);
function wheel(event: WheelEvent): void {
  const p = plots[0];
  if (!p || !hold.value) return;
  event.preventDefault();
  if (Math.abs(event.deltaX) > Math.abs(event.deltaY)) return pan(event.deltaX / 900);
  const left = event.clientX - hold.value.getBoundingClientRect().left - p.bbox.left / devicePixelRatio;
  zoom(event.deltaY > 0 ? 1.18 : 1 / 1.18, p.posToVal(left, "x"));
}
function keys(event: KeyboardEvent): void {
  const act = {
    ArrowLeft: () => pan(-0.2),
    ArrowRight: () => pan(0.2),
    "+": () => zoom(0.6),
    "-": () => zoom(1.7),
    "0": () => go([0, props.whole]),
  }[event.key];
  if (!act) return;
  event.preventDefault();
  event.stopPropagation(); // figures lead to stations everywhere else
  act();
}
function clear(): void {
  for (const p of plots) p.destroy();
  plots = [];
}
async function draw(): Promise<void> {
  await nextTick();
  if (!hold.value || !width.value) return;
  clear();
  const places = [...hold.value.children].map((pane) => pane.lastElementChild as HTMLElement);
  plots = props.panes.map((pane, i) => new uPlot(options(pane, i === props.panes.length - 1), dataOf(props.time, pane), places[i]));
}
// A canvas takes its colours once: by another theme it is drawn anew.
watch([width, () => settings.theme, () => props.panes.map((p) => p.lines.map((l) => l.key).join()).join("|")], draw, { immediate: true });
watch(
  () => props.time,
  () => plots.forEach((p, i) => props.panes[i] && p.setData(dataOf(props.time, props.panes[i]!), false)),
);
watch(
  () => props.range,
  (to) => {
    if (to[0] === range[0] && to[1] === range[1]) return;
    range = [...to];
    for (const p of plots) p.setScale("x", { min: to[0], max: to[1] });
  },
);
watch(
  () => props.spans,
  () => plots.forEach((p) => p.redraw(false)),
);
onBeforeUnmount(clear);
const dash = (i: number) => DASHES[i % 3]!.join(" ");
const colour = (i: number) => `var(${COLOURS[i % 3]})`;
</script>

<template>
  <div ref="frame" class="mt-2 min-w-0">
    <div class="flex flex-wrap items-center gap-x-4 gap-y-1">
      <div class="no-print flex" role="group" aria-label="Look closer or further">
        <button type="button" class="btn btn-small" aria-label="Closer" @click="zoom(0.5)"><IconZoomIn :size="17" /></button>
        <button type="button" class="btn btn-small -ml-px" aria-label="Further" @click="zoom(2)"><IconZoomOut :size="17" /></button>
        <button type="button" class="btn btn-small -ml-px" aria-label="All of it" @click="go([0, whole])">
          <IconZoomReset :size="17" />
        </button>
        <button type="button" class="btn btn-small -ml-px" aria-label="Back" @click="pan(-0.5)"><IconChevronLeft :size="17" /></button>
        <button type="button" class="btn btn-small -ml-px" aria-label="On" @click="pan(0.5)"><IconChevronRight :size="17" /></button>
      </div>
      <span v-if="spans?.length" class="flex items-center gap-1.5 text-[0.88rem]"
        ><span class="inline-block h-3 w-5" style="background: var(--care); opacity: 0.4" aria-hidden="true"></span>{{ spansWord }}</span
      >
    </div>
    <div
      ref="hold"
      class="mt-1 touch-pan-y border border-line bg-sheet"
      tabindex="0"
      role="application"
      aria-label="Strip: arrow left and right to move, plus and minus to look closer or further, 0 for all of it; drag over a stretch to look at it"
      @wheel="wheel"
      @keydown="keys"
    >
      <div v-for="pane in panes" :key="pane.lines.map((l) => l.key).join()">
        <!-- What the lines of a pane are stands over it: each pane begins its strokes anew. -->
        <p class="flex flex-wrap gap-x-4 pt-1.5 pl-[52px] text-[0.88rem] leading-tight" :data-pane="pane.lines[0]?.key">
          <span v-for="(l, k) in pane.lines" :key="l.key" class="flex items-center gap-1.5">
            <svg v-if="pane.lines.length > 1" width="22" height="8" aria-hidden="true">
              <path d="M0 4H22" :stroke="colour(k)" stroke-width="2" :stroke-dasharray="dash(k)" /></svg
            >{{ l.word }}{{ l.unit ? `, ${written(l.unit)}` : "" }}
          </span>
        </p>
        <div></div>
      </div>
    </div>
    <p class="mt-1 min-h-[1.4em] text-[0.88rem] leading-snug text-soft">
      {{
        values
          ? `${minutes(values.t)}: ${values.told.join(", ")}`
          : rowsEach > 1.5
            ? `Each point is the least and most of about ${Math.round(rowsEach)} rows.`
            : "Every row is drawn."
      }}
    </p>
  </div>
</template>
