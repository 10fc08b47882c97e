<script setup lang="ts">
import { computed } from "vue";
import BenchGroup from "@/parts/BenchGroup.vue";
import Field from "@/parts/Field.vue";
import FigureList from "@/parts/FigureList.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";
import FlowWindow from "./FlowWindow.vue";
import PulseBar from "./PulseBar.vue";

const store = useBuild();
const of = (code: string) => computed(() => store.findings("injectors").find((f) => f.code === code)?.severity);
const duty = of("INJ-01");
const idle = of("INJ-02");
const limit = computed(() => Number.parseFloat(String(store.build?.injectors.duty_limit ?? "0.8")));
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="injectors">
    <template #bench>
      <BenchGroup
        title="The injector"
        :at="['/injectors/name', '/injectors/flow', '/injectors/rated_at', '/injectors/fluid', '/injectors/count']"
      >
        <Field class="col-span-2" at="/injectors/name" /><Field at="/injectors/flow" /><Field at="/injectors/rated_at" /><Field
          at="/injectors/fluid"
        /><Field at="/injectors/count" />
      </BenchGroup>
      <BenchGroup title="How it is fired" :at="['/injectors/firing', '/injectors/duty_limit']"
        ><Field at="/injectors/firing" /><Field at="/injectors/duty_limit"
      /></BenchGroup>
      <BenchGroup
        title="Coil and driver"
        :at="['/injectors/resistance', '/injectors/driver', '/injectors/driver_limit', '/injectors/per_driver']"
      >
        <Field at="/injectors/resistance" /><Field at="/injectors/ballast" /><Field at="/injectors/driver" /><Field
          at="/injectors/driver_limit"
        /><Field at="/injectors/per_driver" />
      </BenchGroup>
      <BenchGroup
        title="Dead time"
        at="/injectors/dead_time"
        note="From its sheet, five voltages from 8 to 16 V. Empty: a usual figure is assumed."
      >
        <TableField
          class="col-span-2"
          at="/injectors/dead_time"
          noun="voltage"
          :columns="['voltage', 'time']"
          :fresh="{ voltage: '13.5 V', time: '0.9 ms' }"
        />
      </BenchGroup>
    </template>
    <template #reckoning>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="injectors.duty.full" label="Open at full power" :severity="duty" />
        <RulingFigure figure="injectors.pulse.idle" label="Pulse at idle" :severity="idle" />
        <RulingFigure figure="injectors.nominal" label="Type this into the control unit" />
      </div>
      <FlowWindow :injectors="store.plan.stages.injectors" :name="store.build.injectors.name" />
      <PulseBar :injectors="store.plan.stages.injectors" :limit="limit" />
      <FigureList
        class="mt-3"
        :names="[
          'injectors.need',
          'injectors.flow.working',
          'injectors.pulse.full',
          'injectors.turndown',
          'injectors.current.driver',
          'injectors.current.average',
        ]"
      />
    </template>
  </StationFrame>
</template>
