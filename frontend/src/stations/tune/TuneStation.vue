<script setup lang="ts">
import { IconDownload } from "@tabler/icons-vue";
import { computed, defineAsyncComponent } from "vue";
import { api } from "@/api/client";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import AllFigures from "@/parts/AllFigures.vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import PaperLink from "@/parts/PaperLink.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import { useBuild } from "@/stores/build";
import CellCard from "./CellCard.vue";
import ConstantList from "./ConstantList.vue";
import TableGrid from "./TableGrid.vue";
import { MADE, useTables } from "./useTables";

const KeptBench = defineAsyncComponent(() => import("./KeptBench.vue"));
const KeptFields = defineAsyncComponent(() => import("./KeptFields.vue"));
const ReadIn = defineAsyncComponent(() => import("./ReadIn.vue"));
const TablesBench = defineAsyncComponent(() => import("./TablesBench.vue"));
const WarmWalk = defineAsyncComponent(() => import("./WarmWalk.vue"));
const WorkedGrid = defineAsyncComponent(() => import("./WorkedGrid.vue"));
import { useCells } from "./useCells";

const store = useBuild();
const { tables, key } = useTables();
const grids = computed(() => tables.value.filter((t) => t.y_label));
const grid = computed(() => grids.value.find((t) => t.key === key.value) ?? grids.value[0]!);
const cells = useCells(() => grid.value, false);
const chosen = computed({ get: () => grid.value.key, set: (to: string) => (key.value = to) });
const severity = computed(() => store.findings("tune").find((f) => f.code === "TUNE-02")?.severity);
const use = computed(() => store.stages.in_use!);
const lambda = computed(() => store.stages.tune!.tables.find((t) => t.key === "lambda")!);
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="tune">
    <template #overview>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-4">
        <RulingFigure figure="tune.full_cylinder_pulse" label="Full-cylinder pulse" />
        <RulingFigure figure="tune.table_duty.full" label="Duty the table asks at full power" :severity="severity" />
        <RulingFigure figure="tune.ve.full.peak" label="Best filling" />
        <RulingFigure figure="tune.spark.full" label="Advance at full power" />
      </div>
      <ChoiceBar v-model="chosen" :options="grids.map((t) => ({ key: t.key, word: t.title }))" label="Which table" />
      <TableGrid :table="grid" :cells="cells" :marks="store.stages.tune!.landmarks" />
      <p class="text-[0.85rem] text-soft">
        {{ use.source === "kept" ? `The kept tune, of ${MADE[use.made]}` : "Quick tables" }}. Doubt: {{ grid.doubt }}.
      </p>
      <CellCard :table="grid" :chosen="cells.chosen.value" brief />
      <AllFigures
        :names="[
          'tune.full_cylinder_pulse',
          'tune.table_fuel.full',
          'tune.ve.full.peak_speed',
          'tune.ve.idle',
          'tune.power.worked',
          'tune.torque.worked',
          'tune.residual.idle',
          'tune.knock_margin.full',
          'tune.doubt.median',
          'tune.doubt.worst',
          'injectors.nominal',
          'engine.fuel_mass_flow',
        ]"
      />
    </template>

    <template #tables><TablesBench /></template>

    <template #targets-fields>
      <FieldGroup group="targets" at="/tune"
        ><Field at="/tune/load" /><Field at="/tune/idle_lambda" /><Field at="/tune/cruise_lambda" /><Field at="/tune/full_lambda" /><Field
          at="/tune/step"
      /></FieldGroup>
    </template>
    <template #targets>
      <TableGrid :table="lambda" :marks="store.stages.tune!.landmarks" />
      <p class="text-[0.85rem] text-soft">
        The quick table, which moves with these.
        <template v-if="use.source === 'kept'"
          >A tune is kept: its own tables stay as they are until it is made anew at
          <RouterLink :to="`/b/${store.id}/tune/kept`" class="underline">Kept</RouterLink>.</template
        >
      </p>
      <ConstantList :constants="store.stages.tune!.constants" />
    </template>

    <template #worked><WorkedGrid /></template>
    <template #kept-fields><KeptFields /></template>
    <template #kept><KeptBench /></template>
    <template #read><ReadIn /></template>
    <template #warmth><WarmWalk /></template>

    <template #typed-fields>
      <FieldGroup
        group="typed"
        at="/tune/typed"
        note="Note here what you typed; it is held against the build. Laptop on mains, charger on the battery while you write."
      >
        <Field at="/tune/typed/displacement" label="Displacement" /><Field at="/tune/typed/cylinders" label="Cylinders" /><Field
          at="/tune/typed/injector_flow"
          label="Injector figure"
        /><Field at="/tune/typed/base_pressure" label="Fuel pressure" /><Field
          v-for="k in ['firing_order', 'ignition', 'cam', 'rev_limit', 'idle_speed', 'full_advance', 'fan_on', 'fan_off']"
          :key="k"
          :at="`/tune/typed/${k}`"
        />
      </FieldGroup>
    </template>

    <template #papers-fields>
      <FieldGroup group="tables">
        <a :href="api.paper(store.id, 'tune.xlsx')" class="btn btn-main !justify-start"
          ><IconDownload :size="15" aria-hidden="true" />All, as a workbook</a
        >
        <a :href="api.paper(store.id, 'tune.json')" class="btn btn-small !justify-start"
          ><IconDownload :size="15" aria-hidden="true" />All, one JSON</a
        >
        <PaperLink name="sheets/tune.pdf">On paper, to type from</PaperLink>
        <a
          v-for="t in tables.filter((t) => !t.hidden)"
          :key="t.key"
          :href="api.paper(store.id, `tables/${t.key}.csv`)"
          class="btn btn-small !justify-start"
          ><IconDownload :size="15" aria-hidden="true" />{{ t.title.split(",")[0] }}{{ t.key.endsWith("_time") ? ", time" : "" }}</a
        >
      </FieldGroup>
    </template>
  </StationFrame>
</template>
