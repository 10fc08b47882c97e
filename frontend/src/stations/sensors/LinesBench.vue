<script setup lang="ts">
// Sensors that are straight lines, by two points; and the exhaust with its oxygen sensor, stretch by stretch.
import BenchGroup from "@/parts/BenchGroup.vue";
import Field from "@/parts/Field.vue";
import OptionalPart from "@/parts/OptionalPart.vue";
import TableField from "@/parts/TableField.vue";

const PATH = [
  { length: "400 mm", bend: "60 deg" },
  { length: "200 mm", what: "merge" },
  { length: "1 m", bend: "30 deg" },
  { length: "1.5 m" },
];
const LINE = {
  points: [
    { volts: "0.5 V", value: "20 kPa" },
    { volts: "4.5 V", value: "250 kPa" },
  ],
};
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
        <TableField
          class="col-span-2"
          :at="`${at}/points`"
          noun="point"
          :columns="['volts', 'value']"
          :fresh="{ volts: '2.5 V', value: '100 kPa' }"
        />
        <Field :at="`${at}/reads`" />
        <template v-if="at === '/sensors/pressure'">
          <Field at="/sensors/pressure/hose" />
          <div class="col-span-2">
            <p class="text-[0.86rem] text-soft">The line chosen in the unit, two points; empty if it is the same</p>
            <TableField
              at="/sensors/pressure/typed"
              noun="typed point"
              :columns="['volts', 'value']"
              :fresh="{ volts: '0.5 V', value: '20 kPa' }"
            />
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
        <Field at="/sensors/oxygen/distance" /><Field at="/sensors/oxygen/clock" />
        <TableField
          class="col-span-2"
          at="/sensors/oxygen/path"
          noun="stretch"
          :columns="['length', 'bend', 'what']"
          widths="1fr 1fr 1.1fr"
          :fresh="{ length: '500 mm' }"
        />
        <div class="col-span-2">
          <p class="text-[0.86rem] text-soft">Volts and lambda of its controller; empty where it speaks over a bus</p>
          <TableField
            at="/sensors/oxygen/points"
            noun="lambda point"
            :columns="['volts', 'value']"
            :fresh="{ volts: '0 V', value: 0.68 }"
          />
        </div>
      </OptionalPart>
    </BenchGroup>
  </div>
</template>
