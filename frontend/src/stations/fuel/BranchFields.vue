<script setup lang="ts">
// What hangs on the line besides the engine, and what was measured on it.
import { computed } from "vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import MoreFields from "@/parts/MoreFields.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";

const store = useBuild();
const twoBanks = computed(() => ["vee", "flat"].includes(store.build!.engine.arrangement ?? "inline"));
</script>

<template>
  <FieldGroup group="branches">
    <Field v-if="twoBanks || store.at('/fuel/rails')" class="col-span-2" at="/fuel/rails" />
    <MoreFields summary="A second user of the line: a cold-start jet, a heater" :also="['/fuel/users']">
      <TableField
        class="col-span-2"
        at="/fuel/users"
        noun="user"
        :columns="['name', 'flow', 'sized_at', 'runs']"
        :fresh="{ name: 'cold-start jet', flow: '5 L/h', sized_at: '41 kPa' }"
      />
    </MoreFields>
  </FieldGroup>
  <FieldGroup
    group="measured"
    at="/fuel/measured"
    measurable
    note="Outdoors, no flame, battery off, fuel caught in a can. What is measured wins over what is worked out."
  >
    <MoreFields
      summary="Return pressure, and what runs to the pump by itself"
      :fields="['/fuel/measured/return_pressure', '/fuel/measured/caught', '/fuel/measured/caught_in']"
    />
  </FieldGroup>
</template>
