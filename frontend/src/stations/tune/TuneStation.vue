<script setup lang="ts">
import { IconDownload } from "@tabler/icons-vue";
import { computed, defineAsyncComponent, ref } from "vue";
import { api } from "@/api/client";
import FieldGroup from "@/parts/FieldGroup.vue";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import Field from "@/parts/Field.vue";
import AllFigures from "@/parts/AllFigures.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import { useBuild } from "@/stores/build";
import CurveSmall from "./CurveSmall.vue";
import TableGrid from "./TableGrid.vue";

const WorkedGrid = defineAsyncComponent(() => import("./WorkedGrid.vue"));

const store = useBuild();
const tables = computed(() => store.plan!.stages.tune.tables);
const grids = computed(() => tables.value.filter((t) => t.y_label));
const curves = computed(() => tables.value.filter((t) => !t.y_label));
const chosen = ref("ve");
const grid = computed(() => grids.value.find((t) => t.key === chosen.value) ?? grids.value[0]!);
const severity = computed(() => store.findings("tune").find((f) => f.code === "TUNE-02")?.severity);
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="tune">
    <template #overview>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="tune.full_cylinder_pulse" label="Full-cylinder pulse" />
        <RulingFigure figure="tune.table_duty.full" label="Duty the table asks at full power" :severity="severity" />
        <RulingFigure figure="engine.power.from_air" label="Power its air is good for" />
      </div>
      <ChoiceBar v-model="chosen" :options="grids.map((t) => ({ key: t.key, word: t.title }))" label="Which table" />
      <TableGrid :table="grid" />
      <p class="text-[0.85rem] text-soft">Doubt: {{ grid.doubt }}. Not a finished tune: good enough to start, idle and be driven gently.</p>
      <AllFigures :names="['tune.full_cylinder_pulse', 'tune.table_fuel.full', 'injectors.nominal', 'engine.fuel_mass_flow']" />
    </template>

    <template #targets-fields>
      <FieldGroup group="targets" at="/tune"
        ><Field at="/tune/load" /><Field at="/tune/idle_lambda" /><Field at="/tune/cruise_lambda" /><Field at="/tune/full_lambda"
      /></FieldGroup>
    </template>
    <template #targets>
      <div class="grid grid-cols-1 gap-x-5 md:grid-cols-2"><CurveSmall v-for="t in curves" :key="t.key" :table="t" /></div>
    </template>

    <template #worked><WorkedGrid /></template>

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
          v-for="k in ['rev_limit', 'idle_speed', 'full_advance', 'fan_on', 'fan_off']"
          :key="k"
          :at="`/tune/typed/${k}`"
        />
      </FieldGroup>
    </template>

    <template #papers-fields>
      <FieldGroup group="tables">
        <a v-for="t in tables" :key="t.key" :href="api.paper(store.id, `tables/${t.key}.csv`)" class="btn btn-small !justify-start"
          ><IconDownload :size="15" aria-hidden="true" />{{ t.title.split(",")[0] }}</a
        >
        <a :href="api.paper(store.id, 'tune.json')" class="btn btn-small btn-main !justify-start"
          ><IconDownload :size="15" aria-hidden="true" />All, one JSON</a
        >
      </FieldGroup>
    </template>
  </StationFrame>
</template>
