<script setup lang="ts">
// The control unit's pins by its own sheet, beyond those of its kind.
import { computed } from "vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import CsvBox from "@/parts/CsvBox.vue";
import MoreFields from "@/parts/MoreFields.vue";
import TableField from "@/parts/TableField.vue";
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
  <FieldGroup
    group="pin_table"
    note="Once one pin is entered, these are all. Wires look for pins of their kind; one can be put on a pin by hand in the wire list."
  >
    <MoreFields summary="Enter the pins of its own sheet" :also="[`${U}/pins`]">
      <TableField
        class="col-span-2"
        :at="`${U}/pins`"
        noun="pin"
        :columns="['pin', 'kind', 'limit']"
        widths="4.5rem 1fr 5rem"
        :fresh="{ pin: 'X1', kind: 'low_side' }"
      />
      <CsvBox
        class="col-span-2"
        :at="`${U}/pins`"
        kind="pins"
        label="Or all of them from a table"
        example="pin;kind;limit&#10;A1;feed;15 A&#10;B7;injector;3 A"
        out
      />
    </MoreFields>
  </FieldGroup>
</template>
