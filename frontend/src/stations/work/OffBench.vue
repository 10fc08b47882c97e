<script setup lang="ts">
// What comes off the car: photographed and labelled before it does, by its place on the car; where it goes back, what is missing; tags with a code that brings it back here.
import { IconPlus, IconPrinter, IconSearch } from "@tabler/icons-vue";
import { computed, ref } from "vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import { asks, type S } from "./asks";
import CarPlaces from "./CarPlaces.vue";
import { fresh } from "./keys";
import OffRow from "./OffRow.vue";
import { PLACES, type Place } from "./places";
import { useWork } from "./useWork";

type Off = S["TakenOff"];
const { store } = useWork();
const off = computed(() => Object.entries((store.build?.work?.off ?? {}) as Record<string, Off>).map(([code, x]) => ({ code, ...x })));
const place = ref<Place | "">("");
const find = ref("");
const shown = computed(() => {
  const words = find.value.trim().toLowerCase();
  return off.value.filter((x) =>
    words
      ? `${x.code} ${x.what} ${x.goes ?? ""} ${x.bag ?? ""} ${x.box ?? ""}`.toLowerCase().includes(words)
      : !place.value || (x.place ?? "not_noted") === place.value,
  );
});
const groups = computed(() =>
  [
    { title: "Missing", rows: shown.value.filter((x) => x.state === "missing") },
    { title: "Off the car", rows: shown.value.filter((x) => x.state === "off") },
    { title: "Still on, labelled", rows: shown.value.filter((x) => (x.state ?? "on") === "on") },
    { title: "Back, or replaced", rows: shown.value.filter((x) => ["back", "replaced"].includes(x.state ?? "")) },
  ].filter((g) => g.rows.length),
);
const counts = computed(() =>
  Object.fromEntries(
    PLACES.map((p) => [
      p.key,
      off.value.filter((x) => (x.place ?? "not_noted") === p.key && ["on", "off", "missing"].includes(x.state ?? "on")).length,
    ]),
  ),
);
/** The one that was labelled last stands open under the hand that did it. */
const last = ref("");
const what = ref("");
function add(): void {
  const told = what.value.trim();
  if (!told) return;
  what.value = "";
  const code = fresh(new Set(off.value.map((x) => x.code)));
  last.value = code;
  void store.edit([{ op: "add", path: `/work/off/${code}`, value: { what: told, place: place.value || "not_noted" } }]);
}
</script>

<template>
  <div class="grid gap-x-8 gap-y-3 lg:grid-cols-[22rem_minmax(0,1fr)] lg:items-start">
    <div class="min-w-0">
      <CarPlaces v-model="place" :counts="counts" />
      <a :href="asks.at(store.id, 'tags.pdf')" class="btn btn-small no-print mt-2"
        ><IconPrinter :size="16" aria-hidden="true" />Tags for all that is off</a
      >
    </div>
    <div class="min-w-0">
      <form class="no-print flex gap-2" @submit.prevent="add">
        <label class="min-w-0 flex-1"
          ><span class="sr-only">What comes off</span
          ><input
            v-model="what"
            maxlength="80"
            :placeholder="place ? `What comes off, ${PLACES.find((p) => p.key === place)!.word}` : 'What comes off'"
            class="h-12 w-full border border-ink bg-sheet px-2 text-[1.05rem] placeholder:text-soft"
        /></label>
        <button class="btn btn-main" :disabled="store.readOnly || !what.trim()"><IconPlus :size="18" aria-hidden="true" />Label it</button>
      </form>
      <label class="no-print mt-2 flex items-center gap-2"
        ><IconSearch :size="18" aria-hidden="true" /><span class="sr-only">Code on a tag, or words</span
        ><input
          v-model="find"
          type="search"
          maxlength="60"
          placeholder="Code on a tag, or words"
          autocapitalize="none"
          class="h-11 w-full border border-line bg-sheet px-2 placeholder:text-soft"
      /></label>
      <FieldGroup group="off">
        <div id="f/work/off" class="col-span-2 min-w-0" tabindex="-1">
          <p v-if="!off.length" class="text-soft">
            Nothing is labelled yet. One minute with a photograph before it comes off saves an evening in spring.
          </p>
          <p v-else-if="!shown.length" class="text-soft">{{ find ? "No tag has that code or these words." : "Nothing of that place." }}</p>
          <section v-for="g in groups" :key="g.title" class="mb-2" :aria-label="g.title">
            <h3 class="text-[0.98rem]" :class="{ 'text-spark': g.title === 'Missing' }">
              {{ g.title }} <span class="num font-normal text-soft">{{ g.rows.length }}</span>
            </h3>
            <OffRow v-for="x in g.rows" :key="x.code" :code="x.code" :thing="x" :fresh="x.code === last" />
          </section>
        </div>
      </FieldGroup>
    </div>
  </div>
</template>
