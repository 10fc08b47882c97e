<script setup lang="ts">
// A resistive sender on the bench: where it sits, its points, its pull-up, and who else reads it.
import FieldGroup from "@/parts/FieldGroup.vue";
import CsvBox from "@/parts/CsvBox.vue";
import Field from "@/parts/Field.vue";
import OptionalPart from "@/parts/OptionalPart.vue";
import TableField from "@/parts/TableField.vue";

defineProps<{ at: string; kind: "coolant" | "air"; first: string[] }>();
const FRESH = { points: [{}, {}, {}] };
const READER = { name: "temperature gauge", pull_up: "120 ohm" };
</script>

<template>
  <FieldGroup
    :group="kind"
    :at="at"
    measurable
    note="Iced water, room, kettle: ohms at each with the sender unplugged. Hot water scalds; open the cooling system only when cold."
  >
    <OptionalPart :at="at" add="Enter its points" :fresh="FRESH">
      <Field v-for="k in first" :key="k" :at="`${at}/${k}`" />
      <div class="col-span-2">
        <TableField :at="`${at}/points`" noun="point" :columns="['temperature', 'resistance']" />
        <details>
          <summary class="min-h-9 cursor-pointer py-1">All points at once</summary>
          <CsvBox :at="`${at}/points`" :kind="kind" label="Temperature and ohms, a line each" example="20 degC; 2450 ohm" out />
        </details>
      </div>
      <Field v-for="k in ['pull_up', 'falls', 'coldest', 'hottest']" :key="k" :at="`${at}/${k}`" />
      <OptionalPart :at="`${at}/shared`" add="Somebody else reads it" :fresh="READER" usual out="Nobody else reads it">
        <Field v-for="k in ['name', 'pull_up', 'supply']" :key="`s${k}`" :at="`${at}/shared/${k}`" />
      </OptionalPart>
    </OptionalPart>
  </FieldGroup>
</template>
