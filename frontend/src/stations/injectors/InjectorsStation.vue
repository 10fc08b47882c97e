<script setup lang="ts">
import { computed } from "vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import Field from "@/parts/Field.vue";
import AllFigures from "@/parts/AllFigures.vue";
import MoreFields from "@/parts/MoreFields.vue";
import OptionalPart from "@/parts/OptionalPart.vue";
import PaperLink from "@/parts/PaperLink.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";
import BenchTable from "./BenchTable.vue";
import BoxBench from "./BoxBench.vue";
import EntersDrawing from "./EntersDrawing.vue";
import FlowBench from "./FlowBench.vue";
import FlowWindow from "./FlowWindow.vue";
import PulseBar from "./PulseBar.vue";
import RankList from "./RankList.vue";
import SetDrawing from "./SetDrawing.vue";

const store = useBuild();
const of = (code: string) => computed(() => store.findings("injectors").find((f) => f.code === code)?.severity);
const duty = of("INJ-01");
const idle = of("INJ-02");
const limit = computed(() => store.si("/injectors/duty_limit") ?? 1);
const bench = computed(() => store.plan!.stages.injectors.bench);
/** Places side by side, front to back: as the engine has its banks, or one row. */
const banks = computed(() => {
  const engine = store.build!.engine;
  const n = bench.value.needed;
  return engine.layout !== "throttle_body" && engine.banks ? engine.banks : [Array.from({ length: n }, (_, i) => i + 1)];
});
const FIGURES = [
  "injectors.need",
  "injectors.flow.working",
  "injectors.pulse.full",
  "injectors.turndown",
  "injectors.current.driver",
  "injectors.current.average",
  "injectors.spread",
  "injectors.imbalance.bank",
  "injectors.changeover",
  "injectors.across.change",
  "injectors.across.left",
];
const SECOND = { name: "second set", count: 6, flow: "300 g/min", rated_at: "300 kPa", resistance: "12 ohm" };
const DONOR = { power: "100 kW", injectors: 4, pressure: "300 kPa" };
const second = ["count", "flow", "rated_at", "fluid", "resistance"];
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="injectors">
    <template #overview>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="injectors.duty.full" label="Open at full power" :severity="duty" />
        <RulingFigure figure="injectors.pulse.idle" label="Pulse at idle" :severity="idle" />
        <RulingFigure figure="injectors.nominal" label="Type this into the control unit" />
      </div>
      <FlowWindow :injectors="store.plan.stages.injectors" :name="store.build.injectors.name" />
      <AllFigures :names="FIGURES" />
    </template>

    <template #injector-fields>
      <FieldGroup
        group="injector"
        :at="['/injectors/name', '/injectors/flow', '/injectors/rated_at', '/injectors/fluid', '/injectors/count']"
      >
        <Field class="col-span-2" at="/injectors/name" /><Field at="/injectors/flow" /><Field at="/injectors/rated_at" /><Field
          at="/injectors/fluid"
        /><Field at="/injectors/count" /><Field at="/injectors/connector" />
      </FieldGroup>
      <FieldGroup group="donor" at="/injectors/donor">
        <MoreFields summary="They have no sheet: from which engine do they come?" :also="['/injectors/donor']">
          <OptionalPart at="/injectors/donor" add="Describe the donor" :fresh="DONOR" usual out="Not known">
            <Field v-for="k in ['power', 'injectors', 'pressure', 'duty']" :key="k" :at="`/injectors/donor/${k}`" />
          </OptionalPart>
        </MoreFields>
      </FieldGroup>
      <FieldGroup
        group="dead_time"
        at="/injectors/dead_time"
        note="From its sheet, five voltages from 8 to 16 V. Empty: a usual figure is assumed."
      >
        <TableField
          class="col-span-2"
          at="/injectors/dead_time"
          noun="voltage"
          :columns="['voltage', 'time']"
          :fresh="{ voltage: '13.5 V' }"
        />
      </FieldGroup>
    </template>
    <template #injector><PulseBar :injectors="store.plan.stages.injectors" :limit="limit" /></template>

    <template #box-fields><BoxBench /></template>
    <template #box><RankList :box="store.plan.stages.injectors.box" /></template>

    <template #flow-fields><FlowBench /></template>
    <template #flow>
      <SetDrawing v-if="bench.complete" :bench="bench" :banks="banks" />
      <BenchTable :bench="bench" />
    </template>

    <template #fired-fields>
      <FieldGroup group="firing" :at="['/injectors/firing', '/injectors/duty_limit', '/injectors/outputs']"
        ><Field at="/injectors/firing" /><Field at="/injectors/squirts" /><Field at="/injectors/duty_limit" /><Field at="/injectors/fed" />
        <TableField
          class="col-span-2"
          at="/injectors/outputs"
          noun="output"
          :columns="['name', 'cylinders']"
          :fresh="{ name: `inj ${(store.build.injectors.outputs?.length ?? 0) + 1}`, cylinders: [] }"
        />
      </FieldGroup>
      <FieldGroup group="driver" :at="['/injectors/resistance', '/injectors/driver', '/injectors/driver_limit', '/injectors/per_driver']">
        <Field at="/injectors/resistance" /><Field at="/injectors/ballast" /><Field at="/injectors/driver" /><Field
          at="/injectors/driver_limit"
        /><Field at="/injectors/per_driver" />
        <OptionalPart
          v-if="store.build.injectors.driver === 'peak_and_hold'"
          at="/injectors/peak_hold"
          add="Its peak and hold, by its sheet"
          usual
          out="Not known: usual ones"
        >
          <Field v-for="k in ['peak', 'hold', 'peak_time']" :key="k" :at="`/injectors/peak_hold/${k}`" />
        </OptionalPart>
      </FieldGroup>
    </template>
    <template #fired>
      <div class="mt-2 grid grid-cols-2 gap-4">
        <RulingFigure figure="injectors.current.driver" label="Through each driver" />
        <RulingFigure figure="injectors.current.average" label="All of them, on average" />
      </div>
      <PulseBar :injectors="store.plan.stages.injectors" :limit="limit" />
    </template>

    <template #enters-fields>
      <FieldGroup
        group="enters"
        :at="['/injectors/enters', '/injectors/unit_compensates']"
        note="What they spray into and what the regulator sees belong together."
      >
        <Field class="col-span-2" at="/injectors/enters" /><Field
          class="col-span-2"
          at="/fuel/regulator/reference"
          label="The regulator's spring side sees"
        /><Field class="col-span-2" at="/injectors/unit_compensates" />
      </FieldGroup>
    </template>
    <template #enters>
      <EntersDrawing />
      <AllFigures :names="['injectors.across.change', 'injectors.across.left', 'injectors.flow.working', 'injectors.nominal']" />
    </template>

    <template #second-fields>
      <FieldGroup group="second_set" at="/injectors/second" note="Joins in where the first reaches 80 % open.">
        <OptionalPart
          at="/injectors/second"
          add="A second set, staged"
          :fresh="{ ...SECOND, count: store.build.injectors.count }"
          usual
          out="No second set"
        >
          <Field class="col-span-2" at="/injectors/second/name" /><Field v-for="k in second" :key="k" :at="`/injectors/second/${k}`" />
        </OptionalPart>
      </FieldGroup>
    </template>
    <template #second>
      <FlowWindow :injectors="store.plan.stages.injectors" :name="store.build.injectors.name" />
      <AllFigures :names="['injectors.changeover', 'injectors.turndown', 'injectors.duty.full', 'injectors.pulse.idle']" />
    </template>

    <template #papers>
      <p class="mt-3"><PaperLink name="sheets/flow.pdf">Flow sheet, PDF</PaperLink></p>
    </template>
  </StationFrame>
</template>
