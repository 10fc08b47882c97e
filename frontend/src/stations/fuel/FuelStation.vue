<script setup lang="ts">
import { IconDownload, IconPlus } from "@tabler/icons-vue";
import { computed, ref } from "vue";
import { api } from "@/api/client";
import BenchGroup from "@/parts/BenchGroup.vue";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import Field from "@/parts/Field.vue";
import FigureList from "@/parts/FigureList.vue";
import SizeSlider from "@/parts/SizeSlider.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";
import AdviceList from "./AdviceList.vue";
import CaseTable from "./CaseTable.vue";
import GradeLine from "./GradeLine.vue";
import LineBench from "./LineBench.vue";
import MarginBand from "./MarginBand.vue";
import PumpSystem from "./PumpSystem.vue";
import { useFuelDepth } from "./useFuelDepth";
import { STATES, type StateName } from "./states";

const store = useBuild();
const { depth, working, trouble } = useFuelDepth();
const wanted = computed(() => Number.parseFloat(store.build?.fuel.design_margin ?? store.info("/fuel/design_margin")?.default ?? "1.2"));
const FIGURES = [
  "fuel.need",
  "fuel.gauge.key_on",
  "fuel.gauge.idle",
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
/** Parts that this path does not have, with a start to edit. */
const PARTS: [string, string, unknown][] = [
  ["suction", "Suction line", { material: "30R14T2", bore: "12 mm", length: "0.5 m", exhaust_distance: "300 mm" }],
  ["strainer", "Strainer", { pressure_drop: "1 kPa", at_flow: "150 L/h", fineness: "100 um" }],
  ["lift", "Lift pump and surge tank", { name: "lift pump", flow: "120 L/h", usable: "1.5 L" }],
];
const missing = computed(() => PARTS.filter(([key]) => store.at(`/fuel/${key}`) == null));
const state = ref<StateName>("full");
/** Height of the rail over the pump as it is worked with, metres. */
const rise = computed(() => store.plan!.stages.fuel.grades.full!.find((g) => g.label === "rail")!.height_m);
const pasted = ref("");
const pasteProblem = ref("");
/** Rows of a sheet as text: four numbers a line, any separator; a heading is passed over. */
function takePasted(): void {
  const rows = pasted.value
    .split("\n")
    .map((row) => row.match(/-?\d+(?:\.\d+)?/g) ?? [])
    .filter((numbers) => numbers.length);
  const wrong = rows.findIndex((numbers) => numbers.length !== 4);
  pasteProblem.value =
    wrong >= 0
      ? `Line ${wrong + 1} holds ${rows[wrong]!.length} numbers; four are needed: volts, kPa, L/h, amps.`
      : rows.length < 2
        ? "Two rows at least."
        : "";
  if (pasteProblem.value) return;
  void store.set(
    "/fuel/pump/curve",
    rows.map(([v, p, q, i]) => ({ voltage: `${v} V`, pressure: `${p} kPa`, flow: `${q} L/h`, current: `${i} A` })),
  );
  pasted.value = "";
}
const severity = computed(() => store.findings("fuel").find((f) => f.code === "FUEL-01")?.severity);
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="fuel">
    <template #bench>
      <BenchGroup title="Tank" at="/fuel/tank">
        <Field v-for="k in ['head', 'hottest', 'volume', 'vent_drop', 'reid', 'return_enters']" :key="k" :at="`/fuel/tank/${k}`" /><Field
          at="/fuel/tank/leaded"
        />
      </BenchGroup>
      <LineBench v-if="store.build.fuel.suction" title="Suction line" at="/fuel/suction">
        <button
          type="button"
          class="btn btn-small btn-plain col-span-2 underline"
          :disabled="store.readOnly"
          @click="store.set('/fuel/suction', undefined)"
        >
          No suction line
        </button>
      </LineBench>
      <BenchGroup v-if="store.build.fuel.strainer" title="Strainer before the pump" at="/fuel/strainer">
        <Field v-for="k in ['fineness', 'pressure_drop', 'at_flow']" :key="k" :at="`/fuel/strainer/${k}`" />
        <button
          type="button"
          class="btn btn-small btn-plain self-end underline"
          :disabled="store.readOnly"
          @click="store.set('/fuel/strainer', undefined)"
        >
          No strainer
        </button>
      </BenchGroup>
      <BenchGroup v-if="store.build.fuel.lift" title="Lift pump and surge tank" at="/fuel/lift">
        <Field class="col-span-2" at="/fuel/lift/name" /><Field
          v-for="k in ['flow', 'usable', 'return_to']"
          :key="k"
          :at="`/fuel/lift/${k}`"
        />
        <button
          type="button"
          class="btn btn-small btn-plain self-end underline"
          :disabled="store.readOnly"
          @click="store.set('/fuel/lift', undefined)"
        >
          No surge tank
        </button>
      </BenchGroup>
      <div v-if="missing.length" class="flex flex-wrap gap-1.5 border-t border-ink py-2">
        <button
          v-for="[key, word, value] in missing"
          :key="key"
          type="button"
          class="btn btn-small"
          :disabled="store.readOnly"
          @click="store.set(`/fuel/${key}`, value)"
        >
          <IconPlus :size="15" aria-hidden="true" />{{ word }}
        </button>
      </div>
      <BenchGroup
        title="Pump"
        at="/fuel/pump"
        note="Depressurise and disconnect the battery before you open a line. Extinguisher within reach, outdoors."
      >
        <Field class="col-span-2" at="/fuel/pump/name" /><Field at="/fuel/pump/place" /><Field at="/fuel/pump/control" /><Field
          at="/fuel/design_margin"
        /><Field at="/fuel/pump/relief" /><Field at="/fuel/pump/inlet_bore" /><Field at="/fuel/pump/outlet_bore" />
        <details class="col-span-2" :open="store.build.fuel.pump.curve.length < 5">
          <summary class="min-h-9 cursor-pointer py-1">Pump table, {{ store.build.fuel.pump.curve.length }} rows from its sheet</summary>
          <TableField
            at="/fuel/pump/curve"
            noun="row"
            :columns="['voltage', 'pressure', 'flow', 'current']"
            :fresh="{ voltage: '13.5 V', pressure: '350 kPa', flow: '0 L/h', current: '7 A' }"
          />
          <label class="mt-2 block text-[0.86rem] text-soft" for="pump-csv">Or paste the sheet: volts, kPa, L/h, amps in each line</label>
          <textarea
            id="pump-csv"
            v-model="pasted"
            rows="3"
            class="num mt-1 w-full border border-line bg-sheet p-2 text-ink"
            placeholder="12, 300, 156, 6.85"
          ></textarea>
          <p v-if="pasteProblem" class="text-[0.85rem] text-spark" role="alert">{{ pasteProblem }}</p>
          <button type="button" class="btn btn-small" :disabled="store.readOnly || !pasted.trim()" @click="takePasted">
            Take these rows
          </button>
        </details>
      </BenchGroup>
      <BenchGroup title="Wire to the pump" at="/fuel/wire">
        <Field at="/fuel/wire/size" /><Field at="/fuel/wire/length" /><Field at="/fuel/wire/temperature" />
        <SizeSlider
          class="col-span-2"
          at="/fuel/wire/size"
          label="Slide through the sizes"
          :sizes="['0.75 mm2', '1 mm2', '1.5 mm2', '2.5 mm2', '4 mm2', '6 mm2', '10 mm2']"
        />
        <TableField
          class="col-span-2"
          at="/fuel/wire/contacts"
          noun="contact"
          :columns="['kind', 'count']"
          widths="1fr 5rem"
          :fresh="{ kind: 'crimp', count: 1 }"
        />
      </BenchGroup>
      <BenchGroup title="Filter after the pump" at="/fuel/filter">
        <Field at="/fuel/filter/pressure_drop" /><Field at="/fuel/filter/at_flow" label="at a flow of" /><Field
          at="/fuel/filter/fluid"
        /><Field at="/fuel/filter/fineness" /><Field at="/fuel/filter/due" />
      </BenchGroup>
      <LineBench title="Supply line" at="/fuel/supply" />
      <BenchGroup
        title="Regulator"
        at="/fuel/regulator"
        note="Return: cool and steady. At the tank: one line forward, the rail then sits below the set value. Dead-head: nothing comes back, the pump stands against its own limit."
      >
        <Field at="/fuel/scheme" /><Field at="/fuel/regulator/set_pressure" /><Field at="/fuel/regulator/reference" />
      </BenchGroup>
      <LineBench v-if="store.build.fuel.scheme !== 'dead_head'" title="Return line" at="/fuel/return_line" />
    </template>
    <template #reckoning>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="fuel.margin.full" label="Pump at full power" suffix="× need" :severity="severity" />
        <RulingFigure figure="fuel.margin.tired" label="Tired battery, filter due" suffix="× need" />
        <RulingFigure figure="fuel.pump.voltage.full" label="Volts that reach the pump" />
      </div>
      <ChoiceBar v-model="state" :options="STATES" label="State of the engine" />
      <GradeLine
        :fuel="store.plan.stages.fuel"
        :ambient-pa="store.plan.stages.engine.ambient_pressure_pa"
        :state="state"
        :rise="rise"
        :fixed="store.readOnly"
        @rise="(m) => store.set('/fuel/supply/rise', `${m.toFixed(2)} m`)"
      />
      <PumpSystem :fuel="store.plan.stages.fuel" :shelf="depth?.shelf" :band="depth?.band" :state="state" />
      <p v-if="trouble" class="text-spark" role="alert">{{ trouble }}</p>
      <p v-else-if="!depth" class="py-4 text-soft" role="status">Working out doubt and advice…</p>
      <div v-if="depth" :aria-busy="working" :class="{ 'opacity-60': working }">
        <MarginBand :band="depth.band" :wanted="wanted" />
        <AdviceList :advice="depth.advice" :doubts="depth.doubts" />
        <CaseTable :cases="depth.cases" />
        <p class="no-print mt-2 flex flex-wrap gap-2">
          <a :href="api.paper(store.id, 'fuel-sheet.pdf')" class="btn btn-small"
            ><IconDownload :size="15" aria-hidden="true" />Fuel sheet, PDF</a
          >
          <a :href="api.paper(store.id, 'fuel-parts.csv')" class="btn btn-small"
            ><IconDownload :size="15" aria-hidden="true" />Shopping list, CSV</a
          >
        </p>
      </div>
      <FigureList class="mt-3" :names="shown" />
    </template>
  </StationFrame>
</template>
