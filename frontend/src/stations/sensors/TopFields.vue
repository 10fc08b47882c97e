<script setup lang="ts">
// Where number one is: true top by one way or another, and the tooth or angle there.
import { computed } from "vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import MoreFields from "@/parts/MoreFields.vue";
import { useBuild } from "@/stores/build";
import TopDrawing from "./TopDrawing.vue";

const store = useBuild();
const T = "/sensors/trigger";
const NUMBER_ONE = [
  "seen_from",
  "top_by",
  "stop_before",
  "stop_after",
  "tooth_at_top",
  "angle",
  "doubt",
  "stroke",
  "light_commanded",
  "light_observed",
];
const MORE = ["figure_from", "face", "index_shift"].map((k) => `${T}/${k}`);
/** How far after the mark true top lies, by the positive stop. */
const off = computed(() => store.plan?.stages.trigger?.top_off_deg ?? null);
</script>

<template>
  <FieldGroup
    group="number_one"
    :at="NUMBER_ONE.map((k) => `${T}/${k}`)"
    note="Plugs out. Top is half way between the two positions of a positive stop. On compression both valves are shut and slack."
  >
    <Field v-for="k in NUMBER_ONE.slice(0, 4)" :key="k" :at="`${T}/${k}`" />
    <TopDrawing v-if="off != null" :before="store.si(`${T}/stop_before`) ?? 0" :after="store.si(`${T}/stop_after`) ?? 0" :off="off" />
    <Field v-for="k in NUMBER_ONE.slice(4)" :key="k" :at="`${T}/${k}`" /><Field :at="`${T}/cranking`" />
    <MoreFields summary="The angle is a maker's figure, or the wheel is turned over" :fields="MORE" />
  </FieldGroup>
</template>
