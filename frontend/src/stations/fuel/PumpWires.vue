<script setup lang="ts">
// The three wires of the pump's circuit, as they are fitted; what is left empty is proposed. They are the same wires as in the wire list.
import FieldGroup from "@/parts/FieldGroup.vue";
import Field from "@/parts/Field.vue";
import SizeSlider from "@/parts/SizeSlider.vue";
import TableField from "@/parts/TableField.vue";

const WIRES = [
  { key: "pump_feed", word: "Relay to pump" },
  { key: "pump_ground", word: "Pump to ground" },
  { key: "pump_supply", word: "Battery to relay" },
];
const at = (key: string, name: string) => `/wiring/fitted/${key}/${name}`;
</script>

<template>
  <FieldGroup
    group="pump_wire"
    :at="WIRES.map((w) => `/wiring/fitted/${w.key}`)"
    note="Battery, fuse, relay, pump and back. Empty: the size proposed, the length of its branches, a crimp at each end."
  >
    <template v-for="w in WIRES" :key="w.key">
      <Field :at="at(w.key, 'size')" :label="`${w.word}, size`" hint="as proposed" />
      <Field :at="at(w.key, 'length')" :label="`${w.word}, length`" hint="by its branches" />
    </template>
    <SizeSlider class="col-span-2" :at="at('pump_feed', 'size')" label="Slide the feed through the sizes" />
    <Field :at="at('pump_feed', 'temperature')" label="Feed, temperature" hint="of its zones" />
    <Field :at="at('pump_feed', 'insulation')" label="Feed, insulation" />
    <TableField
      class="col-span-2"
      :at="at('pump_feed', 'joints')"
      noun="contact"
      :columns="['kind', 'count']"
      widths="1fr 5rem"
      :fresh="{ kind: 'crimp', count: 1 }"
    />
  </FieldGroup>
</template>
