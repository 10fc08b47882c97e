<script setup lang="ts">
// The fields of one place on the path.
import { computed } from "vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import Field from "@/parts/Field.vue";
import MoreFields from "@/parts/MoreFields.vue";
import SizeSlider from "@/parts/SizeSlider.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";
import { FIELDS_OF, partsOf } from "./path";
import PumpChoices from "./PumpChoices.vue";
import PumpTable from "./PumpTable.vue";

const props = defineProps<{ name: string; at: string }>();
const store = useBuild();
const part = computed(() => partsOf(store.build!)[props.name]);
const FIELDS: Record<string, string[]> = {
  tank: ["head", "hottest", "volume", "vent_drop", "reid", "leaded"],
  lift: ["name", "flow", "listed_at", "current"],
  surge_tank: ["usable", "head"],
  regulator: ["set_pressure", "reference"],
};
const fields = computed(() => (part.value ? FIELDS_OF[part.value.kind] : FIELDS[props.name]) ?? []);
/** All of it that is known: the rest of the table follows, in pencil. */
const RATED = ["flow", "pressure", "voltage", "current"].map((k) => `/fuel/pump/rated/${k}`);
const NOTES: Record<string, string> = {
  regulator: "After the rail: what is left over comes back from there. Before it: only what the engine takes goes on.",
  tank: "Fuel boils first at the pump's inlet, on the hottest day and with a low tank.",
};
</script>

<template>
  <FieldGroup v-if="part?.kind === 'run'" :at="at" measurable>
    <Field v-for="k in fields.slice(0, 4)" :key="k" :at="`${at}/${k}`" />
    <SizeSlider class="col-span-2" :at="`${at}/bore`" label="Slide through the bores" />
    <TableField
      class="col-span-2"
      :at="`${at}/fittings`"
      noun="fitting"
      :columns="['kind', 'count', 'bore']"
      widths="1fr 4rem 5.2rem"
      :fresh="{ kind: 'bend_90', count: 1 }"
    />
    <Field v-for="k in fields.slice(4)" :key="k" :at="`${at}/${k}`" />
  </FieldGroup>
  <template v-else-if="name === 'pump'">
    <FieldGroup :at="at">
      <Field class="col-span-2" at="/fuel/pump/name" />
      <Field v-for="k in ['place', 'control', 'relief', 'inlet_bore', 'outlet_bore', 'arrow']" :key="k" :at="`/fuel/pump/${k}`" /><Field
        at="/fuel/design_margin"
      /><Field at="/fuel/crash_switch" />
      <MoreFields summary="I know one figure only, or its label" :fields="RATED" />
      <PumpTable class="col-span-2" at="/fuel/pump/curve" />
    </FieldGroup>
    <PumpChoices />
  </template>
  <FieldGroup v-else-if="name === 'end'" :at="at"><Field class="col-span-2" :at="at" /></FieldGroup>
  <FieldGroup v-else-if="fields.length" :id="`f${at}`" :at="at" :note="NOTES[name]" :measurable="name !== 'tank'">
    <Field v-for="k in fields" :key="k" :at="`${at}/${k}`" />
    <Field v-if="name === 'tank'" at="/fuel/seals" />
  </FieldGroup>
</template>
