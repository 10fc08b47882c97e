<script setup lang="ts">
// Every port of body, manifold and air box, and every hose: where it goes, where it was, how it looked.
import { IconPlus } from "@tabler/icons-vue";
import { computed, ref } from "vue";
import type { Operation, Stages } from "@/api/types";
import FieldGroup from "@/parts/FieldGroup.vue";
import EntryList, { type Entry } from "@/parts/EntryList.vue";
import PhotoStrip from "@/parts/PhotoStrip.vue";
import { useBuild } from "@/stores/build";
import { escape } from "@/stores/pointer";
import { CONSUMERS, type Port } from "./ports";

const props = defineProps<{ air: Stages["air"]; ports: Record<string, Port> }>();
const store = useBuild();
const consumers = computed(() => store.build!.air?.consumers ?? []);
const portEntries = computed<Entry[]>(() =>
  Object.entries(props.ports).map(([name, p]) => {
    const open = props.air.open_ports.includes(name);
    return {
      token: name,
      title: name,
      note: `${p.source?.replace(/_/g, " ") ?? "source not noted"}, ${p.bore ?? "bore not measured"}${p.capped ? ", capped" : open ? ", open" : ""}`,
      bad: open,
      out: "No such port",
    };
  }),
);
/** The first that is wrong stands open: all at once would push the others away. */
const firstWrong = computed(() => consumers.value.findIndex((_, i) => props.air.hoses[i]?.wrong));
const hoseEntries = computed<Entry[]>(() =>
  consumers.value.map((c, i) => {
    const wrong = !!props.air.hoses[i]?.wrong;
    return {
      token: i,
      title: CONSUMERS[c.kind]!,
      note: c.port ?? "left off",
      bad: wrong,
      open: i === firstWrong.value,
      out: "This car has none",
    };
  }),
);
const portName = ref("");
const taken = computed(() => portName.value.trim() in props.ports);
function addPort(): void {
  void store.edit([{ op: "add", path: `/air/ports/${escape(portName.value.trim())}`, value: {} }]);
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
</script>

<template>
  <div>
    <FieldGroup group="ports" at="/air/ports" note="Every port of the new body, manifold and air box. An open port is a leak.">
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
    </FieldGroup>
    <FieldGroup group="hoses" at="/air/consumers" note="Label each before the carburettor comes off: where it was, what it fed.">
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
    </FieldGroup>
  </div>
</template>
