<script setup lang="ts">
// Sensors that are straight lines, by two points.
import FieldGroup from "@/parts/FieldGroup.vue";
import Field from "@/parts/Field.vue";
import OptionalPart from "@/parts/OptionalPart.vue";
import TableField from "@/parts/TableField.vue";

const LINE = { points: [{}, {}] };
</script>

<template>
  <div>
    <FieldGroup
      v-for="[line, at] in [
        ['pressure', '/sensors/pressure'],
        ['fuel_pressure', '/sensors/fuel_pressure'],
      ]"
      :key="at"
      :group="line"
      :at="at"
    >
      <OptionalPart :at="at!" add="Enter its line" :fresh="LINE">
        <TableField class="col-span-2" :at="`${at}/points`" noun="point" :columns="['volts', 'value']" />
        <Field :at="`${at}/reads`" /><Field v-if="at === '/sensors/fuel_pressure'" :at="`${at}/sits`" />
        <template v-if="at === '/sensors/pressure'">
          <Field at="/sensors/pressure/hose" /><Field at="/sensors/pressure/sits" /><Field at="/sensors/pressure/hose_length" />
          <div class="col-span-2">
            <p class="text-[0.86rem] text-soft">The line chosen in the unit, two points; empty if it is the same</p>
            <TableField at="/sensors/pressure/typed" noun="typed point" :columns="['volts', 'value']" />
          </div>
        </template>
      </OptionalPart>
    </FieldGroup>
  </div>
</template>
