<script setup lang="ts">
// Sensors that are straight lines, by two points; and the exhaust with its oxygen sensor, stretch by stretch.
import BenchGroup from "@/parts/BenchGroup.vue";
import Field from "@/parts/Field.vue";
import OptionalPart from "@/parts/OptionalPart.vue";
import TableField from "@/parts/TableField.vue";

/** A row for each piece of a usual exhaust, with nothing measured in it. */
const PATH = [{}, { what: "merge" }, {}, {}];
const LINE = { points: [{}, {}] };
</script>

<template>
  <div>
    <BenchGroup
      v-for="[bench, at] in [
        ['pressure', '/sensors/pressure'],
        ['fuel_pressure', '/sensors/fuel_pressure'],
      ]"
      :key="at"
      :bench="bench"
      :at="at"
    >
      <OptionalPart :at="at!" add="Enter its line" :fresh="LINE">
        <TableField class="col-span-2" :at="`${at}/points`" noun="point" :columns="['volts', 'value']" />
        <Field :at="`${at}/reads`" /><Field v-if="at === '/sensors/fuel_pressure'" :at="`${at}/sits`" />
        <template v-if="at === '/sensors/pressure'">
          <Field at="/sensors/pressure/hose" />
          <div class="col-span-2">
            <p class="text-[0.86rem] text-soft">The line chosen in the unit, two points; empty if it is the same</p>
            <TableField at="/sensors/pressure/typed" noun="typed point" :columns="['volts', 'value']" />
          </div>
        </template>
      </OptionalPart>
    </BenchGroup>
    <BenchGroup
      bench="oxygen"
      at="/sensors/oxygen"
      measurable
      note="A tape along the pipe, exhaust cold. Weld with the sensor out and the battery off."
    >
      <OptionalPart at="/sensors/oxygen" add="Describe the exhaust" :fresh="{ path: PATH }">
        <Field at="/sensors/oxygen/distance" /><Field at="/sensors/oxygen/clock" /><Field at="/sensors/oxygen/banks" />
        <TableField
          class="col-span-2"
          at="/sensors/oxygen/path"
          noun="stretch"
          :columns="['length', 'bend', 'what']"
          widths="1fr 1fr 1.1fr"
        />
        <div class="col-span-2">
          <p class="text-[0.86rem] text-soft">Volts and lambda of its controller; empty where it speaks over a bus</p>
          <TableField at="/sensors/oxygen/points" noun="lambda point" :columns="['volts', 'value']" />
        </div>
      </OptionalPart>
    </BenchGroup>
  </div>
</template>
