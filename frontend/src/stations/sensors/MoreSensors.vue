<script setup lang="ts">
// Sensors that not every build has: each brings its row in the set, its wires and its checks.
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import OptionalPart from "@/parts/OptionalPart.vue";

const KINDS = [
  { at: "/sensors/meter", add: "An air meter", fields: ["sits", "breather", "other_air", "most"] },
  { at: "/sensors/narrowband", add: "A narrowband oxygen sensor", fields: ["count", "lean", "rich"] },
  { at: "/sensors/composition", add: "A fuel composition sensor", fields: ["blend", "unit_follows", "sits"] },
];
</script>

<template>
  <FieldGroup group="more">
    <template v-for="kind in KINDS" :key="kind.at">
      <OptionalPart :at="kind.at" :add="kind.add" :out="`Without: ${kind.add.toLowerCase()}`">
        <Field v-for="k in kind.fields" :key="k" :at="`${kind.at}/${k}`" />
      </OptionalPart>
    </template>
  </FieldGroup>
</template>
