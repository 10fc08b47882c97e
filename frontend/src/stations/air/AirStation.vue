<script setup lang="ts">
import { IconPlus } from "@tabler/icons-vue";
import { computed, ref } from "vue";
import type { Operation } from "@/api/types";
import BenchGroup from "@/parts/BenchGroup.vue";
import EntryList, { type Entry } from "@/parts/EntryList.vue";
import Field from "@/parts/Field.vue";
import FigureList from "@/parts/FigureList.vue";
import OptionalPart from "@/parts/OptionalPart.vue";
import PhotoStrip from "@/parts/PhotoStrip.vue";
import PaperLink from "@/parts/PaperLink.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import { useBuild } from "@/stores/build";
import { escape } from "@/stores/pointer";
import CrankcaseDrawing from "./CrankcaseDrawing.vue";
import HoseMatching from "./HoseMatching.vue";
import LinkageDrawing from "./LinkageDrawing.vue";
import PedalFeel from "./PedalFeel.vue";
import { CONSUMERS } from "./ports";

interface Port {
  source: string;
  bore: string;
  capped?: boolean;
}
const store = useBuild();
const air = computed(() => store.plan!.stages.air);
const given = computed(() => store.build!.air ?? {});
const ports = computed(() => (given.value.ports ?? {}) as unknown as Record<string, Port>);
const consumers = computed(() => given.value.consumers ?? []);
const of = (code: string) => computed(() => store.findings("air").find((f) => f.code === code)?.severity);
const [throttle, pedal, hoses] = [of("AIR-01"), of("AIR-02"), of("AIR-04")];
const number = (text: unknown, otherwise: number) => Number.parseFloat(String(text ?? otherwise)) || otherwise;
const THROTTLE = { name: "throttle body", bores: 1, bore: "60 mm" };
const LINKAGE = { pedal_travel: "65 mm", pedal_ratio: "2:1", lever: "24 mm" };
const LINKAGE_FIELDS = [
  "pedal_travel",
  "pedal_ratio",
  "lever",
  "slack",
  "needed",
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
const shown = computed(() => FIGURES.filter((n) => store.plan?.figures[n]?.value != null));

const portEntries = computed<Entry[]>(() =>
  Object.entries(ports.value).map(([name, p]) => {
    const open = air.value.open_ports.includes(name);
    return {
      token: name,
      title: name,
      note: `${p.source.replace(/_/g, " ")}, ${p.bore}${p.capped ? ", capped" : open ? ", open" : ""}`,
      bad: open,
      out: "No such port",
    };
  }),
);
const hoseEntries = computed<Entry[]>(() =>
  consumers.value.map((c, i) => {
    const wrong = !!air.value.hoses[i]?.wrong;
    return { token: i, title: CONSUMERS[c.kind]!, note: c.port ?? "left off", bad: wrong, open: wrong, out: "This car has none" };
  }),
);
const portName = ref("");
const taken = computed(() => portName.value.trim() in ports.value);
function addPort(): void {
  void store.edit([{ op: "add", path: `/air/ports/${escape(portName.value.trim())}`, value: { source: "full_manifold", bore: "5 mm" } }]);
  portName.value = "";
}
/** A port goes, and hoses on it come off. */
function dropPort(name: string): void {
  const off: Operation[] = consumers.value.flatMap((c, i): Operation[] =>
    c.port === name ? [{ op: "remove", path: `/air/consumers/${i}/port` }] : [],
  );
  void store.edit([...off, { op: "remove", path: `/air/ports/${escape(name)}` }]);
}
const absent = computed(() => Object.keys(CONSUMERS).filter((k) => !consumers.value.some((c) => c.kind === k)));
const addConsumer = (kind: string) => store.edit([{ op: "add", path: "/air/consumers/-", value: { kind } }]);
const connect = (i: number, port: string) => store.set(`/air/consumers/${i}/port`, port || undefined);
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
    <template #bench>
      <BenchGroup
        title="Throttle body"
        at="/air/throttle"
        measurable
        note="Old carburettor off: catch fuel, plug the manifold with a rag, take it out again."
      >
        <OptionalPart at="/air/throttle" add="Describe the throttle body" :fresh="THROTTLE">
          <Field class="col-span-2" at="/air/throttle/name" />
          <Field v-for="k in ['bores', 'bore', 'shaft', 'closed', 'flow', 'rated_drop']" :key="k" :at="`/air/throttle/${k}`" />
        </OptionalPart>
      </BenchGroup>
      <BenchGroup
        title="Pedal and linkage"
        at="/air/linkage"
        measurable
        note="Engine off, key out, while a hand is in it. Full travel by hand and by the pedal, bonnet shut."
      >
        <OptionalPart at="/air/linkage" add="Describe pedal and linkage" :fresh="LINKAGE">
          <Field v-for="k in LINKAGE_FIELDS" :key="k" :at="`/air/linkage/${k}`" />
        </OptionalPart>
      </BenchGroup>
      <BenchGroup title="Ports" at="/air/ports" note="Every port of the new body, manifold and air box. An open port is a leak.">
        <EntryList
          at="/air/ports"
          :entries="portEntries"
          :fields="['source', 'bore', 'capped', 'central']"
          @out="(name) => dropPort(String(name))"
        >
          <template #under>
            <form class="mt-2 flex items-end gap-2" @submit.prevent="addPort">
              <label class="min-w-0 flex-1 text-[0.86rem] text-soft"
                >Name of a port<input
                  v-model="portName"
                  maxlength="40"
                  class="mt-0.5 h-11 w-full border border-line bg-sheet px-2 text-ink"
                  placeholder="plenum rear"
              /></label>
              <button
                type="submit"
                class="btn btn-small"
                :disabled="store.readOnly || !/^[A-Za-z0-9][A-Za-z0-9 _-]*$/.test(portName.trim()) || taken"
              >
                <IconPlus :size="15" aria-hidden="true" />Add port
              </button>
            </form>
            <p v-if="taken" class="text-[0.85rem] text-spark" role="alert">There is a port of that name.</p>
          </template>
        </EntryList>
      </BenchGroup>
      <BenchGroup title="Hoses" at="/air/consumers" note="Label each before the carburettor comes off: where it was, what it fed.">
        <EntryList
          at="/air/consumers"
          :entries="hoseEntries"
          :fields="['bore', 'was', 'check_valve']"
          @out="(i) => store.edit([{ op: 'remove', path: `/air/consumers/${i}` }])"
        >
          <template #before="{ i }">
            <label class="text-[0.86rem] text-soft"
              >Goes to port
              <select
                :id="`f/air/consumers/${i}/port`"
                class="mt-0.5 h-11 w-full border border-line bg-sheet px-2 text-ink"
                :disabled="store.readOnly"
                :value="consumers[i]?.port ?? ''"
                @change="connect(i, ($event.target as HTMLSelectElement).value)"
              >
                <option value="">left off</option>
                <option v-for="(p, name) in ports" :key="name" :value="name" :disabled="p.capped">{{ name }}</option>
              </select></label
            >
          </template>
          <template #after="{ i }"
            ><p v-if="air.hoses[i]?.wrong" class="col-span-2 text-[0.88rem] text-spark">{{ air.hoses[i]!.wrong }}</p>
            <PhotoStrip :at="`/air/consumers/${i}/photos`" :of="`the hose of the ${CONSUMERS[consumers[i]!.kind]}`"
          /></template>
          <template #under>
            <div class="mt-2 flex flex-wrap gap-1.5">
              <button v-for="k in absent" :key="k" type="button" class="btn btn-small" :disabled="store.readOnly" @click="addConsumer(k)">
                <IconPlus :size="15" aria-hidden="true" />{{ CONSUMERS[k] }}
              </button>
            </div>
          </template>
        </EntryList>
      </BenchGroup>
      <BenchGroup v-if="consumers.length" title="Balance and reservoir" :at="['/air/balance', '/air/reservoir', '/air/booster']">
        <Field v-for="k in ['balance', 'reservoir', 'booster']" :key="k" :at="`/air/${k}`" />
      </BenchGroup>
    </template>
    <template #reckoning>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="air.throttle.drop.full" label="Lost in the throttle body" :severity="throttle" />
        <RulingFigure figure="air.pedal.full" label="Open at full pedal" :severity="pedal" />
        <RulingFigure figure="air.ports.open" label="Ports left open" :severity="hoses" />
      </div>
      <PedalFeel
        v-if="given.throttle && air.feel.length"
        :air="air"
        :closed-deg="number(given.throttle.closed, 6)"
        :bore-mm="number(given.throttle.bore, 50)"
      />
      <LinkageDrawing
        v-if="given.linkage"
        :air="air"
        :lever-mm="number(given.linkage.lever, 24)"
        :travel-mm="number(given.linkage.pedal_travel, 60)"
        :ratio="number(given.linkage.pedal_ratio, 2)"
        :needed-deg="number(given.linkage.needed, 82)"
      />
      <template v-if="air.hoses.length">
        <HoseMatching :air="air" :ports="ports" />
        <p class="no-print mt-2 flex flex-wrap gap-2">
          <button type="button" class="btn btn-small" :disabled="store.readOnly || !misplaced" @click="place">
            Put every hose where it belongs, cap the rest
          </button>
          <PaperLink name="hose-tags.pdf">Tags for the hoses, PDF</PaperLink>
          <PaperLink name="sheets/air.pdf">Air sheet, PDF</PaperLink>
        </p>
        <CrankcaseDrawing :air="air" :ports="ports" />
      </template>
      <p v-if="!given.throttle && !given.linkage && !air.hoses.length" class="py-4 text-soft">
        Nothing of the air side is described yet. Start with the throttle body on the bench, then list every port and every hose.
      </p>
      <FigureList class="mt-3" :names="shown" />
    </template>
  </StationFrame>
</template>
