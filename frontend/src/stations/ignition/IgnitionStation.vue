<script setup lang="ts">
import { computed } from "vue";
import BenchGroup from "@/parts/BenchGroup.vue";
import Field from "@/parts/Field.vue";
import FigureList from "@/parts/FigureList.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";
import FiringRing from "./FiringRing.vue";

const store = useBuild();
const result = computed(() => store.plan!.stages.ignition);
const severity = computed(() => store.findings("ignition").find((f) => f.code === "IGN-03")?.severity);
const limit = computed(() => {
  const tune = store.plan!.stages.tune.tables[0]!.x;
  return Math.round((tune[tune.length - 1] ?? 6000) / 1.05 / 50) * 50;
});
const useProposed = () =>
  store.set(
    "/ignition/outputs",
    result.value.outputs.map((o) => ({ name: o.name, cylinders: o.proposed })),
  );
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="ignition">
    <template #bench>
      <BenchGroup
        title="The ignition"
        :at="['/ignition/kind', '/ignition/speed_signal', '/ignition/timed_by_unit', '/ignition/advance']"
        note="Coils and leads carry tens of thousands of volts: key off before you touch them."
      >
        <Field at="/ignition/kind" /><Field at="/ignition/speed_signal" /><Field at="/ignition/advance" /><Field
          at="/ignition/timed_by_unit"
        /><Field at="/ignition/ballast" /><Field at="/ignition/multi_spark" />
      </BenchGroup>
      <BenchGroup title="The coil" at="/ignition/coil"
        ><Field at="/ignition/coil/kind" /><Field at="/ignition/coil/current" /><Field at="/ignition/coil/resistance" /><Field
          at="/ignition/coil/inductance"
      /></BenchGroup>
      <BenchGroup
        title="What each output fires"
        at="/ignition/outputs"
        note="As it is wired, in the order in which the outputs fire. With a distributor: the posts of the cap in the direction the rotor turns."
      >
        <TableField
          class="col-span-2"
          at="/ignition/outputs"
          noun="output"
          :columns="['name', 'cylinders']"
          :fresh="{ name: `output ${(store.build.ignition.outputs?.length ?? 0) + 1}`, cylinders: [1] }"
        />
        <button
          v-if="!store.build.ignition.outputs?.length"
          type="button"
          class="btn btn-small col-span-2"
          :disabled="store.readOnly"
          @click="useProposed"
        >
          It is wired as proposed: {{ result.outputs.map((o) => o.proposed.join("+")).join(", ") }}
        </button>
      </BenchGroup>
    </template>
    <template #reckoning>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="ignition.duty.limit" label="Charging at the rev limit" :severity="severity" />
        <RulingFigure figure="ignition.dwell.12V" label="Dwell at 12 V" />
        <RulingFigure figure="ignition.energy" label="Energy in a charged coil" />
      </div>
      <FiringRing :ignition="result" :limit-rpm="limit" />
      <FigureList
        class="mt-3"
        :names="[
          'ignition.dwell.8V',
          'ignition.dwell.10V',
          'ignition.dwell.13.8V',
          'ignition.dwell.16V',
          'ignition.gap.limit',
          'ignition.current.average',
        ]"
      />
    </template>
  </StationFrame>
</template>
