<script setup lang="ts">
// The trigger on the bench, in the order in which one meets it: the wheel, the sensor and its supply, the gap, where number one is, the phase.
import { computed } from "vue";
import BenchGroup from "@/parts/BenchGroup.vue";
import Field from "@/parts/Field.vue";
import OptionalPart from "@/parts/OptionalPart.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";
import TopDrawing from "./TopDrawing.vue";

const store = useBuild();
const T = "/sensors/trigger";
const trigger = computed(() => store.build!.sensors?.trigger);
const coil = computed(() => trigger.value?.sensor === "variable_reluctance");
const wheel = computed(() =>
  trigger.value?.pattern === "windows" ? ["pattern", "on", "teeth"] : ["pattern", "on", "teeth", "missing", "diameter", "turns"],
);
const supply = computed(() => [
  "sensor",
  "mount",
  ...(coil.value ? ["tip", "threshold", "polarity"] : ["wants"]),
  "given",
  "input",
  "input_rate",
]);
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
/** How far after the mark true top lies, by the positive stop. */
const off = computed(() => store.plan?.stages.trigger?.top_off_deg ?? null);
const gaps = computed(() => (store.at(`${T}/gaps`) as string[] | undefined) ?? []);
const FOUR = [null, null, null, null];
</script>

<template>
  <BenchGroup bench="trigger" :at="T">
    <OptionalPart :at="T" add="Describe a trigger wheel" :fresh="{ teeth: 36, missing: 1, sensor: 'hall' }" usual out="No trigger wheel">
      <Field v-for="k in wheel" :key="k" :at="`${T}/${k}`" />
      <TableField
        v-if="trigger?.pattern === 'windows'"
        class="col-span-2"
        :at="`${T}/windows`"
        noun="window"
        :columns="['opens', 'width']"
        :fresh="{ opens: '0 deg', width: '30 deg' }"
      />
    </OptionalPart>
  </BenchGroup>
  <template v-if="trigger">
    <BenchGroup
      bench="trigger_sensor"
      :at="supply.map((k) => `${T}/${k}`)"
      note="Read both sheets before the plug goes on: 12 V kill a 5 V sensor."
    >
      <Field v-for="k in supply" :key="k" :at="`${T}/${k}`" />
      <OptionalPart v-if="coil" :at="`${T}/spin`" add="Spun on the bench">
        <Field v-for="k in ['coil', 'volts', 'speed']" :key="`spin${k}`" :at="`${T}/spin/${k}`" />
      </OptionalPart>
    </BenchGroup>
    <BenchGroup
      bench="gap"
      :at="[`${T}/gaps`, `${T}/gap_least`, `${T}/gap_most`]"
      note="Feeler gauge, four places a quarter turn apart. Key out, battery off."
    >
      <div v-if="gaps.length" :id="`f${T}/gaps`" class="col-span-2 grid grid-cols-4 gap-2" tabindex="-1">
        <Field v-for="(_, i) in gaps" :key="i" :at="`${T}/gaps/${i}`" :label="['top', 'right', 'bottom', 'left'][i] ?? `${i + 1}`" />
      </div>
      <OptionalPart v-else :at="`${T}/gaps`" add="Enter four gaps" :fresh="FOUR" />
      <Field :at="`${T}/gap_least`" /><Field :at="`${T}/gap_most`" />
    </BenchGroup>
    <BenchGroup
      bench="number_one"
      :at="NUMBER_ONE.map((k) => `${T}/${k}`)"
      note="Plugs out. Top is half way between the two positions of a positive stop. On compression both valves are shut and slack."
    >
      <Field v-for="k in NUMBER_ONE.slice(0, 4)" :key="k" :at="`${T}/${k}`" />
      <TopDrawing v-if="off != null" :before="store.si(`${T}/stop_before`) ?? 0" :after="store.si(`${T}/stop_after`) ?? 0" :off="off" />
      <Field v-for="k in NUMBER_ONE.slice(4)" :key="k" :at="`${T}/${k}`" /><Field :at="`${T}/cranking`" />
    </BenchGroup>
    <BenchGroup bench="phase" :at="`${T}/phase`">
      <OptionalPart :at="`${T}/phase`" add="Describe the phase signal" :fresh="{ sensor: 'hall' }" out="No phase signal">
        <Field v-for="k in ['sensor', 'events', 'at', 'width']" :key="k" :at="`${T}/phase/${k}`" />
      </OptionalPart>
    </BenchGroup>
  </template>
</template>
