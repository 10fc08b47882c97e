<script setup lang="ts">
import { refThrottled } from "@vueuse/core";
import { computed, ref } from "vue";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import FigureList from "@/parts/FigureList.vue";
import PaperLink from "@/parts/PaperLink.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import QuestionList from "@/parts/QuestionList.vue";
import { useBuild } from "@/stores/build";
import { useAsked } from "@/stores/useAsked";
import AdviceList from "./AdviceList.vue";
import CaseTable from "./CaseTable.vue";
import GradeLine from "./GradeLine.vue";
import LossTable from "./LossTable.vue";
import MarginBand from "./MarginBand.vue";
import PathBench from "./PathBench.vue";
import PumpSystem from "./PumpSystem.vue";
import VapourSweep from "./VapourSweep.vue";
import { STATES, type StateName } from "./states";
import { useTrial } from "./useTrial";

const store = useBuild();
const { found: depth, stale, trouble } = useAsked("fuel");
const { live, attempt, settle } = useTrial();
/** What the drawings show: as it would be while something is dragged, else as it is. */
const fuel = computed(() => live.value ?? store.plan!.stages.fuel);
/** The drawings that are not under the hand follow a few times a second, so that the one that is stays quick. */
const beside = refThrottled(fuel, 160);
const wanted = computed(() => store.si("/fuel/design_margin") ?? 1);
const FIGURES = [
  "fuel.need",
  "fuel.gauge.key_on",
  "fuel.gauge.idle",
  "fuel.gauge.full",
  "fuel.injector.pressure.full",
  "fuel.injector.pressure.idle",
  "fuel.supply.loss.full",
  "fuel.supply.velocity.full",
  "fuel.return.pressure.idle",
  "fuel.wire.resistance",
  "fuel.wire.flow_lost",
  "fuel.pump.flow.crank",
  "fuel.pump.voltage.crank",
  "fuel.pump.current.full",
  "fuel.inlet.margin",
  "fuel.hottest",
  "fuel.warming",
  "fuel.surge.seconds",
  "fuel.lift.margin",
];
/** Those that this build has: a surge tank that is not there has no figures. */
const shown = computed(() => FIGURES.filter((n) => store.plan?.figures[n]?.value != null));
const state = ref<StateName>("full");
const severity = computed(() => store.findings("fuel").find((f) => f.code === "FUEL-01")?.severity);
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="fuel">
    <template #bench><PathBench /></template>
    <template #reckoning>
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
      <LossTable :fuel="beside" :state="state" />
      <PumpSystem :fuel="beside" :band="live ? null : store.plan.stages.doubt" :shelf="depth?.shelf" :state="state" />
      <VapourSweep v-if="beside.inlet.known" :inlet="beside.inlet" />
      <p v-if="trouble" class="text-spark" role="alert">{{ trouble }}</p>
      <p v-else-if="!depth" class="py-4 text-soft" role="status">Working out doubt and advice…</p>
      <div v-if="depth" :aria-busy="stale" :class="{ 'opacity-60': stale }">
        <MarginBand :band="store.plan.stages.doubt" :shape="depth.shape" :wanted="wanted" />
        <AdviceList :advice="depth.advice" :doubts="depth.doubts" :stale="stale" />
        <CaseTable :cases="depth.cases" />
        <p class="no-print mt-2 flex flex-wrap gap-2">
          <PaperLink name="fuel-sheet.pdf">Fuel sheet, PDF</PaperLink>
          <PaperLink name="fuel-parts.csv">Shopping list, CSV</PaperLink>
        </p>
      </div>
      <QuestionList station="fuel" />
      <FigureList class="mt-3" :names="shown" />
    </template>
  </StationFrame>
</template>
