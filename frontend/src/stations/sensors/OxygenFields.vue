<script setup lang="ts">
// The exhaust with its oxygen sensor, stretch by stretch.
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import MoreFields from "@/parts/MoreFields.vue";
import OptionalPart from "@/parts/OptionalPart.vue";
import TableField from "@/parts/TableField.vue";

const MORE = ["nearest", "farthest", "clock_least", "clock_most", "boss", "leak"].map((k) => `/sensors/oxygen/${k}`);
/** A row for each piece of a usual exhaust, with nothing measured in it. */
const PATH = [{}, { what: "merge" }, {}, {}];
</script>

<template>
  <FieldGroup
    group="oxygen"
    at="/sensors/oxygen"
    measurable
    note="A tape along the pipe, exhaust cold. Weld with the sensor out and the battery off."
  >
    <OptionalPart at="/sensors/oxygen" add="Describe the exhaust" :fresh="{ path: PATH }">
      <Field at="/sensors/oxygen/distance" /><Field at="/sensors/oxygen/clock" /><Field at="/sensors/oxygen/banks" />
      <MoreFields summary="By its own sheet; its boss" :fields="MORE" />
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
  </FieldGroup>
</template>
