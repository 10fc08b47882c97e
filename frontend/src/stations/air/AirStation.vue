<script setup lang="ts">
import { computed } from "vue";
import type { Operation } from "@/api/types";
import FieldGroup from "@/parts/FieldGroup.vue";
import Field from "@/parts/Field.vue";
import AllFigures from "@/parts/AllFigures.vue";
import MoreFields from "@/parts/MoreFields.vue";
import OptionalPart from "@/parts/OptionalPart.vue";
import PaperLink from "@/parts/PaperLink.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import { useBuild } from "@/stores/build";
import { escape } from "@/stores/pointer";
import ByWireFields from "./ByWireFields.vue";
import CrankcaseDrawing from "./CrankcaseDrawing.vue";
import HoseMatching from "./HoseMatching.vue";
import LinkageDrawing from "./LinkageDrawing.vue";
import PedalFeel from "./PedalFeel.vue";
import HosesBench from "./HosesBench.vue";
import type { Port } from "./ports";

const store = useBuild();
const air = computed(() => store.plan!.stages.air);
const given = computed(() => store.build!.air ?? {});
const ports = computed(() => (given.value.ports ?? {}) as unknown as Record<string, Port>);
const consumers = computed(() => given.value.consumers ?? []);
const of = (code: string) => computed(() => store.findings("air").find((f) => f.code === code)?.severity);
const [throttle, pedal, hoses] = [of("AIR-01"), of("AIR-02"), of("AIR-04")];
/** A length of the air side [m], an angle in degrees. */
const si = (at: string) => store.si(`/air/${at}`) ?? 0;
const THROTTLE = { name: "throttle body" };
const HEIGHT = ["old", "room", "adapter", "new"].map((k) => `/air/height/${k}`);
const LINKAGE_FIELDS = [
  "pedal_travel",
  "pedal_ratio",
  "lever",
  "slack",
  "needed",
  "cable_angle",
  "clearance",
  "springs",
  "body_spring_shuts",
  "moves",
  "gearbox_cable",
];
const FIGURES = [
  "air.reservoir.applications",
  "air.need",
  "air.throttle.loss.full",
  "air.throttle.area",
  "air.throttle.speed",
  "air.pedal.half",
];

/** Every hose to where the matching puts it. */
function place(): void {
  const patch = consumers.value.flatMap((c, i): Operation[] => {
    const goes = air.value.hoses[i]?.proposed ?? null;
    if ((c.port ?? null) === goes) return [];
    return [goes ? { op: "add", path: `/air/consumers/${i}/port`, value: goes } : { op: "remove", path: `/air/consumers/${i}/port` }];
  });
  const caps = air.value.spare_ports.map((name): Operation => ({ op: "add", path: `/air/ports/${escape(name)}/capped`, value: true }));
  void store.edit([...patch, ...caps], "Every hose to where it belongs, the rest capped");
}
const misplaced = computed(() => air.value.hoses.some((h) => h.proposed !== h.now) || air.value.spare_ports.length > 0);
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="air">
    <template #overview>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="air.throttle.drop.full" label="Lost in the throttle body" :severity="throttle" />
        <RulingFigure figure="air.pedal.full" label="Open at full pedal" :severity="pedal" />
        <RulingFigure figure="air.ports.open" label="Ports left open" :severity="hoses" />
      </div>
      <div class="grid items-start gap-x-6 lg:grid-cols-2">
        <PedalFeel v-if="given.throttle && air.feel.length" :air="air" :closed-deg="si('throttle/closed')" :bore="si('throttle/bore')" />
        <HoseMatching v-if="air.hoses.length" :air="air" :ports="ports" />
      </div>
      <p v-if="!given.throttle && !given.linkage && !air.hoses.length" class="py-4 text-soft">
        Nothing of the air side is described yet. Start with the throttle body, then list every port and every hose.
      </p>
      <AllFigures :names="FIGURES" />
    </template>

    <template #body-fields>
      <FieldGroup
        group="body"
        at="/air/throttle"
        measurable
        note="Old carburettor off: catch fuel, plug the manifold with a rag, take it out again."
      >
        <OptionalPart at="/air/throttle" add="Describe the throttle body" :fresh="THROTTLE">
          <Field class="col-span-2" at="/air/throttle/name" />
          <Field
            v-for="k in ['bores', 'bore', 'shaft', 'closed', 'flow', 'rated_drop', 'second_shaft']"
            :key="k"
            :at="`/air/throttle/${k}`"
          />
        </OptionalPart>
      </FieldGroup>
      <FieldGroup group="height" at="/air/height" measurable>
        <MoreFields summary="Does it fit under the bonnet?" :fields="HEIGHT" />
      </FieldGroup>
    </template>
    <template #body>
      <PedalFeel v-if="given.throttle && air.feel.length" :air="air" :closed-deg="si('throttle/closed')" :bore="si('throttle/bore')" />
      <p v-else class="py-4 text-soft">With bores and closed angle measured, the pedal can be pressed here.</p>
      <AllFigures :names="['air.need', 'air.throttle.loss.full', 'air.throttle.area', 'air.throttle.speed', 'air.pedal.half']" />
    </template>

    <template #linkage-fields>
      <FieldGroup
        v-if="!given.by_wire"
        group="linkage"
        at="/air/linkage"
        measurable
        note="Engine off, key out, while a hand is in it. Full travel by hand and by the pedal, bonnet shut."
      >
        <OptionalPart at="/air/linkage" add="Describe pedal and linkage">
          <Field v-for="k in LINKAGE_FIELDS" :key="k" :at="`/air/linkage/${k}`" />
        </OptionalPart>
      </FieldGroup>
      <ByWireFields />
    </template>
    <template #linkage>
      <LinkageDrawing
        v-if="given.linkage && !given.by_wire && air.plate_deg != null"
        :air="air"
        :lever="si('linkage/lever')"
        :travel="si('linkage/pedal_travel')"
        :ratio="si('linkage/pedal_ratio')"
        :needed-deg="si('linkage/needed')"
      />
      <p v-else-if="given.by_wire" class="py-4 text-soft">No cable: the plate follows a motor, and its two tracks tell where it is.</p>
      <p v-else class="py-4 text-soft">With travel, lever and ratio measured, the linkage is drawn here to scale.</p>
    </template>

    <template #hoses-fields><HosesBench :air="air" :ports="ports" /></template>
    <template #hoses>
      <template v-if="air.hoses.length">
        <HoseMatching :air="air" :ports="ports" />
        <p class="no-print mt-2">
          <button type="button" class="btn btn-small" :disabled="store.readOnly || !misplaced" @click="place">
            Put every hose where it belongs, cap the rest
          </button>
        </p>
      </template>
      <p v-else class="py-4 text-soft">List every port and every hose: which goes where is drawn here.</p>
    </template>

    <template #sealed-fields>
      <FieldGroup v-if="consumers.length" group="balance" :at="['/air/balance', '/air/manifolds', '/air/reservoir', '/air/booster']">
        <Field v-for="k in ['balance', 'manifolds', 'reservoir', 'booster']" :key="k" :at="`/air/${k}`" />
      </FieldGroup>
      <FieldGroup
        group="openings"
        :at="['/air/left_in', '/air/blanked']"
        note="Before the body goes on for good: a lamp into every port, and count what was put in."
      >
        <Field at="/air/left_in" /><Field at="/air/blanked" />
      </FieldGroup>
    </template>
    <template #sealed><CrankcaseDrawing v-if="air.hoses.length" :air="air" :ports="ports" /></template>

    <template #papers>
      <p class="mt-3 flex flex-wrap gap-2">
        <PaperLink name="hose-tags.pdf">Tags for the hoses, PDF</PaperLink>
        <PaperLink name="sheets/air.pdf">Air sheet, PDF</PaperLink>
      </p>
    </template>
  </StationFrame>
</template>
