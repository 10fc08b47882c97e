<script setup lang="ts">
// Where the control unit sits, where it comes from, and its link to the computer.
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";

const of = (...names: string[]) => names.map((k) => `/wiring/unit/${k}`);
const SITS = of("mounted", "plugs", "splash", "reachable", "bears");
const LINK = of("from_donor", "theft_lock", "software", "link_proven");
</script>

<template>
  <FieldGroup group="sits" note="Dry, cool, on rubber; plugs down, a drip loop before them; fuses and update lead within reach.">
    <Field v-for="p in SITS" :key="p" :at="p" />
  </FieldGroup>
  <FieldGroup group="link" note="On the bench, days before: a charger on the battery, the laptop on mains.">
    <Field v-for="p in LINK" :key="p" :at="p" />
  </FieldGroup>
</template>
