<script setup lang="ts">
// Wires of one's own, from any terminal to any other.
import { useQuery } from "@pinia/colada";
import { computed } from "vue";
import { api } from "@/api/client";
import FieldGroup from "@/parts/FieldGroup.vue";
import EntryList, { type Entry } from "@/parts/EntryList.vue";
import { useBuild } from "@/stores/build";

interface Added {
  label: string;
  start: string;
  end: string;
}
const store = useBuild();
const added = computed<Record<string, Added>>(() => (store.build!.wiring.added ?? {}) as Record<string, Added>);
const { data } = useQuery({
  key: () => ["faces", store.id, store.revision, "run"],
  query: () => api.faces(store.id, { revision: store.revision, state: "run" }),
});
const { data: board } = useQuery({
  key: () => ["terminals", store.id, store.revision],
  query: () => api.terminals(store.id, { revision: store.revision, state: "run", plugged: true }),
});
/** Every terminal that a wire may end on: those with a wire, and the free pins of the control unit. */
const terminals = computed(() => {
  const named = (board.value?.terminals ?? []).filter((t) => !t.key.startsWith("fuse.")).map((t) => ({ key: t.key, name: t.name }));
  const there = new Set(named.map((t) => t.key));
  const free = (data.value?.find((f) => f.part === "unit")?.rows.flat() ?? []).filter((h) => !there.has(h.terminal));
  return [...named, ...free.map((h) => ({ key: h.terminal, name: `control unit, pin ${h.pin}, free` }))];
});
const name = (key: string) => terminals.value.find((t) => t.key === key)?.name ?? key;
const entries = computed<Entry[]>(() =>
  Object.entries(added.value).map(([token, w]) => ({
    token,
    title: w.label,
    note: `${name(w.start)} to ${name(w.end)}`,
    out: "Take it out",
  })),
);
function add(): void {
  let i = 1;
  while (`wire_${i}` in added.value) i++;
  const path = `/wiring/added/wire_${i}`;
  void store.edit([
    { op: "add", path, value: { label: `Wire ${i}`, start: "battery.plus", end: "coils.plus", carries: "5 A", fused: true } },
    { op: "add", path: `/marks/${path.replaceAll("/", "~1")}`, value: { kind: "assumed" } },
  ]);
}
/** A wire that no longer starts at the battery has no fuse of its own. */
function put(token: string | number, end: "start" | "end", event: Event): void {
  const at = `/wiring/added/${token}`;
  const value = (event.target as HTMLSelectElement).value;
  const loses = end === "start" && value !== "battery.plus" && store.at(`${at}/fused`) === true;
  void store.edit([
    { op: "replace", path: `${at}/${end}`, value },
    ...(loses ? [{ op: "replace" as const, path: `${at}/fused`, value: false }] : []),
  ]);
}
const ENDS = [
  { key: "start", word: "From" },
  { key: "end", word: "To" },
] as const;
</script>

<template>
  <FieldGroup
    group="added"
    at="/wiring/added"
    note="From any terminal to any other. What would short the battery, or hang in the air, is refused."
  >
    <EntryList
      at="/wiring/added"
      :entries="entries"
      :fields="['label', 'carries', 'fused', 'noise']"
      noun="wire"
      @add="add"
      @out="(k) => store.set(`/wiring/added/${k}`, undefined)"
    >
      <template #before="{ token }">
        <label v-for="e in ENDS" :key="e.key" class="block">
          <span class="text-[0.88rem]">{{ e.word }}</span>
          <select
            :id="`f/wiring/added/${token}/${e.key}`"
            class="mt-0.5 h-11 w-full border border-line bg-sheet px-2"
            :value="added[String(token)]?.[e.key]"
            :aria-label="`${e.word}, ${added[String(token)]?.label}`"
            :disabled="store.readOnly"
            @change="put(token, e.key, $event)"
          >
            <option v-for="t in terminals" :key="t.key" :value="t.key">{{ t.name }}</option>
          </select>
          <span v-if="store.problems[`/wiring/added/${token}/${e.key}`]" class="text-[0.85rem] text-spark" role="alert">{{
            store.problems[`/wiring/added/${token}/${e.key}`]
          }}</span>
        </label>
        <p v-if="store.problems[`/wiring/added/${token}`]" class="col-span-2 text-[0.85rem] text-spark" role="alert">
          {{ store.problems[`/wiring/added/${token}`] }}
        </p>
      </template>
    </EntryList>
  </FieldGroup>
</template>
