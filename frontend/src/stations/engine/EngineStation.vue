<script setup lang="ts">
import { computed, defineAsyncComponent } from "vue";
import AllFigures from "@/parts/AllFigures.vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import MoreFields from "@/parts/MoreFields.vue";
import OptionalPart from "@/parts/OptionalPart.vue";
import PaperLink from "@/parts/PaperLink.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import { useBuild } from "@/stores/build";
import CompressionBars from "./CompressionBars.vue";
import CompressionLog from "./CompressionLog.vue";
import CylinderPlan from "./CylinderPlan.vue";
import FitnessCard from "./FitnessCard.vue";
import HealthLog from "./HealthLog.vue";
import KeptList from "./KeptList.vue";
import OrderPick from "./OrderPick.vue";
import PowerBands from "./PowerBands.vue";
import RunCurve from "./RunCurve.vue";
const EngineWorked = defineAsyncComponent(() => import("./EngineWorked.vue"));
const QuestionList = defineAsyncComponent(() => import("@/parts/QuestionList.vue"));

const WANTED = ["power", "power_speed", "power_basis", "rev_limit", "altitude", "fuel", "season", "octane", "bsfc", "boost"].map(
  (k) => `/engine/${k}`,
);
const IS = [
  "layout", "carburettors", "arrangement", "cooling", "cylinders", "displacement", "bore", "stroke", "compression_ratio", "firing_order", "valve_train", "chamber", "cam", "inlet_closing", "inlet_valve", "inlet_valves", "rod", "idle_speed",
].map((k) => `/engine/${k}`); // prettier-ignore
const FIGURES = [
  "engine.fuel_mass_flow", "engine.air_mass_flow", "engine.ambient_pressure", "engine.idle_manifold_pressure", "engine.idle_fuel_mass_flow", "engine.compression.expected", "engine.inlet.closing",
  "engine.cam.overlap", "engine.inlet.mach", "engine.leak_down", "engine.vacuum", "engine.vacuum.expected",
]; // prettier-ignore
const store = useBuild();
const engine = computed(() => store.plan!.stages.engine);
const RUN_FIELDS = ["mass", "to_speed", "time", "gears", "final_drive", "tyre", "drag_area", "grip", "driven", "driven_share", "shift"];
const ROAD = ["power", "speed", "at"].map((k) => `/engine/rolling_road/${k}`);
const REACH = ["bottom_end", "stands"].map((k) => `/engine/${k}`);
const MEASURES = ["exhaust", "exhaust_valve", "exhaust_valves", "tract"];
const CARD_FIELDS = ["inlet_duration", "exhaust_duration", "inlet_centre", "exhaust_centre", "lift"];
const CARD = { inlet_duration: "250 deg", exhaust_duration: "250 deg", inlet_centre: "108 deg", exhaust_centre: "108 deg" };
const RUN = { mass: "1200 kg", to_speed: "100 km/h", time: "10 s" };
const severity = computed(() => store.findings("engine").find((f) => f.code === "ENG-01")?.severity);
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="engine">
    <template #overview>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="engine.compression.spread" label="Compression spread" :severity="severity" />
        <RulingFigure figure="engine.bmep" label="Mean effective pressure" />
        <RulingFigure figure="engine.piston_speed" label="Piston speed at the limit" />
      </div>
      <div class="grid items-start gap-x-6 lg:grid-cols-2">
        <FitnessCard :fitness="store.plan.fitness" />
        <CompressionBars :engine="engine" :cylinders="store.build.engine.cylinders" />
      </div>
      <AllFigures :names="FIGURES" />
    </template>

    <template #compression-fields><CompressionLog /></template>
    <template #compression><CompressionBars :engine="engine" :cylinders="store.build.engine.cylinders" /></template>

    <template #health-fields><HealthLog /></template>
    <template #health><FitnessCard :fitness="store.plan.fitness" /></template>

    <template #power-fields>
      <FieldGroup group="wanted" :at="[...WANTED, '/engine/blower']">
        <Field v-for="p in WANTED" :key="p" :at="p" />
        <OptionalPart at="/engine/blower" add="A blower" out="No blower described">
          <Field v-for="k in ['sits', 'size', 'drive', 'efficiency', 'cooler']" :key="k" :at="`/engine/blower/${k}`" />
        </OptionalPart>
        <MoreFields summary="A rolling road has measured it" :fields="ROAD" />
      </FieldGroup>
      <FieldGroup group="run" at="/engine/run">
        <OptionalPart at="/engine/run" add="From rest to a speed, in a time" :fresh="RUN" usual out="No such wish">
          <Field v-for="k in RUN_FIELDS" :key="k" :at="`/engine/run/${k}`" />
        </OptionalPart>
      </FieldGroup>
    </template>
    <template #power>
      <PowerBands :power="engine.power" />
      <RunCurve v-if="engine.run?.points.length" :run="engine.run" />
      <AllFigures v-if="engine.run" :names="['engine.run.seconds', 'engine.run.seconds.p05', 'engine.run.seconds.p95']" />
    </template>

    <template #itself-fields>
      <FieldGroup group="engine" :at="[...IS, '/engine/banks']"
        ><Field v-for="p in IS" :key="p" :at="p" /><MoreFields summary="Rods and pistons; a stand" :fields="REACH"
      /></FieldGroup>
      <FieldGroup group="cam" at="/engine/cam_card" measurable note="Degrees of the crank, all at the one small lift that the card names.">
        <OptionalPart at="/engine/cam_card" add="The cam by its card" :fresh="CARD" usual out="No card">
          <Field v-for="k in CARD_FIELDS" :key="k" :at="`/engine/cam_card/${k}`" />
        </OptionalPart>
      </FieldGroup>
    </template>
    <template #itself>
      <CylinderPlan />
      <OrderPick />
      <AllFigures
        :names="['engine.compression.expected', 'engine.inlet.closing', 'engine.cam.overlap', 'engine.inlet.mach', 'engine.piston_speed']"
      />
    </template>

    <template #worked-fields>
      <FieldGroup group="measures" note="With the bore, the valves, the cam card and the rod at The engine itself, what it is worked from.">
        <Field v-for="k in MEASURES" :key="k" :at="`/engine/${k}`" />
      </FieldGroup>
    </template>
    <template #worked><EngineWorked /></template>

    <template #kept-fields><KeptList /></template>

    <template #ways><QuestionList station="engine" /></template>
    <template #papers>
      <p class="mt-3"><PaperLink name="sheets/engine.pdf">Engine sheet, PDF</PaperLink></p>
    </template>
  </StationFrame>
</template>
