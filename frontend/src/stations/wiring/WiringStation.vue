<script setup lang="ts">
import { computed, defineAsyncComponent, nextTick, ref, watch } from "vue";
import { useRoute } from "vue-router";
import FieldGroup from "@/parts/FieldGroup.vue";
import Field from "@/parts/Field.vue";
import AllFigures from "@/parts/AllFigures.vue";
import TableField from "@/parts/TableField.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import { choice } from "@/figures/format";
import { useBuild } from "@/stores/build";
import HarnessPlan from "./HarnessPlan.vue";

const GearboxBench = defineAsyncComponent(() => import("./GearboxBench.vue"));
const UnitPlace = defineAsyncComponent(() => import("./UnitPlace.vue"));
const SettingList = defineAsyncComponent(() => import("./SettingList.vue"));
const PinList = defineAsyncComponent(() => import("./PinList.vue"));
const UnitFields = defineAsyncComponent(() => import("./UnitFields.vue"));
const WireTable = defineAsyncComponent(() => import("./WireTable.vue"));
const WireTrace = defineAsyncComponent(() => import("./WireTrace.vue"));
const AddedFields = defineAsyncComponent(() => import("./AddedFields.vue"));
const FuseFields = defineAsyncComponent(() => import("./FuseFields.vue"));
const FaceBench = defineAsyncComponent(() => import("./FaceBench.vue"));
const FeedKeys = defineAsyncComponent(() => import("./FeedKeys.vue"));
const BalanceTable = defineAsyncComponent(() => import("./BalanceTable.vue"));
const BranchFields = defineAsyncComponent(() => import("./BranchFields.vue"));
const BranchWires = defineAsyncComponent(() => import("./BranchWires.vue"));
const CircuitBench = defineAsyncComponent(() => import("./CircuitBench.vue"));
const HarnessPapers = defineAsyncComponent(() => import("./HarnessPapers.vue"));
const LoomTable = defineAsyncComponent(() => import("./LoomTable.vue"));
const MetFields = defineAsyncComponent(() => import("./MetFields.vue"));
const MeterBench = defineAsyncComponent(() => import("./MeterBench.vue"));
const OwnFields = defineAsyncComponent(() => import("./OwnFields.vue"));
const PowerFields = defineAsyncComponent(() => import("./PowerFields.vue"));
const RelayFields = defineAsyncComponent(() => import("./RelayFields.vue"));
const PassFields = defineAsyncComponent(() => import("./PassFields.vue"));
const QuestionList = defineAsyncComponent(() => import("@/parts/QuestionList.vue"));
const StatesDrawing = defineAsyncComponent(() => import("./StatesDrawing.vue"));
const TestFields = defineAsyncComponent(() => import("./TestFields.vue"));
const TestSheet = defineAsyncComponent(() => import("./TestSheet.vue"));

const store = useBuild();
const route = useRoute();
const traced = ref<string | null>(null);
const tested = ref<string | null>(null);
const looked = ref<string | null>(null);
const result = computed(() => store.plan!.stages.wiring);
const severity = computed(() => store.findings("wiring").find((f) => f.code === "WIRE-02")?.severity);
watch(
  () => route.hash,
  (hash) => {
    const key = /^#(?:w-|f\/wiring\/fitted\/)([a-z0-9_]+)/.exec(decodeURIComponent(hash))?.[1];
    if (key) traced.value = key;
    tested.value = /^#f\/wiring\/tests\/([a-z0-9_]+)/.exec(decodeURIComponent(hash))?.[1] ?? tested.value;
  },
  { immediate: true },
);
/** On a telephone the fields of a wire stand below the list: they are brought into view. */
function toWire(wire: string): void {
  tested.value = wire;
  if (window.innerWidth < 1024) void nextTick(() => document.getElementById("b-tests")?.scrollIntoView({ block: "start" }));
}
const FIGURES = [
  "wiring.fuse.unit",
  "wiring.fuse.injectors",
  "wiring.fuse.coils",
  "wiring.fuse.pump",
  "wiring.fuse.lift",
  "wiring.fuse.fan",
  "wiring.pins_short",
];
const EXTRAS = ["fan", "tachometer", "idle_valve", "warning_lamp"] as const;
const extras = computed(() => store.build?.wiring.extras ?? []);
const toggle = (e: (typeof EXTRAS)[number]) =>
  store.set("/wiring/extras", extras.value.includes(e) ? extras.value.filter((x) => x !== e) : [...extras.value, e]);
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="wiring">
    <template #overview>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="wiring.feed.crank" label="Ignition feed while cranking" :severity="severity" />
        <RulingFigure figure="wiring.count" label="Wires" suffix="" />
        <RulingFigure figure="wiring.total_length" label="Wire to buy, 10 % extra not counted" />
      </div>
      <HarnessPlan :wiring="result" :traced="traced" />
      <AllFigures :names="FIGURES" />
    </template>

    <template #feeds-fields>
      <FieldGroup
        group="feeds"
        at="/wiring/feed"
        measurable
        note="Meter on the wire and ground. Cranking: coil unplugged, neutral, hand brake on, a helper at the key."
      >
        <Field at="/wiring/feed/taken_from" /><Field at="/wiring/feed/fuse_distance" /><Field at="/wiring/feed/off" /><Field
          at="/wiring/feed/accessory"
          label="At accessory"
        /><Field at="/wiring/feed/run" label="At run" /><Field at="/wiring/feed/crank" label="While cranking" />
      </FieldGroup>
      <FieldGroup group="links" note="Each with the length of lead before it that nothing protects. Battery off while you measure.">
        <TableField
          class="col-span-2"
          at="/wiring/links"
          noun="link"
          :columns="['feeds', 'distance', 'sound']"
          :fresh="{ feeds: 'starter_stud' }"
        />
      </FieldGroup>
    </template>

    <template #feeds><FeedKeys /></template>

    <template #unit-fields>
      <FieldGroup group="unit" :at="['/wiring/profile', '/wiring/insulation']">
        <Field class="col-span-2" at="/wiring/profile" />
        <Field at="/wiring/insulation" /><Field at="/wiring/unit_current" />
        <Field v-if="extras.includes('fan')" at="/wiring/fan_current" />
        <div class="col-span-2 flex flex-wrap gap-1.5" role="group" aria-label="Also driven by the unit">
          <button
            v-for="e in EXTRAS"
            :key="e"
            type="button"
            class="btn btn-small"
            :class="{ 'btn-main': extras.includes(e) }"
            :aria-pressed="extras.includes(e)"
            :disabled="store.readOnly"
            @click="toggle(e)"
          >
            {{ choice(e) }}
          </button>
        </div>
      </FieldGroup>
      <UnitFields />
    </template>
    <template #unit><PinList :pins="result.pins" /></template>

    <template #wires-fields>
      <section v-if="traced" class="mb-3">
        <h2 class="text-[1.05rem] first-letter:uppercase">{{ result.wires.find((w) => w.key === traced)?.label }}</h2>
        <WireTrace :wiring="result" :wire="traced" />
      </section>
      <OwnFields /><AddedFields />
    </template>
    <template #wires>
      <HarnessPlan :wiring="result" :traced="traced" low />
      <WireTable :wiring="result" :traced="traced" @trace="(k) => (traced = k)" />
    </template>

    <template #fuses-fields> <FuseFields :fuses="result.fuses" /><RelayFields /> </template>

    <template #sits-fields><UnitPlace /></template>
    <template #sits><SettingList :rows="result.settings" /></template>

    <template #gearbox-fields><GearboxBench /></template>
    <template #gearbox>
      <RulingFigure v-if="result.pulses_per_km !== null" figure="wiring.pulses_per_km" label="Pulses that come in a kilometre" suffix="" />
    </template>

    <template #power-fields><PowerFields /></template>
    <template #power><StatesDrawing :rows="result.states" /><BalanceTable :rows="result.states" /></template>

    <template #routes-fields><BranchFields v-model="looked" :wiring="result" /></template>
    <template #passes-fields><PassFields /></template>
    <template #passes><HarnessPlan :wiring="result" :traced="traced" /></template>
    <template #routes>
      <HarnessPlan :wiring="result" :traced="traced" :branch="looked" editable @look="(k) => (looked = looked === k ? null : k)" />
      <BranchWires v-if="looked" :wiring="result" :branch="looked" />
    </template>

    <template #met-fields><MetFields /></template>
    <template #met><LoomTable :loom="result.loom" /></template>

    <template #circuits><CircuitBench /></template>

    <template #plugs><FaceBench /></template>

    <template #meter><MeterBench /></template>

    <template #tests-fields><TestFields :wiring="result" :chosen="tested" @choose="(w) => (tested = w)" /></template>
    <template #tests><TestSheet :rows="result.tests" :read-in="result.read_in" :chosen="tested" @choose="toWire" /></template>

    <template #ways><QuestionList station="wiring" /></template>
    <template #papers>
      <HarnessPapers />
    </template>
  </StationFrame>
</template>
