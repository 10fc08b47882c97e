<script setup lang="ts">
// A group of fields on a bench: its name, what belongs to it, and whether it is still in pencil.
import { IconPencilCheck, IconRuler2 } from "@tabler/icons-vue";
import { computed } from "vue";
import { useRoute } from "vue-router";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import { useSettings } from "@/stores/settings";
import { escape, within } from "@/stores/pointer";

/** `group` is its key in the station's record, where its title stands. */
const props = defineProps<{ group?: string; at?: string | string[]; note?: string; measurable?: boolean }>();
const store = useBuild();
const { group: named } = useCatalogue();
const route = useRoute();
const title = computed(() => (props.group ? named(String(route.meta.station), props.group) : ""));
const settings = useSettings();
const marks = computed(() => {
  const places = props.at ? [props.at].flat() : [];
  return Object.keys(store.marks).filter((m) => store.marks[m]!.kind === "assumed" && places.some((p) => within(m, p) || within(p, m)));
});
/** Operations that take the pencil off everything here. */
const off = computed(() =>
  marks.value
    .filter((m) => [props.at].flat().some((p) => within(m, p!)))
    .map((m) => ({ op: "remove" as const, path: `/marks/${escape(m)}` })),
);
/** Usual values that stand here for what was left empty. */
const usual = computed(() => {
  const places = props.at ? [props.at].flat() : [];
  return [...store.usual].filter((u) => places.some((p) => within(u, p)));
});
const inPencil = computed(() => [...marks.value, ...usual.value]);
const acceptAll = () => store.acceptAll(inPencil.value);
/** Ink with a name and a date: somebody took this reading. */
function measured(): void {
  const value = { kind: "measured", by: settings.who || "not signed", when: new Date().toISOString().slice(0, 10) };
  void store.edit([...off.value, { op: "add", path: `/marks/${escape(String(props.at))}`, value }]);
}
/** Somebody typed something here: before that there is nothing that was measured. */
const typed = computed(() => {
  const at = props.at;
  if (typeof at !== "string") return false;
  return Object.keys(store.read).some((p) => within(p, at) && !store.pencil(p));
});
const canMeasure = computed(() => props.measurable && typed.value && !store.story(String(props.at)));
</script>

<template>
  <section :id="group ? `b-${group}` : undefined" class="break-inside-avoid pt-2 pb-4" :class="{ 'border-t border-ink': title }">
    <div v-if="title || inPencil.length || canMeasure" class="mb-1.5 flex min-h-9 flex-wrap items-center justify-between gap-x-3">
      <h2 v-if="title" class="text-[1.05rem]">{{ title }}</h2>
      <button
        v-if="inPencil.length"
        type="button"
        class="btn btn-small btn-plain text-info italic"
        :disabled="store.readOnly"
        :title="`Assumed: ${[...new Set(inPencil.map(store.label))].join(', ')}`"
        @click="acceptAll"
      >
        <IconPencilCheck :size="16" aria-hidden="true" /> in pencil, accept
      </button>
      <button v-if="canMeasure" type="button" class="btn btn-small btn-plain no-print" :disabled="store.readOnly" @click="measured">
        <IconRuler2 :size="16" aria-hidden="true" /> measured today
      </button>
    </div>
    <p v-if="typeof at === 'string' && store.story(at)" class="mb-1 text-[0.85rem]">{{ store.story(at) }}</p>
    <p v-if="note" class="mb-2 text-[0.85rem] text-soft">{{ note }}</p>
    <div class="grid grid-cols-2 gap-x-3 gap-y-2.5"><slot /></div>
  </section>
</template>
