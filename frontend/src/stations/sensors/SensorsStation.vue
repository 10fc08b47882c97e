<script setup lang="ts">
import { computed, defineAsyncComponent } from "vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import Field from "@/parts/Field.vue";
import AllFigures from "@/parts/AllFigures.vue";
import OptionalPart from "@/parts/OptionalPart.vue";
import PaperLink from "@/parts/PaperLink.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import { useBuild } from "@/stores/build";
import SenderBench from "./SenderBench.vue";
import SensorList from "./SensorList.vue";
import StrategyTable from "./StrategyTable.vue";
import GapFields from "./GapFields.vue";
import OxygenFields from "./OxygenFields.vue";
import OxygenLine from "./OxygenLine.vue";
import TopFields from "./TopFields.vue";
import WheelFields from "./WheelFields.vue";
const QuestionList = defineAsyncComponent(() => import("@/parts/QuestionList.vue"));
const KeyOnTable = defineAsyncComponent(() => import("./KeyOnTable.vue"));
const MoreSensors = defineAsyncComponent(() => import("./MoreSensors.vue"));
const LinesBench = defineAsyncComponent(() => import("./LinesBench.vue"));
const PlacesDrawing = defineAsyncComponent(() => import("./PlacesDrawing.vue"));
const SenderCurve = defineAsyncComponent(() => import("./SenderCurve.vue"));
const TriggerWheel = defineAsyncComponent(() => import("./TriggerWheel.vue"));

const ExhaustDrawing = defineAsyncComponent(() => import("./ExhaustDrawing.vue"));
const HandTurn = defineAsyncComponent(() => import("./HandTurn.vue"));
const ScopeDrawing = defineAsyncComponent(() => import("./ScopeDrawing.vue"));
const store = useBuild();
const result = computed(() => store.plan!.stages.sensors);
const trigger = computed(() => store.plan!.stages.trigger);
const given = computed(() => store.build!.sensors ?? {});
const of = (code: string) => computed(() => store.findings("sensors").find((f) => f.code === code)?.severity);
const [missing, angle] = [of("SENS-01"), of("TRIG-05")];
const KEY_ON = ["coolant", "air", "outside", "manifold", "weather", "throttle", "battery"];
const FIGURES = [
  "trigger.degrees_per_tooth", "trigger.rate.limit", "trigger.angle.doubt", "trigger.gap.mean", "trigger.gap.runout", "trigger.swing.cranking", "trigger.vr.no_start",
  "sensors.coolant_temperature.at_20C", "sensors.coolant_temperature.at_90C", "sensors.intake_air_temperature.at_20C", "sensors.share_error.coolant_temperature",
  "sensors.share_error.intake_air_temperature", "sensors.throttle.pedal", "sensors.pressure.most",
]; // prettier-ignore
/** Without a trigger wheel there is nothing to turn; only a hall sensor counts by hand. */
const without = computed(() =>
  !trigger.value ? ["sensor", "top", "gap", "hand", "scope"] : trigger.value.sensor === "hall" ? [] : ["hand"],
);
/** A sender's points as the core read them: kelvin, ohms. */
const pointsOf = (at: string, points: unknown[]) =>
  points.map((_, i) => ({
    kelvin: store.si(`${at}/points/${i}/temperature`) ?? 0,
    ohm: store.si(`${at}/points/${i}/resistance`) ?? 0,
  }));
/** The tooth that is under the sensor at top: it takes the place of an angle that was told. */
function tapped(tooth: number): void {
  const t = given.value.trigger;
  void store.edit(
    [
      { op: "add", path: "/sensors/trigger/tooth_at_top", value: tooth },
      ...(t?.angle != null ? [{ op: "remove" as const, path: "/sensors/trigger/angle" }] : []),
    ],
    "Tapped on the wheel at top dead centre",
  );
}
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="sensors" :without="without">
    <template #overview>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="sensors.missing" label="Required, not confirmed" suffix="" :severity="missing" />
        <RulingFigure v-if="trigger" figure="trigger.angle" label="Trigger angle" :severity="angle" />
        <RulingFigure v-if="trigger" figure="trigger.error.cranking" label="A spark misses, cranking" />
        <RulingFigure v-else-if="result.coolant" figure="sensors.coolant_temperature.at_20C" label="Coolant signal at 20 °C" />
      </div>
      <StrategyTable :rows="result.strategy" :sync="trigger?.sync ?? []" />
      <AllFigures :names="FIGURES" />
    </template>

    <template #set-fields>
      <FieldGroup group="set" note="Confirm each once you know where it goes; strike what you do without."
        ><SensorList :rows="result.rows" /></FieldGroup
      ><MoreSensors />
    </template>
    <template #set>
      <PlacesDrawing
        v-if="given.coolant || given.air"
        :sensors="given"
        :places="result.places"
        :fixed="store.readOnly"
        @coolant="(v) => store.set('/sensors/coolant/place', v)"
        @air="(v) => store.set('/sensors/air/place', v)"
      />
    </template>

    <template #coolant-fields><SenderBench at="/sensors/coolant" kind="coolant" :first="['place', 'wires', 'seal', 'body']" /></template>
    <template #coolant>
      <SenderCurve
        v-if="result.coolant && given.coolant"
        title="Coolant sensor: volts at the control unit"
        :curve="result.coolant"
        :points="pointsOf('/sensors/coolant', given.coolant.points)"
        :pull-up="store.si('/sensors/coolant/pull_up') ?? 0"
      />
      <p v-else class="py-4 text-soft">With three points measured, its volts are drawn here, cold to hot.</p>
    </template>

    <template #air-fields><SenderBench at="/sensors/air" kind="air" :first="['place']" /></template>
    <template #air>
      <SenderCurve
        v-if="result.air && given.air"
        title="Intake air sensor: volts at the control unit"
        :curve="result.air"
        :points="pointsOf('/sensors/air', given.air.points)"
        :pull-up="store.si('/sensors/air/pull_up') ?? 0"
      />
      <p v-else class="py-4 text-soft">With three points measured, its volts are drawn here, cold to hot.</p>
    </template>

    <template #throttle-fields>
      <FieldGroup group="throttle" at="/sensors/throttle" measurable note="Key on, engine off. Turned the stop screw? Zero it again.">
        <OptionalPart at="/sensors/throttle" add="Enter its volts">
          <Field
            v-for="k in ['closed', 'open', 'pedal', 'screen', 'screen_least', 'zeroed', 'stop_turned']"
            :key="k"
            :at="`/sensors/throttle/${k}`"
          />
        </OptionalPart>
      </FieldGroup>
    </template>
    <template #throttle>
      <RulingFigure v-if="result.throttle" figure="sensors.throttle.pedal" label="The pedal opens it to" />
    </template>

    <template #lines-fields><LinesBench /></template>
    <template #lines>
      <RulingFigure v-if="result.pressure" figure="sensors.pressure.most" label="Pressure sensor must read to" />
    </template>

    <template #oxygen-fields><OxygenFields /></template>
    <template #oxygen>
      <ExhaustDrawing
        v-if="result.exhaust?.pieces.length"
        :exhaust="result.exhaust"
        :fixed="store.readOnly"
        @distance="(v) => store.set('/sensors/oxygen/distance', v)"
        @clock="(v) => store.set('/sensors/oxygen/clock', v)"
      />
      <p v-else class="py-4 text-soft">Describe the exhaust from the ports back: where the sensor may sit is drawn here.</p>
      <OxygenLine v-if="result.oxygen" :line="result.oxygen" :stoich="store.plan.stages.engine.stoich" />
    </template>

    <template #wheel-fields><WheelFields part="wheel" /></template>
    <template #wheel>
      <TriggerWheel v-if="trigger" :trigger="trigger" :fixed="store.readOnly" @tap="tapped" />
      <p v-else class="mt-3 border border-line bg-sheet p-4 text-soft">
        No trigger wheel in this build: speed comes from the ignition. Describe one and it is drawn here with its real teeth.
      </p>
    </template>

    <template #sensor-fields><WheelFields part="sensor" /></template>
    <template #sensor>
      <AllFigures :names="['trigger.rate.limit', 'trigger.swing.cranking', 'trigger.vr.no_start', 'trigger.error.cranking']" />
    </template>

    <template #top-fields><TopFields /></template>
    <template #top>
      <TriggerWheel v-if="trigger" :trigger="trigger" :fixed="store.readOnly" @tap="tapped" />
    </template>

    <template #gap-fields><GapFields /></template>
    <template #gap>
      <div class="mt-2 grid grid-cols-2 gap-4">
        <RulingFigure figure="trigger.gap.mean" label="Gap on average" />
        <RulingFigure figure="trigger.gap.runout" label="Runout of the wheel" />
      </div>
    </template>

    <template #hand><HandTurn v-if="trigger" :trigger="trigger" /></template>
    <template #scope><ScopeDrawing /></template>

    <template #key_on-fields>
      <FieldGroup group="key_on" at="/sensors/key_on" measurable note="What the unit's own screen shows, and a thermometer beside the car.">
        <Field v-for="k in KEY_ON" :key="k" :at="`/sensors/key_on/${k}`" />
      </FieldGroup>
    </template>
    <template #key_on>
      <KeyOnTable v-if="result.key_on.length" :rows="result.key_on" />
      <p v-else class="py-4 text-soft">Type what the unit's own screen shows: each reading is held against what makes sense here.</p>
    </template>

    <template #ways><QuestionList station="sensors" /></template>
    <template #papers>
      <p class="mt-3 flex flex-wrap gap-2">
        <PaperLink name="sheets/sensors.pdf">Sensor card, PDF</PaperLink>
        <PaperLink v-if="trigger" name="sheets/trigger.pdf">Trigger bench test, PDF</PaperLink>
        <PaperLink v-if="result.coolant" name="adc/coolant.csv">Coolant table, CSV</PaperLink>
        <PaperLink v-if="result.air" name="adc/air.csv">Air table, CSV</PaperLink>
      </p>
    </template>
  </StationFrame>
</template>
