<script setup lang="ts">
// Jump to any figure, field, wire, snag or station by typing a part of its name.
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions, Dialog, DialogPanel, DialogTitle } from "@headlessui/vue";
import { computed, ref, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import { get } from "@/stores/pointer";
import { FIELDS_OF, heading, partsOf } from "@/stations/fuel/path";
import { fieldsOf, SCREENS } from "./stations";

interface Goal {
  kind: string;
  name: string;
  more: string;
  station: string;
  hash: string;
}
const props = defineProps<{ open: boolean }>();
const emit = defineEmits<{ close: [] }>();
const store = useBuild();
const router = useRouter();
const route = useRoute();
const query = ref("");
const { stations, benchOf } = useCatalogue();
/** Everything can be found, so everything is asked for: all fields, and the wires. */
watch(
  () => props.open,
  (open) => {
    query.value = "";
    const screen = SCREENS.find((s) => s.key === route.meta.station);
    const needs = screen?.needs ?? [];
    void (open ? store.show([...needs, "wiring"], null) : store.show(needs, screen ? fieldsOf(screen) : []));
  },
);

const goals = computed<Goal[]>(() => {
  const plan = store.plan;
  if (!plan || !props.open) return [];
  const places = stations.value.map((s) => ({ kind: "station", name: s.title, more: s.asks, station: s.key, hash: "" }));
  const benches = stations.value.flatMap((s) =>
    s.benches.slice(1).flatMap((b) => [
      { kind: "bench", name: b.title, more: `${s.title}: ${b.asks}`, station: `${s.key}/${b.key}`, hash: "" },
      ...Object.entries(b.groups)
        .filter(([, name]) => name !== b.title)
        .map(([key, name]) => ({ kind: "bench", name, more: s.title, station: `${s.key}/${b.key}`, hash: `#b-${key}` })),
    ]),
  );
  const snags = plan.findings
    .filter((f) => !f.severity.startsWith("sound"))
    .map((f) => ({ kind: "snag", name: `${f.code} ${f.title}`, more: f.why, station: place(f.at), hash: `#f${f.at}` }));
  const fields = Object.entries(store.fields)
    .filter(
      ([at, f]) =>
        f.title && !["group", "list"].includes(f.kind) && !at.includes("*") && !at.startsWith("/marks") && at.split("/").length > 2,
    )
    .map(([at, f]) => ({
      kind: "field",
      name: `${section(at)}${f.title}`,
      more: String(get(store.build, at) ?? ""),
      station: place(at),
      hash: `#f${at}`,
    }));
  const parts = Object.entries(store.build ? partsOf(store.build) : {}).flatMap(([name, part]) =>
    FIELDS_OF[part.kind].map((key) => ({
      kind: "field",
      name: `${heading(name)}: ${store.info(`/fuel/parts/${name}/${key}`)?.title ?? key}`,
      more: String(get(part, `/${key}`) ?? ""),
      station: "fuel/path",
      hash: `#f/fuel/parts/${name}/${key}`,
    })),
  );
  const figures = Object.entries(plan.figures).map(([name, f]) => ({
    kind: "figure", name: f.label, more: `${f.shown}, ${name}`, station: f.station, hash: `#g-${name}`,
  })); // prettier-ignore
  const wires = (store.stages.wiring?.wires ?? []).map((w) => ({
    kind: "wire",
    name: w.label,
    more: `${w.starts_at} to ${w.ends_at}, ${w.colour}`,
    station: "wiring/wires",
    hash: `#w-${w.key}`,
  }));
  return [...places, ...benches, ...snags, ...fields, ...parts, ...figures, ...wires];
});
function place(pointer: string): string {
  const { station, bench } = benchOf(pointer);
  return `${station}/${bench}`;
}
const section = (pointer: string) => {
  const above = store.fields[pointer.slice(0, pointer.lastIndexOf("/"))]?.title;
  return above && pointer.split("/").length > 3 ? `${above}: ` : "";
};
const found = computed(() => {
  const words = query.value.toLowerCase().split(/\s+/).filter(Boolean);
  const hit = (g: Goal) => words.every((w) => `${g.kind} ${g.name} ${g.more}`.toLowerCase().includes(w));
  const inName = (g: Goal) => (words.length && words.every((w) => g.name.toLowerCase().includes(w)) ? 0 : 1);
  return goals.value
    .filter(hit)
    .sort((a, b) => inName(a) - inName(b))
    .slice(0, 40);
});

function go(goal: Goal | null): void {
  if (!goal) return;
  emit("close");
  void router.push({ path: `/b/${String(route.params.id)}/${goal.station}`, query: route.query, hash: goal.hash });
}
</script>

<template>
  <Dialog :open="open" class="relative z-50" @close="emit('close')">
    <div class="fixed inset-0 bg-black/40" aria-hidden="true"></div>
    <div class="fixed inset-0 flex justify-center p-4 pt-[10vh]">
      <DialogPanel class="flex max-h-[75vh] w-full max-w-2xl flex-col self-start border-2 border-ink bg-sheet">
        <DialogTitle class="sr-only">Find a figure, field, wire or snag</DialogTitle>
        <Combobox :model-value="null" @update:model-value="go">
          <ComboboxInput
            class="h-14 w-full shrink-0 border-b border-line bg-sheet px-4 text-lg"
            placeholder="Find a figure, field, wire or snag"
            aria-label="Find a figure, field, wire or snag"
            autocomplete="off"
            @change="query = ($event.target as HTMLInputElement).value"
          />
          <ComboboxOptions static class="flex-1 overflow-auto py-1">
            <ComboboxOption v-for="g in found" :key="g.kind + g.name + g.hash + g.more" v-slot="{ active }" :value="g" as="template">
              <li class="flex min-h-11 cursor-pointer items-baseline gap-3 px-4 py-2" :class="active ? 'bg-ink text-on-ink' : ''">
                <span class="w-14 shrink-0 text-[0.8rem]" :class="active ? '' : 'text-soft'">{{ g.kind }}</span>
                <span class="shrink-0 font-semibold">{{ g.name }}</span>
                <span class="min-w-0 truncate text-[0.88rem]" :class="active ? '' : 'text-soft'">{{ g.more }}</span>
              </li>
            </ComboboxOption>
            <li v-if="!found.length" class="px-4 py-3 text-soft">Nothing by that name in this build.</li>
          </ComboboxOptions>
        </Combobox>
      </DialogPanel>
    </div>
  </Dialog>
</template>
