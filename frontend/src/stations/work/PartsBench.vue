<script setup lang="ts">
// The list of parts: what is to be ordered by supplier, what is on its way, what is here; many ordered with one press; in and out as a table.
import { IconPlus } from "@tabler/icons-vue";
import { computed, ref } from "vue";
import { useRoute } from "vue-router";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import { type PartRow as Part } from "./asks";
import { short } from "./days";
import { slugged } from "./keys";
import PartRow from "./PartRow.vue";
import PartsFiles from "./PartsFiles.vue";
import { useSeen, useWork } from "./useWork";

type Show = "order" | "coming" | "here" | "all";
const { store, work, today } = useWork();
const { seen } = useSeen();
const route = useRoute();
const show = ref<Show>(route.hash.startsWith("#f/work/") ? "all" : "order");
const SHOWS: { key: Show; word: string }[] = [
  { key: "order", word: "To order" },
  { key: "coming", word: "On its way" },
  { key: "here", word: "Here" },
  { key: "all", word: "All" },
];
const STATES: Record<Show, string[]> = { order: ["to_order"], coming: ["ordered"], here: ["have", "arrived", "fitted"], all: [] };
const counted = (key: Show) => work.value.parts.filter((p) => !STATES[key].length || STATES[key].includes(p.state)).length;
const find = ref("");
const shown = computed(() =>
  work.value.parts.filter(
    (p) =>
      (!STATES[show.value].length || STATES[show.value].includes(p.state)) &&
      `${p.what} ${p.spec} ${p.supplier}`.toLowerCase().includes(find.value.trim().toLowerCase()),
  ),
);
const by = computed(() => new Map((seen.value?.plan.parts ?? []).map((p) => [p.key, p])));
const lists = computed(() => {
  const found = new Map<string, Part[]>();
  for (const p of shown.value) {
    const name = show.value === "all" || show.value === "here" ? p.group : p.supplier;
    found.set(name, [...(found.get(name) ?? []), p]);
  }
  const press = (rows: Part[]) => rows.map((p) => by.value.get(p.key)?.order_by || "9").sort()[0]!;
  return [...found]
    .map(([name, rows]) => ({
      name,
      rows: [...rows].sort((a, b) => (by.value.get(a.key)?.order_by || "9").localeCompare(by.value.get(b.key)?.order_by || "9")),
      press: press(rows),
    }))
    .sort((a, b) => (show.value === "order" ? a.press.localeCompare(b.press) : a.name.localeCompare(b.name)));
});
const GROUPS: Record<string, string> = { wire: "Wire, terminals, fuses", unit: "Control unit", own: "Your own", tools: "Tools" };
const title = (name: string) =>
  show.value === "all" || show.value === "here" ? (GROUPS[name] ?? name[0]!.toUpperCase() + name.slice(1)) : name || "No supplier named";
/** Lists that are shown whole; the others with what presses most. */
const SHOWN = computed(() => (show.value === "order" || show.value === "coming" ? 5 : 3));
const whole = ref(new Set<string>());
const turn = (name: string) => void (whole.value.delete(name) || whole.value.add(name));
const asked = computed(() => find.value.trim() !== "" || route.hash.startsWith("#f/work/"));
const supplier = ref("");
/** Each line of a list as one edit, with what stood there. */
function each(rows: Part[], change: (p: Part) => Record<string, unknown>): void {
  void store.edit(
    rows.map((p) => ({ op: "add", path: p.entered_at, value: { ...(store.at(p.entered_at) as object | undefined), ...change(p) } })),
  );
}
const ordered = (rows: Part[]) => each(rows, (p) => ({ state: "ordered", ordered: today.value, bought_as: p.own ? "" : p.what }));
const arrived = (rows: Part[]) => each(rows, () => ({ state: "arrived" }));
function name(rows: Part[]): void {
  const told = supplier.value.trim();
  if (told) each(rows, () => ({ supplier: told }));
  supplier.value = "";
}
const what = ref("");
function add(): void {
  const told = what.value.trim();
  if (!told) return;
  what.value = "";
  show.value = "order";
  void store.edit([
    { op: "add", path: `/work/lines/${slugged(told, new Set(work.value.parts.map((p) => p.key)))}`, value: { what: told } },
  ]);
}
</script>

<template>
  <div class="flex flex-wrap items-end justify-between gap-x-4">
    <ChoiceBar v-model="show" label="Which lines" :options="SHOWS.map((o) => ({ ...o, word: `${o.word} ${counted(o.key)}` }))" />
    <label class="mt-2"
      ><span class="sr-only">Find a part</span
      ><input
        v-model="find"
        type="search"
        placeholder="Find a part"
        class="h-11 w-36 border border-line bg-sheet px-2 placeholder:text-soft"
    /></label>
  </div>
  <p v-if="!shown.length" class="mt-4 text-soft">
    {{
      find
        ? "No line has these words."
        : show === "order"
          ? "Nothing is left to order."
          : show === "coming"
            ? "Nothing is on its way."
            : "Nothing yet."
    }}
  </p>
  <div class="mt-2 grid gap-x-8 lg:grid-cols-2 lg:items-start">
    <section v-for="list in lists" :key="list.name" class="mt-3 min-w-0" :aria-label="title(list.name)">
      <div class="flex flex-wrap items-center justify-between gap-2">
        <h2 class="text-[1.1rem]">
          {{ title(list.name) }} <span class="num text-[0.9rem] font-normal text-soft">{{ list.rows.length }}</span>
          <span
            v-if="show === 'order' && list.press !== '9'"
            class="ml-2 text-[0.88rem] font-normal"
            :class="list.press < today ? 'text-spark' : 'text-soft'"
            >{{ list.press <= today ? "order today" : `order by ${short(list.press)}` }}</span
          >
        </h2>
        <span class="no-print flex flex-wrap gap-2">
          <button v-if="show === 'order'" type="button" class="btn btn-small" :disabled="store.readOnly" @click="ordered(list.rows)">
            Ordered today
          </button>
          <button v-if="show === 'coming'" type="button" class="btn btn-small" :disabled="store.readOnly" @click="arrived(list.rows)">
            All here
          </button>
        </span>
      </div>
      <form v-if="show === 'order' && !list.name" class="no-print mt-1 flex gap-2" @submit.prevent="name(list.rows)">
        <label class="min-w-0 flex-1"
          ><span class="sr-only">One supplier for all of these</span
          ><input
            v-model="supplier"
            maxlength="80"
            placeholder="One supplier for all of these"
            class="h-11 w-full border border-line bg-sheet px-2 placeholder:text-soft"
        /></label>
        <button class="btn" :disabled="store.readOnly || !supplier.trim()">From there</button>
      </form>
      <PartRow
        v-for="p in whole.has(list.name) || asked ? list.rows : list.rows.slice(0, SHOWN)"
        :key="p.key"
        :part="p"
        :plan="by.get(p.key)"
      />
      <button
        v-if="list.rows.length > SHOWN && !asked"
        type="button"
        class="btn btn-small btn-plain no-print underline"
        @click="turn(list.name)"
      >
        {{ whole.has(list.name) ? "Fewer" : `All ${list.rows.length}` }}
      </button>
    </section>
  </div>
  <FieldGroup group="lines">
    <form class="col-span-2 flex gap-2" @submit.prevent="add">
      <label class="min-w-0 flex-1"
        ><span class="sr-only">What else is needed</span
        ><input
          v-model="what"
          maxlength="80"
          placeholder="What else is needed"
          class="h-11 w-full border border-line bg-sheet px-2 placeholder:text-soft"
      /></label>
      <button class="btn" :disabled="store.readOnly || !what.trim()"><IconPlus :size="16" aria-hidden="true" />Add it</button>
    </form>
    <PartsFiles />
  </FieldGroup>
</template>
