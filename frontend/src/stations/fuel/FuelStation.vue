<script setup lang="ts">
import { computed } from "vue";
import BenchGroup from "@/parts/BenchGroup.vue";
import Field from "@/parts/Field.vue";
import FigureList from "@/parts/FigureList.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";
import GradeLine from "./GradeLine.vue";
import PumpSystem from "./PumpSystem.vue";
import WireSlider from "./WireSlider.vue";

const store = useBuild();
const severity = computed(() => store.findings("fuel").find((f) => f.code === "FUEL-01")?.severity);
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="fuel">
    <template #bench>
      <BenchGroup
        title="Pump"
        at="/fuel/pump"
        note="Depressurise and disconnect the battery before you open a line. Extinguisher within reach, outdoors."
      >
        <Field class="col-span-2" at="/fuel/pump/name" /><Field at="/fuel/pump/place" /><Field at="/fuel/pump/control" /><Field
          at="/fuel/design_margin"
        />
        <details class="col-span-2" :open="store.build.fuel.pump.curve.length < 5">
          <summary class="min-h-9 cursor-pointer py-1">Pump table, {{ store.build.fuel.pump.curve.length }} rows from its sheet</summary>
          <TableField
            at="/fuel/pump/curve"
            noun="row"
            :columns="['voltage', 'pressure', 'flow', 'current']"
            :fresh="{ voltage: '13.5 V', pressure: '350 kPa', flow: '0 L/h', current: '7 A' }"
          />
        </details>
      </BenchGroup>
      <BenchGroup title="Wire to the pump" at="/fuel/wire">
        <Field at="/fuel/wire/size" /><Field at="/fuel/wire/length" /><Field at="/fuel/wire/temperature" />
        <WireSlider class="col-span-2" />
        <TableField
          class="col-span-2"
          at="/fuel/wire/contacts"
          noun="contact"
          :columns="['kind', 'count']"
          widths="1fr 5rem"
          :fresh="{ kind: 'crimp', count: 1 }"
        />
      </BenchGroup>
      <BenchGroup title="Supply line" at="/fuel/supply">
        <Field at="/fuel/supply/material" /><Field at="/fuel/supply/bore" /><Field at="/fuel/supply/length" /><Field
          at="/fuel/supply/rise"
        />
        <TableField
          class="col-span-2"
          at="/fuel/supply/fittings"
          noun="fitting"
          :columns="['kind', 'count']"
          widths="1fr 5rem"
          :fresh="{ kind: 'bend_90', count: 1 }"
        />
      </BenchGroup>
      <BenchGroup title="Filter" at="/fuel/filter">
        <Field at="/fuel/filter/pressure_drop" /><Field at="/fuel/filter/at_flow" label="at a flow of" /><Field
          at="/fuel/filter/fluid"
        /><Field at="/fuel/filter/due" />
      </BenchGroup>
      <BenchGroup title="Regulator" at="/fuel/regulator"
        ><Field at="/fuel/regulator/set_pressure" /><Field at="/fuel/regulator/reference"
      /></BenchGroup>
      <BenchGroup title="Return line" at="/fuel/return_line">
        <Field at="/fuel/return_line/material" /><Field at="/fuel/return_line/bore" /><Field at="/fuel/return_line/length" /><Field
          at="/fuel/return_line/rise"
        />
        <TableField
          class="col-span-2"
          at="/fuel/return_line/fittings"
          noun="fitting"
          :columns="['kind', 'count']"
          widths="1fr 5rem"
          :fresh="{ kind: 'bend_90', count: 1 }"
        />
      </BenchGroup>
    </template>
    <template #reckoning>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="fuel.margin.full" label="Pump at full power" suffix="× need" :severity="severity" />
        <RulingFigure figure="fuel.need" label="Needed at full power" />
        <RulingFigure figure="fuel.pump.voltage.full" label="Volts that reach the pump" />
      </div>
      <GradeLine :fuel="store.plan.stages.fuel" />
      <PumpSystem :fuel="store.plan.stages.fuel" />
      <FigureList
        class="mt-3"
        :names="[
          'fuel.gauge.engine_off',
          'fuel.gauge.idle',
          'fuel.supply.loss.full',
          'fuel.supply.velocity.full',
          'fuel.return.pressure.idle',
          'fuel.wire.resistance',
          'fuel.wire.flow_lost',
          'fuel.pump.flow.crank',
          'fuel.pump.voltage.crank',
          'fuel.pump.current.full',
        ]"
      />
    </template>
  </StationFrame>
</template>
