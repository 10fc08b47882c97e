<script setup lang="ts">
import { computed } from "vue";
import BenchGroup from "@/parts/BenchGroup.vue";
import Field from "@/parts/Field.vue";
import FigureList from "@/parts/FigureList.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";
import CoolantCurve from "./CoolantCurve.vue";
import SensorList from "./SensorList.vue";
import TriggerWheel from "./TriggerWheel.vue";

const store = useBuild();
const result = computed(() => store.plan!.stages.sensors);
const severity = computed(() => store.findings("sensors").find((f) => f.code === "SENS-01")?.severity);
const THERMISTOR = {
  points: [
    { temperature: "0 degC", resistance: "5900 ohm" },
    { temperature: "20 degC", resistance: "2450 ohm" },
    { temperature: "100 degC", resistance: "186 ohm" },
  ],
  pull_up: "2490 ohm",
};
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="sensors">
    <template #bench>
      <BenchGroup title="The set this build needs" note="Confirm each once you know where it goes; strike what you do without."
        ><SensorList :rows="result.rows"
      /></BenchGroup>
      <BenchGroup title="Trigger wheel" at="/sensors/trigger">
        <template v-if="store.build.sensors?.trigger">
          <Field at="/sensors/trigger/teeth" /><Field at="/sensors/trigger/missing" /><Field at="/sensors/trigger/sensor" /><Field
            at="/sensors/trigger/stroke"
          />
          <Field class="col-span-2" at="/sensors/trigger/angle" /><Field at="/sensors/trigger/light_commanded" /><Field
            at="/sensors/trigger/light_observed"
          />
          <button
            type="button"
            class="btn btn-small btn-plain underline"
            :disabled="store.readOnly"
            @click="store.set('/sensors/trigger', undefined)"
          >
            No trigger wheel
          </button>
        </template>
        <button
          v-else
          type="button"
          class="btn btn-small"
          :disabled="store.readOnly"
          @click="store.set('/sensors/trigger', { teeth: 36, missing: 1, sensor: 'hall' })"
        >
          Describe a trigger wheel
        </button>
      </BenchGroup>
      <BenchGroup
        title="Coolant sender, three points"
        at="/sensors/coolant"
        measurable
        note="Iced water, room, kettle: ohms at each with the sender unplugged. Hot water scalds."
      >
        <template v-if="store.build.sensors?.coolant">
          <div class="col-span-2">
            <TableField
              at="/sensors/coolant/points"
              noun="point"
              :columns="['temperature', 'resistance']"
              :fresh="{ temperature: '50 degC', resistance: '800 ohm' }"
            />
          </div>
          <Field at="/sensors/coolant/pull_up" />
        </template>
        <button v-else type="button" class="btn btn-small" :disabled="store.readOnly" @click="store.set('/sensors/coolant', THERMISTOR)">
          Enter three points
        </button>
      </BenchGroup>
    </template>
    <template #reckoning>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="sensors.missing" label="Required, not confirmed" suffix="" :severity="severity" />
        <RulingFigure
          v-if="result.trigger"
          figure="sensors.trigger.tooth_at_tdc"
          label="Tooth under the sensor at top"
          suffix="from the gap"
        />
        <RulingFigure v-if="result.coolant" figure="sensors.coolant.volts_20C" label="Coolant signal at 20 °C" />
      </div>
      <TriggerWheel v-if="result.trigger" :trigger="result.trigger" />
      <p v-else class="mt-3 border border-line bg-sheet p-4 text-soft">
        No trigger wheel in this build: speed comes from the ignition. Describe one on the bench and it is drawn here with its real teeth.
      </p>
      <CoolantCurve v-if="result.coolant" :coolant="result.coolant" />
      <FigureList class="mt-3" :names="['sensors.trigger.tooth_angle', 'sensors.trigger.rate_limit', 'sensors.coolant.volts_90C']" />
    </template>
  </StationFrame>
</template>
