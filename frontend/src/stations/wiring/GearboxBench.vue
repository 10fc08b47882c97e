<script setup lang="ts">
// What the unit hears and drives of the gearbox.
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import OptionalPart from "@/parts/OptionalPart.vue";

const G = "/wiring/gearbox";
const FIELDS = ["kind", "neutral_switch", "reverse_lock", "pulses", "axle", "tyre", "typed_pulses", "calibrated"];
</script>

<template>
  <FieldGroup
    group="gearbox"
    :at="G"
    measurable
    note="Count the pulses of one turn of its output by hand: a chalk mark and a meter. Car on stands, in neutral."
  >
    <OptionalPart :at="G" add="Describe the gearbox" :fresh="{ kind: 'manual' }" out="Nothing of it">
      <Field v-for="k in FIELDS" :key="k" :at="`${G}/${k}`" />
    </OptionalPart>
  </FieldGroup>
</template>
