<script setup lang="ts">
// The path from tank to rail and back: every part a row in the order in which fuel meets it. A row opens to its fields; its menu moves it.
import { Menu, MenuButton, MenuItem, MenuItems } from "@headlessui/vue";
import { IconArrowRight, IconChevronDown, IconDots } from "@tabler/icons-vue";
import { computed, nextTick, ref, watch } from "vue";
import { RouterLink, useRoute } from "vue-router";
import SeverityMark from "@/parts/SeverityMark.vue";
import { choice, written } from "@/figures/format";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import { within } from "@/stores/pointer";
import { brief, FIXED, heading, KINDS, moved, partsOf, putAfter, rowOf, takenOut, type Kind, type Parts } from "./path";
import PartFields from "./PartFields.vue";
import PathMarker from "./PathMarker.vue";

const store = useBuild();
const route = useRoute();
const { severities, atRest } = useCatalogue();
const fuel = computed(() => store.build!.fuel);
/** The path and its parts as last changed, stored or not yet: quick presses follow one another. */
const path = computed(() => store.at("/fuel/path") as string[]);
const parts = computed(
  () =>
    ({
      ...partsOf(store.build!),
      ...Object.fromEntries(path.value.map((name) => [name, partAt(name)]).filter(([, part]) => part)),
    }) as Parts,
);
const partAt = (name: string) => store.at(`/fuel/parts/${name}`);
const list = ref<HTMLElement | null>(null);
/** The pump's feed as fitted, in a word. */
const pumpWire = computed(() => String(store.at("/wiring/fitted/pump_feed/size") ?? "as proposed"));

interface Row {
  key: string;
  name: string;
  at: string | null;
  title: string;
  told: string;
  marker: string;
}
/** What stands in a row. The tank at the end is a row of its own: there the return enters. */
const rows = computed<Row[]>(() =>
  path.value.map((name, i) => {
    const end = i > 0 && i === path.value.length - 1 && (name === "tank" || name === "surge_tank");
    const part = parts.value[name];
    return {
      key: end ? "end" : name,
      name,
      at: end ? (name === "tank" ? "/fuel/tank/return_enters" : null) : part ? `/fuel/parts/${name}` : name === "rail" ? null : name === "surge_tank" ? "/fuel/lift" : `/fuel/${name}`,
      title: end ? `Back into the ${name === "tank" ? "tank" : "surge tank"}` : heading(name),
      told: end ? (name === "tank" ? choice(fuel.value.tank?.return_enters ?? "below_fuel") : "") : written(told(name)),
      marker: part ? part.kind : "place",
    };
  }),
); // prettier-ignore
function told(name: string): string {
  const f = fuel.value;
  const part = parts.value[name];
  if (part) return brief(part, store.si(`/fuel/parts/${name}/rise`) ?? 0);
  if (name === "tank") return f.tank ? `${f.tank.volume}, ${f.tank.hottest} at the hottest` : "";
  if (name === "lift") return f.lift ? `${f.lift.name}, ${f.lift.flow}` : "";
  if (name === "surge_tank") return f.lift ? `${f.lift.usable} usable` : "";
  if (name === "pump") return `${f.pump.name}, ${choice(f.pump.place).toLowerCase()}, wire ${pumpWire.value}`;
  if (name === "regulator") return `${f.regulator.set_pressure}, sees the ${choice(f.regulator.reference)}`;
  return "the gauge goes here";
}

/** Places that have a bench of their own: their row leads there. */
const BENCHES: Record<string, string> = { tank: "tank", lift: "tank", surge_tank: "tank", pump: "pump", regulator: "regulator" };
const leads = (row: Row) => (row.key === "end" ? "regulator" : BENCHES[row.name]);
const shown = ref(new Set<string>());
const isOpen = (key: string) => shown.value.has(key);
function toggle(key: string, open = !isOpen(key)): void {
  const next = new Set(shown.value);
  if (open) next.add(key);
  else next.delete(key);
  shown.value = next;
}
/** "Take me there" leads to a field: its row has to be open before the page looks for it. */
watch(
  () => route.hash,
  (hash) => {
    const row = rowOf(decodeURIComponent(hash).replace(/^#f/, ""));
    if (row) toggle(row, true);
  },
  { immediate: true },
);

const inPencil = (row: Row) =>
  row.at !== null &&
  (store.pencil(row.at) !== null || Object.keys(store.marks).some((m) => store.marks[m]!.kind === "assumed" && within(m, row.at!)));
const findings = computed(() => store.findings("fuel").filter((f) => !atRest(f.severity)));
/** The worst that is said about anything entered in a row. */
const worst = (row: Row) => severities.value.find((s) => findings.value.some((f) => f.severity === s && rowOf(f.at) === row.key));
const problem = computed(
  () => Object.entries(store.problems).find(([at]) => at === "/fuel/path" || /^\/fuel\/parts\/[^/]+$/.test(at))?.[1],
);

const canMove = (i: number, by: -1 | 1) => {
  const to = path.value[i + by];
  return i > 0 && to !== undefined && !(i + by === 0) && rows.value[i + by]?.key !== "end" && rows.value[i]?.key !== "end";
};
async function put(i: number, kind: Kind): Promise<void> {
  const { name, patch } = putAfter(path.value, parts.value, i, kind);
  await store.edit(patch);
  if (!parts.value[name]) return;
  toggle(name, true);
  await nextTick();
  list.value?.querySelector<HTMLElement>(`[data-row="${name}"] button`)?.focus();
}
const TAKE_OUT = "Take it out";
/** What the menu of a row offers. */
const actions = (row: Row, i: number): { word: string; apart: boolean; run: () => Promise<void> }[] => [
  ...KINDS.map((k) => ({ word: `${k.word} after this`, apart: false, run: () => put(i, k.kind) })),
  ...([-1, 1] as const)
    .filter((by) => canMove(i, by))
    .map((by) => ({ word: `Move ${by < 0 ? "earlier" : "later"}`, apart: true, run: () => store.edit(moved(path.value, i, by)) })),
  ...(FIXED.includes(row.name) ? [] : [{ word: TAKE_OUT, apart: true, run: () => store.edit(takenOut(path.value, row.name)) }]),
];
const all = () => (shown.value = shown.value.size ? new Set() : new Set(rows.value.filter((r) => !leads(r)).map((r) => r.key)));
</script>

<template>
  <section id="f/fuel/path" tabindex="-1" aria-label="The path of the fuel">
    <div class="flex min-h-9 items-center justify-between border-t border-ink pt-1">
      <h2 class="text-[1.05rem]">The fuel's path</h2>
      <button type="button" class="btn btn-small btn-plain underline" @click="all">{{ shown.size ? "Close all" : "Open all" }}</button>
    </div>
    <p class="mb-2 text-[0.85rem] text-soft">
      In the order in which fuel meets it. Depressurise and disconnect the battery before you open a line; outdoors, extinguisher within
      reach.
    </p>
    <p v-if="problem" class="mb-2 text-[0.9rem] text-spark" role="alert">{{ problem }}</p>
    <ol ref="list" class="relative">
      <li
        v-for="(row, i) in rows"
        :id="row.at && !leads(row) ? `f${row.at}` : undefined"
        :key="row.key"
        :data-row="row.key"
        class="relative pl-6"
      >
        <span v-if="i < rows.length - 1" class="absolute top-5 bottom-[-1.25rem] left-[0.6rem] w-[2px] bg-line" aria-hidden="true"></span>
        <PathMarker :marker="row.marker" />
        <div class="flex items-center gap-1">
          <component
            :is="leads(row) ? RouterLink : 'button'"
            v-bind="
              leads(row)
                ? { to: { path: `/b/${store.id}/fuel/${leads(row)}`, query: route.query } }
                : { type: 'button', 'aria-expanded': isOpen(row.key), disabled: !row.at, onClick: () => toggle(row.key) }
            "
            class="flex min-h-11 min-w-0 flex-1 items-center gap-2 py-1 text-left"
          >
            <span class="min-w-0 flex-1 leading-tight">
              <span class="font-semibold">{{ row.title }}</span>
              <span class="block truncate text-[0.86rem] text-soft" :class="{ 'text-info italic': inPencil(row) }"
                >{{ row.told }}<span v-if="inPencil(row)" class="sr-only">, in pencil</span></span
              >
            </span>
            <SeverityMark v-if="worst(row)" :severity="worst(row)!" :size="16" />
            <IconArrowRight v-if="leads(row)" :size="17" aria-hidden="true" class="shrink-0" />
            <IconChevronDown
              v-else-if="row.at"
              :size="17"
              aria-hidden="true"
              class="shrink-0 transition-transform"
              :class="{ 'rotate-180': isOpen(row.key) }"
            />
          </component>
          <Menu v-if="row.key !== 'end'" as="div" class="no-print relative">
            <MenuButton class="btn btn-small btn-plain !px-2" :disabled="store.readOnly" :aria-label="`Move or add at ${row.title}`"
              ><IconDots :size="17" aria-hidden="true"
            /></MenuButton>
            <MenuItems class="absolute right-0 z-30 w-64 border border-ink bg-sheet py-1 shadow-md focus:outline-none">
              <MenuItem v-for="a in actions(row, i)" :key="a.word" v-slot="{ active }" as="template">
                <button
                  type="button"
                  class="block min-h-10 w-full border-hair px-3 text-left"
                  :class="{ 'bg-well': active, 'border-t': a.apart, 'text-spark': a.word === TAKE_OUT }"
                  @click="a.run"
                >
                  {{ a.word }}
                </button>
              </MenuItem>
            </MenuItems>
          </Menu>
        </div>
        <PartFields v-if="isOpen(row.key) && row.at && !leads(row)" :name="row.name" :at="row.at" class="pb-3" />
      </li>
    </ol>
  </section>
</template>
