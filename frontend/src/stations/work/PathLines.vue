<script setup lang="ts">
// The lines of the path: calendar above, the car off the road as a band, each task on its days, the critical ones joined.
import { computed } from "vue";
import type { Plan, Task } from "./asks";
import { short } from "./days";
import { TOP, usePath } from "./usePath";

const props = defineProps<{ plan: Plan; tasks: Task[]; keys: string[]; width: number; matters: string; chosen: string }>();
const emit = defineEmits<{ choose: [string] }>();
const { steps, row, height, mondays, line, label, x, first } = usePath(
  computed(() => props.plan),
  computed(() => props.tasks),
  computed(() => props.width),
  computed(() => props.matters),
);
const off = computed(() => {
  if (!props.plan.off_road_from) return null;
  const from = x.value(Math.max(new Date(`${props.plan.off_road_from}T12:00:00`).getTime() / 86_400_000 - 0.5, first.value));
  return { from, to: line(props.plan.off_road_to) };
});
const critical = computed(() =>
  steps.value
    .filter((s) => s.critical)
    .map((s, i) => `${i ? "L" : "M"}${s.from} ${s.y} L${s.to} ${s.y}`)
    .join(" "),
);
const LETTER = 6.7; // px
const cut = (text: string) => {
  const most = Math.floor((label.value - 6) / LETTER);
  return text.length > most ? `${text.slice(0, most - 1).trimEnd()}…` : text;
};
const which = (who: string[]) => (who.length > 1 ? 2 : props.keys.indexOf(who[0]!));
const marks = computed(() =>
  [
    { day: props.plan.finish, word: "usual" },
    { day: props.plan.finish_p90, word: "nine of ten" },
    { day: props.matters, word: "matters" },
  ].filter((m) => m.day && line(m.day) <= props.width - 8),
);
</script>

<template>
  <rect v-if="off" :x="off.from" :y="TOP - 4" :width="Math.max(off.to - off.from, 2)" :height="height - TOP" fill="var(--wash)" />
  <text v-if="off && off.to - off.from > 70" :x="off.from + 4" :y="TOP - 9" font-size="12" style="fill: var(--care)">off the road</text>
  <template v-for="m in mondays" :key="m.x">
    <path :d="`M${m.x} 34 V${height}`" stroke="var(--hair)" />
    <text v-if="m.told" :x="m.x + 2" y="30" font-size="12" class="num" style="fill: var(--soft)">{{ m.day }}</text>
    <text v-if="m.month" :x="m.x + 2" y="15" font-size="13" font-weight="600">{{ m.month }}</text>
  </template>
  <path :d="critical" fill="none" stroke="var(--care)" stroke-width="4" stroke-linejoin="round" opacity="0.75" />
  <g v-for="m in marks" :key="m.word">
    <path
      :d="`M${line(m.day)} 34 V${height}`"
      :stroke="m.word === 'matters' ? 'var(--spark)' : 'var(--ink)'"
      stroke-width="1.5"
      :stroke-dasharray="m.word === 'usual' ? undefined : '5 4'"
    />
    <text :x="line(m.day) - 4" :y="height - 6" font-size="12" text-anchor="end" class="halo">{{ m.word }}</text>
  </g>
  <g
    v-for="s in steps"
    :key="s.key"
    role="button"
    tabindex="0"
    :aria-pressed="chosen === s.key"
    :aria-label="`${s.what}${s.critical ? ', critical' : ''}`"
    class="cursor-pointer"
    @click="emit('choose', s.key)"
    @keydown.enter.space.prevent="emit('choose', s.key)"
  >
    <rect
      x="0"
      :y="s.y - row / 2"
      :width="width"
      :height="row"
      :fill="chosen === s.key ? 'var(--well)' : 'transparent'"
      :opacity="chosen === s.key ? 0.6 : 1"
    />
    <path :d="`M${s.from} ${s.y} H${s.to}`" stroke="var(--soft)" stroke-width="1.2" />
    <path
      v-if="s.late > s.to + 1"
      :d="`M${s.to} ${s.y} H${s.late} M${s.late} ${s.y - 4} v8`"
      stroke="var(--soft)"
      stroke-width="1.2"
      stroke-dasharray="2 2"
    />
    <template v-for="b in s.blocks" :key="b.x">
      <rect
        :x="b.x"
        :y="s.y - 6"
        :width="b.width"
        height="12"
        :fill="which(b.who) ? 'var(--sheet)' : 'var(--ink)'"
        stroke="var(--ink)"
        stroke-width="1.3"
      />
      <path v-if="which(b.who) === 2" :d="`M${b.x} ${s.y + 6} L${b.x + b.width} ${s.y - 6} V${s.y + 6} Z`" fill="var(--ink)" />
    </template>
    <title>
      {{ s.what }}: {{ short(plan.tasks.find((t) => t.key === s.key)!.begins) }} to
      {{ short(plan.tasks.find((t) => t.key === s.key)!.closes) }}
    </title>
  </g>
  <g class="pointer-events-none">
    <text v-for="s in steps" :key="s.key" x="6" :y="s.y + 4.5" font-size="13" :font-weight="s.critical ? 650 : 400">{{ cut(s.what) }}</text>
  </g>
</template>
