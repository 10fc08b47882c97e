<script setup lang="ts">
// The strip of a log: panes of signals over one time, drawn by a plotting library from least and most of each stretch; finer as one looks closer.
import { useDebounceFn } from "@vueuse/core";
import { computed, ref, shallowRef, watch } from "vue";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import { roadApi, type Strip } from "./asks";
import type { Pane } from "./strip";
import StripPlot from "./StripPlot.vue";
import type { UseRoad } from "./useRoad";

const props = defineProps<{ road: UseRoad; spans?: number[][]; spansWord?: string; brief?: boolean; start?: number }>();
const emit = defineEmits<{ place: [{ rpm: number; load: number; t: number } | null] }>();
const POINTS = 1500;
const CLOSE = 20; // s on either side of a place that is led to
/** Signals of a pane stand over one axis. */
const GROUPS: { key: string; word: string; panes: string[][] }[] = [
  { key: "mixture", word: "Mixture", panes: [["lambda", "lambda_2", "target"], ["speed"], ["manifold", "throttle"]] },
  { key: "fuel", word: "Fuel", panes: [["pulse"], ["rail"], ["volts"]] },
  { key: "heat", word: "Heat", panes: [["coolant", "air"], ["road_speed"], ["advance", "knock"]] },
];
const group = ref("mixture");
const told = computed(() => props.road.told.value);
const number = (quantity: string): number => {
  const t = told.value?.taken.find((x) => x.quantity === quantity);
  return t ? told.value!.columns.findIndex((c) => c.name === t.column) + 1 : 0;
};
const scaled = (quantity: string) => told.value!.taken.find((x) => x.quantity === quantity)!;
const wanted = computed(() => {
  const g = GROUPS.find((x) => x.key === (props.brief ? "mixture" : group.value))!;
  return g.panes.map((keys) => keys.filter((k) => number(k))).filter((keys) => keys.length);
});
const columns = computed(() => wanted.value.flatMap((keys) => keys.map(number)).join(","));
const range = ref<[number, number]>([0, 0]);
const strip = shallowRef<Strip | null>(null);
let asked = 0;
async function fetchStrip(begin: number, end: number): Promise<void> {
  if (!columns.value || !told.value) return;
  const mine = ++asked;
  const found = await roadApi
    .strip(props.road.store.id, told.value.line.id, { columns: columns.value, begin: Math.max(begin, 0), end, points: POINTS })
    .catch(() => null);
  if (mine === asked && found) strip.value = found;
}
const later = useDebounceFn((a: number, b: number) => void fetchStrip(a - (b - a) * 0.5, b + (b - a) * 0.5), 140);
watch(
  [columns, () => told.value?.line.id],
  () => {
    const whole = told.value?.line.seconds ?? 0;
    range.value = props.start === undefined ? [0, whole] : [Math.max(props.start - CLOSE, 0), Math.min(props.start + CLOSE, whole)];
    void fetchStrip(...range.value);
  },
  { immediate: true },
);
function moved(to: [number, number]): void {
  range.value = to;
  void later(...to);
}
const info = (quantity: string) => told.value?.quantities.find((q) => q.key === quantity);
const panes = computed<Pane[]>(() => {
  const s = strip.value;
  if (!s) return [];
  return wanted.value.map((keys) => ({
    lines: keys.flatMap((k) => {
      const c = s.columns.find((x) => x.number === number(k));
      if (!c) return [];
      const { factor, offset } = scaled(k);
      const of = (v: number | null) => (v === null ? null : v * factor + offset);
      const flip = factor < 0;
      return [
        {
          key: k,
          word: info(k)?.word ?? k,
          unit: info(k)?.unit ?? "",
          low: (flip ? c.high : c.low).map(of),
          high: (flip ? c.low : c.high).map(of),
        },
      ];
    }),
  }));
});
function placed(at: { t: number; values: Record<string, number | null> } | null): void {
  const v = at?.values;
  const where = props.road.said.value?.where;
  const load = where?.y_label.startsWith("throttle") ? v?.throttle : v?.manifold;
  emit("place", at && v?.speed != null && load != null ? { t: at.t, rpm: v.speed, load } : null);
}
const whole = computed(() => told.value?.line.seconds ?? 0);
</script>

<template>
  <section v-if="told" aria-label="Strip of the log">
    <ChoiceBar v-if="!brief" v-model="group" :options="GROUPS.map(({ key, word }) => ({ key, word }))" label="Which signals" />
    <StripPlot
      v-if="strip && panes.length"
      :time="strip.time"
      :panes="panes"
      :range="range"
      :whole="whole"
      :spans="spans"
      :spans-word="spansWord"
      :rows-each="strip.rows_each"
      @moved="moved"
      @place="placed"
    />
    <p v-else-if="!panes.length && strip" class="mt-3 text-soft">None of these signals is in this log.</p>
  </section>
</template>
