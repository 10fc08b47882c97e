<script setup lang="ts">
// The trigger on the bench: the wheel, the sensor and its supply, the phase signal.
import { computed } from "vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import OptionalPart from "@/parts/OptionalPart.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";

defineProps<{ part: "wheel" | "sensor" }>();
const store = useBuild();
const T = "/sensors/trigger";
const trigger = computed(() => store.build!.sensors?.trigger);
const coil = computed(() => trigger.value?.sensor === "variable_reluctance");
const wheel = computed(() =>
  trigger.value?.pattern === "windows" ? ["pattern", "on", "teeth"] : ["pattern", "on", "teeth", "missing", "diameter", "turns"],
);
const SHARED = { name: "old ignition box", pull_up: "2200 ohm" };
const supply = computed(() => [
  "sensor",
  "mount",
  ...(coil.value ? ["tip", "threshold", "polarity"] : ["wants"]),
  "given",
  "input",
  "input_rate",
  ...(coil.value ? [] : ["low_most"]),
]);
</script>

<template>
  <FieldGroup v-if="part === 'wheel'" group="trigger" :at="T">
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
      <Field v-if="trigger?.on !== 'distributor'" :at="`${T}/reach`" />
    </OptionalPart>
  </FieldGroup>
  <template v-else-if="trigger">
    <FieldGroup
      group="trigger_sensor"
      :at="supply.map((k) => `${T}/${k}`)"
      note="Read both sheets before the plug goes on: 12 V kill a 5 V sensor."
    >
      <Field v-for="k in supply" :key="k" :at="`${T}/${k}`" />
      <OptionalPart v-if="coil" :at="`${T}/spin`" add="Spun on the bench">
        <Field v-for="k in ['coil', 'volts', 'speed']" :key="`spin${k}`" :at="`${T}/spin/${k}`" />
      </OptionalPart>
    </FieldGroup>
    <FieldGroup group="shared" :at="`${T}/shared`">
      <OptionalPart :at="`${T}/shared`" add="Another unit reads it too" :fresh="SHARED" usual out="Nobody else reads it">
        <Field v-for="k in ['name', 'pull_up', 'supply', 'powers']" :key="k" :at="`${T}/shared/${k}`" />
      </OptionalPart>
    </FieldGroup>
    <FieldGroup group="phase" :at="`${T}/phase`">
      <OptionalPart :at="`${T}/phase`" add="Describe the phase signal" :fresh="{ sensor: 'hall' }" out="No phase signal">
        <Field v-for="k in ['sensor', 'events', 'at', 'width']" :key="k" :at="`${T}/phase/${k}`" />
      </OptionalPart>
    </FieldGroup>
  </template>
</template>
