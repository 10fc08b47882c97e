<script setup lang="ts">
// The control unit's pins by its own sheet, beyond those of its kind.
import { computed } from "vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import MoreFields from "@/parts/MoreFields.vue";
import { useBuild } from "@/stores/build";

const U = "/wiring/unit";
const of = (...names: string[]) => names.map((k) => `${U}/${k}`);
const store = useBuild();
const SHEET = of("numbers", "coil_stage", "pump_output", "oxygen");
const output = computed(() => ["high_side", "relay_inside"].includes(String(store.at(`${U}/pump_output`))));
const PINS = of("spare_12v", "spare_5v", "bridge");
</script>

<template>
  <FieldGroup group="sheet" note="Read it before a plug goes on. What the sheet does not say, ask whoever sells it.">
    <Field v-for="p in SHEET" :key="p" :at="p" />
    <Field v-if="output" :at="`${U}/pump_limit`" />
    <MoreFields summary="Spare outputs, and a motor output" :fields="PINS" />
  </FieldGroup>
</template>
