<script setup lang="ts">
import { computed, defineAsyncComponent } from "vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import Field from "@/parts/Field.vue";
import AllFigures from "@/parts/AllFigures.vue";
import PaperLink from "@/parts/PaperLink.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";
import OptionalPart from "@/parts/OptionalPart.vue";
import CoilRamp from "./CoilRamp.vue";
import FiringRing from "./FiringRing.vue";
import RotorDrawing from "./RotorDrawing.vue";
import TimingLog from "./TimingLog.vue";
const QuestionList = defineAsyncComponent(() => import("@/parts/QuestionList.vue"));

const store = useBuild();
const result = computed(() => store.plan!.stages.ignition);
const severity = computed(() => store.findings("ignition").find((f) => f.code === "IGN-03")?.severity);
const limit = computed(() => (store.si("/engine/rev_limit") ?? 0) * 60);
const IGNITER = { limit: "10 A" };
const DISTRIBUTOR = ["rotor_tip", "meets", "advance_least", "advance_most", "turns", "vacuum"];
const hasDistributor = computed(() => result.value.by_distributor);
const FIGURES = [
  "ignition.dwell.8V", "ignition.dwell.10V", "ignition.dwell.13.8V", "ignition.dwell.16V", "ignition.gap.limit", "ignition.current.average", "ignition.driver.heat", "ignition.rotor.span",
  "ignition.offset", "ignition.drift", "ignition.tach.pulses",
]; // prettier-ignore
const useProposed = () =>
  store.set(
    "/ignition/outputs",
    result.value.outputs.map((o) => ({ name: o.name, cylinders: o.proposed })),
  );
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="ignition" :without="hasDistributor ? [] : ['distributor']">
    <template #overview>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="ignition.duty.limit" label="Charging at the rev limit" :severity="severity" />
        <RulingFigure figure="ignition.dwell.12V" label="Dwell at 12 V" />
        <RulingFigure figure="ignition.energy" label="Energy in a charged coil" />
      </div>
      <FiringRing :ignition="result" :limit-rpm="limit" />
      <p v-if="result.order_fault" class="mt-1 text-spark" role="status">
        As wired {{ result.order_fault }}: {{ result.cylinders_on_time }} of {{ store.build.engine.cylinders }} cylinders get their spark on
        time.
      </p>
      <AllFigures :names="FIGURES" />
    </template>

    <template #coil-fields>
      <FieldGroup
        group="ignition"
        :at="['/ignition/kind', '/ignition/speed_signal', '/ignition/timed_by_unit', '/ignition/advance']"
        note="Coils and leads carry tens of thousands of volts: key off before you touch them."
      >
        <Field at="/ignition/kind" /><Field at="/ignition/speed_signal" /><Field at="/ignition/advance" /><Field
          at="/ignition/timed_by_unit"
        /><Field at="/ignition/ballast" /><Field at="/ignition/multi_spark" />
      </FieldGroup>
      <FieldGroup group="coil" at="/ignition/coil"
        ><Field at="/ignition/coil/kind" /><Field at="/ignition/coil/current" /><Field at="/ignition/coil/resistance" /><Field
          at="/ignition/coil/inductance"
        /><Field v-if="store.build.ignition.coil.kind === 'smart'" at="/ignition/coil/fires_on" /><Field at="/ignition/edge" />
      </FieldGroup>
      <FieldGroup
        v-if="store.build.ignition.coil.kind === 'dumb' && store.build.ignition.timed_by_unit"
        group="igniter"
        at="/ignition/igniter"
        note="A coil without a power stage burns a logic output. Check the edge before its plug goes on."
      >
        <Field class="col-span-2" at="/wiring/unit/coil_stage" />
        <OptionalPart at="/ignition/igniter" add="Describe the igniter" :fresh="IGNITER" usual>
          <Field v-for="k in ['limit', 'fires_on', 'heat_sink']" :key="k" :at="`/ignition/igniter/${k}`" />
        </OptionalPart>
      </FieldGroup>
    </template>
    <template #coil><CoilRamp :ignition="result" :wanted="store.si('/ignition/coil/current') ?? 0" /></template>

    <template #order-fields>
      <FieldGroup
        group="outputs"
        at="/ignition/outputs"
        note="As it is wired, in the order of the unit's own numbers. With a distributor: the posts of the cap in the direction the rotor turns."
      >
        <Field v-if="!result.by_distributor" class="col-span-2" at="/wiring/unit/numbers" />
        <TableField
          class="col-span-2"
          at="/ignition/outputs"
          noun="output"
          :columns="['name', 'cylinders']"
          :fresh="{ name: `output ${(store.build.ignition.outputs?.length ?? 0) + 1}`, cylinders: [] }"
        />
        <button
          v-if="!store.build.ignition.outputs?.length"
          type="button"
          class="btn btn-small col-span-2"
          :disabled="store.readOnly"
          @click="useProposed"
        >
          It is wired as proposed: {{ result.outputs.map((o) => o.proposed.join("+")).join(", ") }}
        </button>
      </FieldGroup>
      <FieldGroup
        group="letters"
        at="/ignition/letters"
        note="Where a harness letters its coil plugs: which output each hangs on, which coil it is plugged to. They count before what was said above."
      >
        <TableField
          class="col-span-2"
          at="/ignition/letters"
          noun="plug"
          :columns="['letter', 'output', 'cylinders']"
          :fresh="{
            letter: 'ABCDEFGHJKLM'[store.build.ignition.letters?.length ?? 0] ?? 'Z',
            output: result.outputs[store.build.ignition.letters?.length ?? 0]?.name ?? 'output 1',
            cylinders: [],
          }"
        />
      </FieldGroup>
    </template>
    <template #order>
      <FiringRing :ignition="result" :limit-rpm="limit" />
      <p v-if="result.order_fault" class="mt-1 text-spark" role="status">
        As wired {{ result.order_fault }}: {{ result.cylinders_on_time }} of {{ store.build.engine.cylinders }} cylinders get their spark on
        time.
      </p>
    </template>

    <template #distributor-fields>
      <FieldGroup group="distributor" at="/ignition/distributor" note="Number one on compression; note where the vacuum hose was.">
        <Field v-for="k in DISTRIBUTOR" :key="k" :at="`/ignition/distributor/${k}`" />
      </FieldGroup>
    </template>
    <template #distributor>
      <RotorDrawing v-if="result.rotor" :rotor="result.rotor" :cylinders="store.build.engine.cylinders" />
      <p v-else class="py-4 text-soft">With the tip's width and where it meets its post, the rotor is drawn here.</p>
      <p v-if="result.fit_deg !== null" class="mt-2 leading-snug">
        <b>Putting the distributor in:</b> number one on compression, both valves shut; crank at
        <span class="num font-semibold">{{ result.fit_deg.toFixed(1) }}°</span> before top; rotor at number one's post as it seats. It turns
        a little as the gear meshes: start it that much back. Key and battery off.
      </p>
    </template>

    <template #light-fields>
      <FieldGroup
        group="light"
        at="/ignition/timing"
        measurable
        note="Unit locked at one angle, light on number one. Cranking first, injectors unplugged; then idle and 3,000. Clear of the fan and out of line with it."
      >
        <TableField class="col-span-2" at="/ignition/timing" noun="look" :columns="['speed', 'commanded', 'observed']" />
      </FieldGroup>
    </template>
    <template #light>
      <TimingLog v-if="result.timing.length" :ignition="result" />
      <p v-else class="py-4 text-soft">Enter what the light showed at two speeds: offset and drift are drawn here.</p>
    </template>

    <template #plugs-fields>
      <FieldGroup group="plugs" :at="['/ignition/resistor_plugs', '/ignition/suppressed_leads', '/ignition/tach']">
        <Field at="/ignition/resistor_plugs" /><Field at="/ignition/suppressed_leads" /><Field at="/ignition/tach/hangs_on" /><Field
          at="/ignition/tach/terminal"
        /><Field at="/ignition/tach/wants" /><Field at="/ignition/tach/set_for" />
      </FieldGroup>
    </template>

    <template #ways><QuestionList station="ignition" /></template>
    <template #papers>
      <p class="mt-3"><PaperLink name="sheets/timing.pdf">Timing card, PDF</PaperLink></p>
    </template>
  </StationFrame>
</template>
