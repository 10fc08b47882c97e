<script setup lang="ts">
import { refThrottled } from "@vueuse/core";
import { computed, defineAsyncComponent, ref, useTemplateRef } from "vue";
import AllFigures from "@/parts/AllFigures.vue";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import OptionalPart from "@/parts/OptionalPart.vue";
import PaperLink from "@/parts/PaperLink.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import { useBuild } from "@/stores/build";
import { useAsked } from "@/stores/useAsked";
import GradeLine from "./GradeLine.vue";
import PartFields from "./PartFields.vue";
import PathBench from "./PathBench.vue";
import { STATES, type StateName } from "./states";
import { useTrial } from "./useTrial";
const QuestionList = defineAsyncComponent(() => import("@/parts/QuestionList.vue"));

/** What stands on one bench only is fetched with it. */
const BranchFields = defineAsyncComponent(() => import("./BranchFields.vue"));
const LossTable = defineAsyncComponent(() => import("./LossTable.vue"));
const PumpWires = defineAsyncComponent(() => import("./PumpWires.vue"));
const PumpSystem = defineAsyncComponent(() => import("./PumpSystem.vue"));
const FuelDepth = defineAsyncComponent(() => import("./FuelDepth.vue"));
const VapourSweep = defineAsyncComponent(() => import("./VapourSweep.vue"));
const store = useBuild();
const { found: depth } = useAsked("fuel", useTemplateRef<HTMLElement>("chart"));
const { live, attempt, settle } = useTrial();
/** What the drawings show: as it would be while something is dragged, else as it is. */
const fuel = computed(() => live.value ?? store.plan!.stages.fuel);
/** The drawings that are not under the hand follow a few times a second, so that the one that is stays quick. */
const beside = refThrottled(fuel, 160);
const FIGURES = [
  "fuel.need", "fuel.pump.flow.full", "fuel.supply.loss.full", "fuel.supply.velocity.full", "fuel.rail.pressure.full", "fuel.injector.pressure.full", "fuel.rail.creep.idle", "fuel.return.pressure.idle",
  "fuel.wire.resistance", "fuel.wire.flow_lost", "fuel.pump.flow.crank", "fuel.pump.voltage.crank", "fuel.pump.current.full", "fuel.inlet.margin", "fuel.hottest", "fuel.warming", "fuel.surge.seconds",
  "fuel.lift.margin", "fuel.lift.voltage",
]; // prettier-ignore
const state = ref<StateName>("full");
const severity = computed(() => store.findings("fuel").find((f) => f.code === "FUEL-01")?.severity);
const lifted = computed(() => Boolean(store.at("/fuel/lift")));
const into = computed(() => (store.at("/fuel/path") as string[]).at(-1) === "tank");
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="fuel">
    <template #overview>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure
          figure="fuel.margin.full"
          label="Pump at full power"
          suffix="× need"
          :severity="live ? null : severity"
          :live="live?.margin_full.toFixed(2)"
        />
        <RulingFigure figure="fuel.margin.tired" label="Tired battery, filters due" suffix="× need" :live="live?.tired_margin.toFixed(2)" />
        <RulingFigure
          figure="fuel.pump.voltage.full"
          label="Volts that reach the pump"
          :live="live && `${live.points.full!.volts.toFixed(2)} V`"
        />
      </div>
      <ChoiceBar v-model="state" :options="STATES" label="State of the engine" />
      <GradeLine :fuel="fuel" :state="state" :fixed="store.readOnly" @attempt="attempt" @settle="settle" />
      <AllFigures :names="FIGURES" />
    </template>

    <template #path-fields><PathBench /></template>
    <template #path>
      <ChoiceBar v-model="state" :options="STATES" label="State of the engine" />
      <GradeLine :fuel="fuel" :state="state" :fixed="store.readOnly" @attempt="attempt" @settle="settle" />
      <details class="mt-2">
        <summary class="min-h-9 cursor-pointer py-1 text-[0.95rem]">Where the pressure goes, part by part</summary>
        <LossTable :fuel="beside" :state="state" />
      </details>
    </template>

    <template #pump-fields><PartFields name="pump" at="/fuel/pump" /></template>
    <template #pump>
      <div ref="chart"></div>
      <ChoiceBar v-model="state" :options="STATES" label="State of the engine" />
      <PumpSystem :fuel="beside" :band="store.plan.stages.doubt" :shelf="depth?.shelf" :state="state" />
    </template>

    <template #wire-fields><PumpWires /></template>
    <template #wire>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="fuel.pump.voltage.full" label="Volts that reach the pump" />
        <RulingFigure figure="fuel.wire.flow_lost" label="Flow lost in the wire" />
        <RulingFigure figure="fuel.pump.voltage.crank" label="Cranking" />
      </div>
      <PumpSystem :fuel="beside" :band="store.plan.stages.doubt" :state="state" />
    </template>

    <template #regulator-fields>
      <PartFields name="regulator" at="/fuel/regulator" />
      <PartFields v-if="into" name="end" at="/fuel/tank/return_enters" />
      <FieldGroup v-if="store.build.engine.layout === 'throttle_body'" group="body" at="/fuel/body">
        <OptionalPart at="/fuel/body" add="Its regulator and return port" out="Nothing of them">
          <Field v-for="k in ['own_regulator', 'return_port', 'inlet']" :key="k" :at="`/fuel/body/${k}`" />
        </OptionalPart>
      </FieldGroup>
    </template>
    <template #regulator><FuelDepth part="cases" /></template>

    <template #tank-fields>
      <PartFields name="tank" at="/fuel/tank" />
      <template v-if="lifted">
        <PartFields name="lift" at="/fuel/lift" />
        <PartFields name="surge_tank" at="/fuel/lift" />
      </template>
    </template>
    <template #tank>
      <VapourSweep v-if="beside.inlet.known" :inlet="beside.inlet" />
      <p v-else class="py-4 text-soft">The suction line is not described: put it on the path, and the fuel's margin is drawn here.</p>
      <AllFigures
        :names="[
          'fuel.inlet.margin',
          'fuel.hottest',
          'fuel.settles',
          'fuel.warming',
          'fuel.soak.liquid',
          'fuel.surge.seconds',
          'fuel.lift.margin',
          'fuel.lift.voltage',
        ]"
      />
    </template>

    <template #branches-fields><BranchFields /></template>
    <template #branches>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="fuel.need" label="Needed at full power, all of it" />
        <RulingFigure figure="fuel.return.pressure.idle" label="Return at idle, worked out" />
        <RulingFigure v-if="store.at('/fuel/measured/caught')" figure="fuel.gravity.flow" label="Runs to the pump by itself" />
      </div>
    </template>

    <template #doubt><FuelDepth part="doubt" /></template>
    <template #mend><FuelDepth part="mend" /></template>
    <template #ways><QuestionList station="fuel" /></template>
    <template #papers>
      <p class="mt-3 flex flex-wrap gap-2">
        <PaperLink name="fuel-sheet.pdf">Fuel sheet, PDF</PaperLink>
        <PaperLink name="fuel-parts.csv">Shopping list, CSV</PaperLink>
      </p>
    </template>
  </StationFrame>
</template>
