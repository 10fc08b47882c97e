<script setup lang="ts">
// Branches by string; the one that is pressed with its ends, and what can be done to it; places by name; parts that sit elsewhere.
import { IconPlus } from "@tabler/icons-vue";
import { computed } from "vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import type { Operation, Stages } from "@/api/types";
import { choice } from "@/figures/format";
import { useBuild } from "@/stores/build";

const props = defineProps<{ wiring: Stages["wiring"] }>();
const looked = defineModel<string | null>({ required: true });
const store = useBuild();
const branches = computed(() => props.wiring.branches);
const branch = computed(() => branches.value.find((b) => b.key === looked.value) ?? null);
const nodes = computed(() => props.wiring.nodes);
const name = (key: string) => nodes.value.find((n) => n.key === key)?.name ?? choice(key);
const assumed = (path: string): Operation => ({ op: "add", path: `/marks/${path.replaceAll("/", "~1")}`, value: { kind: "assumed" } });
/** A place on the pressed branch, half way: what was one branch is two, each of half its length until a string says otherwise. */
function split(): void {
  const b = branch.value;
  if (!b) return;
  let i = 1;
  while (nodes.value.some((n) => n.key === `place_${i}`)) i++;
  const [place, rest] = [`place_${i}`, `place_${i}_${b.end}`];
  const [p, q] = [nodes.value.find((n) => n.key === b.start)!, nodes.value.find((n) => n.key === b.end)!];
  const half = `${(b.length_m / 2).toFixed(2)} m`;
  const at = `/wiring/branches/${b.key}`;
  void store.edit([
    {
      op: "add",
      path: `/wiring/nodes/${place}`,
      value: { name: `Place ${i}`, x: +((p.x_m + q.x_m) / 2).toFixed(2), y: +((p.y_m + q.y_m) / 2).toFixed(2) },
    },
    { op: "add", path: `/wiring/branches/${rest}`, value: { start: place, end: b.end, length: half, zone: b.zone } },
    { op: "replace", path: `${at}/end`, value: place },
    { op: "replace", path: `${at}/length`, value: half },
    assumed(`/wiring/branches/${rest}/length`),
    assumed(`${at}/length`),
  ]);
}
/** Places that were put in by hand, at a branch's end and on no other branch: those go with their branch; with two branches they are joined again. */
const extra = computed(() => nodes.value.filter((n) => n.key.startsWith("place_")));
function join(place: string): void {
  const there = branches.value.filter((b) => b.start === place || b.end === place);
  const [a, b] = there;
  if (!a) return;
  if (!b) {
    void store.edit([
      { op: "remove", path: `/wiring/branches/${a.key}` },
      { op: "remove", path: `/wiring/nodes/${place}` },
    ]);
    return;
  }
  const far = b.start === place ? b.end : b.start;
  const near = a.start === place ? "start" : "end";
  void store.edit([
    { op: "remove", path: `/wiring/branches/${b.key}` },
    { op: "replace", path: `/wiring/branches/${a.key}/${near}`, value: far },
    { op: "replace", path: `/wiring/branches/${a.key}/length`, value: `${(a.length_m + b.length_m).toFixed(2)} m` },
    { op: "remove", path: `/wiring/nodes/${place}` },
  ]);
}
const sits = computed<Record<string, string>>(() => store.build!.wiring.sits ?? {});
/** Parts that may sit elsewhere: what wires end on, but for what has a place of its own. */
const FIXED = /^(unit|battery|fuse|head|body|own_.*)$/;
const parts = computed(() =>
  [...new Set(props.wiring.wires.flatMap((w) => [w.start, w.end]).map((t) => t.split(".")[0]!))]
    .filter((p) => !FIXED.test(p) && !(p in sits.value))
    .sort(),
);
const seat = (part: string, place: string | undefined) => store.set(`/wiring/sits/${part}`, place);
const picked = (event: Event) => (event.target as HTMLSelectElement).value;
function add(event: Event): void {
  const part = picked(event);
  if (part) void seat(part, "panel");
  (event.target as HTMLSelectElement).value = "";
}
</script>

<template>
  <FieldGroup
    group="branches"
    at="/wiring/branches"
    measurable
    note="Press a branch to see what runs in it. On the drawing drag a place, or the bend of the branch that is pressed."
  >
    <div class="col-span-2 flex flex-col gap-1.5">
      <div v-for="b in branches" :key="b.key" class="grid grid-cols-[1fr_5.5rem_8rem] items-center gap-2">
        <button
          type="button"
          class="min-h-9 text-left text-[0.9rem] leading-tight underline decoration-line underline-offset-2"
          :class="{ 'font-semibold': looked === b.key }"
          :aria-pressed="looked === b.key"
          @click="looked = looked === b.key ? null : b.key"
        >
          {{ name(b.start) }} to {{ name(b.end) }}
        </button>
        <Field :at="`/wiring/branches/${b.key}/length`" bare :label="`Length, ${b.start} to ${b.end}`" /><Field
          :at="`/wiring/branches/${b.key}/zone`"
          bare
          :label="`Zone, ${b.start} to ${b.end}`"
        />
      </div>
    </div>
    <button v-if="branch" type="button" class="btn btn-small col-span-2 justify-self-start" :disabled="store.readOnly" @click="split">
      <IconPlus :size="15" aria-hidden="true" /> A place on {{ name(branch.start) }} to {{ name(branch.end) }}
    </button>
  </FieldGroup>
  <FieldGroup group="places" :at="['/wiring/nodes', '/wiring/sits']" note="Places of your own, and parts that sit elsewhere than is usual.">
    <div v-for="n in extra" :key="n.key" class="col-span-2 grid grid-cols-[1fr_auto] items-end gap-2">
      <Field :at="`/wiring/nodes/${n.key}/name`" label="Place" />
      <button type="button" class="btn" :disabled="store.readOnly" @click="join(n.key)">Take out</button>
    </div>
    <div v-for="(place, part) in sits" :key="part" class="col-span-2 grid grid-cols-[1fr_1fr_auto] items-center gap-2">
      <span class="first-letter:uppercase">{{ choice(String(part)) }}</span>
      <select
        :id="`f/wiring/sits/${part}`"
        class="h-11 w-full border border-line bg-sheet px-2"
        :value="place"
        :aria-label="`${choice(String(part))} sits at`"
        :disabled="store.readOnly"
        @change="seat(String(part), picked($event))"
      >
        <option v-for="n in nodes" :key="n.key" :value="n.key">{{ n.name }}</option>
      </select>
      <button type="button" class="btn" :disabled="store.readOnly" @click="seat(String(part), undefined)">As usual</button>
    </div>
    <select
      class="col-span-2 h-11 w-full border border-line bg-sheet px-2"
      aria-label="A part that sits elsewhere"
      :disabled="store.readOnly"
      @change="add"
    >
      <option value="">A part that sits elsewhere …</option>
      <option v-for="p in parts" :key="p" :value="p">{{ choice(p) }}</option>
    </select>
  </FieldGroup>
</template>
