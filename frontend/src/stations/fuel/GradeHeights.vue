<script setup lang="ts">
// Below the grade line: the line at its true length and height, as thick as its bore, with handles to pull.
import { computed } from "vue";
import type { Scale } from "@/figures/scale";
import { useBuild } from "@/stores/build";
import DragHandle from "./DragHandle.vue";
import { carrierOf, segmentsOf, type Grade } from "./grade";
import { partWord } from "./states";
import { HIGHEST, LOWEST, useGradeDrag } from "./useGradeDrag";
import { useScales } from "@/figures/owners";

const props = defineProps<{ grade: Grade; x: Scale; z: Scale; fixed: boolean }>();
const own = useScales();
const emit = defineEmits<{ attempt: [string, string]; settle: [string, string] }>();
const store = useBuild();
const size = (metres: number) => own.value.pitch.tell(metres);
const { dragged, grab, drag, drop, cancel, nudge } = useGradeDrag({
  fixed: () => props.fixed,
  perMetre: () => Math.abs(props.z(1) - props.z(0)),
  sizes: () => store.info("/fuel/parts/*/bore")?.sizes ?? [],
  attempt: (at, written) => emit("attempt", at, written),
  settle: (at, written) => emit("settle", at, written),
});
/** A value of a run in metres: as it is pulled now, else as the core read it. */
const metres = (name: string, key: "bore" | "rise") => {
  const at = `/fuel/parts/${name}/${key}`;
  return dragged.value?.at === at ? dragged.value.value : (store.si(at) ?? 0);
};
const segments = computed(() => segmentsOf(props.grade).map((s) => ({ ...s, bore: metres(s.name, "bore") })));
const carrier = computed(() => carrierOf(props.grade));
const riseOf = (name: string) => metres(name, "rise");
const every = computed(() => [...props.grade.forth, ...props.grade.back]);
const last = (name: string) => props.grade.forth.filter((p) => p[0] === name).at(-1)!;
const rail = computed(() => last("rail"));
const pump = computed(() => last("pump"));
const marks = computed(() =>
  props.grade.losses.filter((l) => l.kind !== "run").map((l) => ({ ...l, place: every.value.find((p) => p[0] === l.part)! })),
);
</script>

<template>
  <g>
    <path :d="`M${x(rail[1])} 30V286`" stroke="var(--line)" stroke-dasharray="2 4" />
    <g v-for="s in segments" :key="s.name">
      <path
        :d="`M${x(s.a[1])} ${z(s.a[2])}L${x(s.b[1])} ${z(s.b[2])}`"
        stroke="var(--ink)"
        :stroke-width="Math.max(s.bore * 750, 1.5)"
        :stroke-opacity="s.back ? 0.45 : 0.85"
      />
      <DragHandle
        :label="`Bore of ${partWord(s.name)}`"
        :now="+own.pitch.bare(s.bore, 1)"
        :text="size(s.bore)"
        :least="own.pitch.of(3e-3)"
        :most="own.pitch.of(13e-3)"
        :fixed="fixed"
        @grab="(e) => grab(e, `/fuel/parts/${s.name}/bore`, s.bore)"
        @drag="drag"
        @drop="drop"
        @cancel="cancel"
        @nudge="(e) => nudge(e, `/fuel/parts/${s.name}/bore`, s.bore)"
      >
        <rect :x="(x(s.a[1]) + x(s.b[1])) / 2 - 22" :y="z((s.a[2] + s.b[2]) / 2) - 22" width="44" height="44" fill="transparent" />
        <rect
          :x="(x(s.a[1]) + x(s.b[1])) / 2 - 4"
          :y="z((s.a[2] + s.b[2]) / 2) - 9"
          width="8"
          height="18"
          rx="1"
          fill="var(--sheet)"
          :stroke="dragged?.at === `/fuel/parts/${s.name}/bore` ? 'var(--spark)' : 'var(--ink)'"
          stroke-width="1.6"
        />
        <text :x="(x(s.a[1]) + x(s.b[1])) / 2" :y="z((s.a[2] + s.b[2]) / 2) - 13" text-anchor="middle" font-size="12" class="halo num">{{
          size(s.bore)
        }}</text>
      </DragHandle>
    </g>
    <circle :cx="x(pump[1])" :cy="z(pump[2])" r="7" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
    <rect
      v-for="m in marks"
      :key="m.part"
      :x="x(m.place[1]) - 6"
      :y="z(m.place[2]) - 6"
      width="12"
      height="12"
      fill="var(--sheet)"
      stroke="var(--ink)"
      stroke-width="1.6"
    />
    <DragHandle
      v-if="carrier"
      label="Height of the rail"
      :now="Math.round(riseOf(carrier.name) * 100) / 100"
      :text="`${own.distance.tell(riseOf(carrier.name), 1)} up from where its line starts`"
      :least="LOWEST"
      :most="HIGHEST"
      :fixed="fixed"
      @grab="(e) => grab(e, `/fuel/parts/${carrier!.name}/rise`, riseOf(carrier!.name))"
      @drag="drag"
      @drop="drop"
      @cancel="cancel"
      @nudge="(e) => nudge(e, `/fuel/parts/${carrier!.name}/rise`, riseOf(carrier!.name))"
    >
      <rect :x="x(rail[1]) - 22" :y="z(rail[2]) - 22" width="44" height="44" fill="transparent" />
      <rect
        :x="x(rail[1]) - 16"
        :y="z(rail[2]) - 4"
        width="32"
        height="8"
        :fill="dragged?.at.endsWith('/rise') ? 'var(--spark)' : 'var(--ink)'"
      />
    </DragHandle>
  </g>
</template>
