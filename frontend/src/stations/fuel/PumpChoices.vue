<script setup lang="ts">
// Other pumps that could be fitted: each by its own sheet, drawn beside the one that is and tried by the advice.
import { IconPlus, IconX } from "@tabler/icons-vue";
import { computed } from "vue";
import BenchGroup from "@/parts/BenchGroup.vue";
import Field from "@/parts/Field.vue";
import { useBuild } from "@/stores/build";
import PumpTable from "./PumpTable.vue";

const store = useBuild();
const choices = computed(() => store.build!.fuel.candidates ?? []);
const row = (kpa: number, flow: number, amps: number) => ({
  voltage: "13.5 V",
  pressure: `${kpa} kPa`,
  flow: `${flow} L/h`,
  current: `${amps} A`,
});
const add = () =>
  store.edit([
    {
      op: "add",
      path: "/fuel/candidates/-",
      value: { name: `pump ${choices.value.length + 2}`, curve: [row(0, 200, 3), row(300, 150, 7)] },
    },
  ]);
</script>

<template>
  <BenchGroup
    title="Other pumps to compare"
    at="/fuel/candidates"
    note="From their sheets. They stand on the chart with this car's own wire and lines."
  >
    <template v-for="(c, i) in choices" :key="i">
      <Field :at="`/fuel/candidates/${i}/name`" /><Field :at="`/fuel/candidates/${i}/price`" />
      <PumpTable class="col-span-2" :at="`/fuel/candidates/${i}/curve`" />
      <button
        type="button"
        class="btn btn-small btn-plain col-span-2 justify-self-start underline"
        :disabled="store.readOnly"
        @click="store.edit([{ op: 'remove', path: `/fuel/candidates/${i}` }])"
      >
        <IconX :size="15" aria-hidden="true" />Put {{ c.name }} back
      </button>
    </template>
    <button type="button" class="btn btn-small col-span-2 justify-self-start" :disabled="store.readOnly" @click="add">
      <IconPlus :size="15" aria-hidden="true" />Add a pump
    </button>
  </BenchGroup>
</template>
