<script setup lang="ts">
// The holes that branches pass, and what is beside each branch.
import { computed, ref, watch } from "vue";
import { useRoute } from "vue-router";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import EntryList, { type Entry } from "@/parts/EntryList.vue";
import { choice } from "@/figures/format";
import { useScales } from "@/figures/owners";
import { useBuild } from "@/stores/build";

const store = useBuild();
const own = useScales();
const result = computed(() => store.plan!.stages.wiring);
const BESIDE = ["spark_leads", "sleeve", "moves", "clips"];
/** The branch that is looked along: by the address, else the first. */
const route = useRoute();
const led = () => /^#f\/wiring\/beside\/([a-z0-9_]+)/.exec(decodeURIComponent(route.hash))?.[1];
const looked = ref(led() ?? Object.keys(store.build!.wiring.branches)[0]!);
watch(led, (key) => key && (looked.value = key));
const entries = computed<Entry[]>(() =>
  result.value.holes.map((h) => ({
    token: h.key,
    title: h.key.replaceAll("_", " "),
    note: `${own.value.length.tell(h.bundle_m)} in ${own.value.length.tell(h.diameter_m)}`,
    out: "Take it out",
    bad: h.bundle_m > h.diameter_m,
  })),
);
function add(): void {
  const taken = new Set(result.value.holes.map((h) => h.key));
  let key = "firewall";
  for (let i = 2; taken.has(key); i++) key = `hole_${i}`;
  const branch = result.value.branches.find((b) => [b.start, b.end].includes("firewall")) ?? result.value.branches[0]!;
  void store.edit([
    { op: "add", path: `/wiring/holes/${key}`, value: { branch: branch.key, diameter: "30 mm" } },
    { op: "add", path: `/marks/~1wiring~1holes~1${key}~1diameter`, value: { kind: "assumed" } },
  ]);
}
</script>

<template>
  <FieldGroup
    group="holes"
    note="Inside the grommet, by a caliper. Whatever passes must pass with its connector, or the connector goes on after."
  >
    <EntryList
      at="/wiring/holes"
      :entries="entries"
      :fields="['branch', 'diameter', 'connector', 'way', 'grommet']"
      noun="hole"
      @add="add"
      @out="(k) => store.set(`/wiring/holes/${k}`, undefined)"
    />
  </FieldGroup>
  <FieldGroup group="beside" note="Engine cold, battery off: follow each with a hand.">
    <Field class="col-span-2" at="/wiring/pairs" />
    <label class="col-span-2 block">
      <span class="text-[0.88rem]">Branch</span>
      <select v-model="looked" aria-label="Branch" class="mt-0.5 h-11 w-full border border-line bg-sheet px-2">
        <option v-for="b in result.branches" :key="b.key" :value="b.key">{{ choice(b.start) }} to {{ choice(b.end) }}</option>
      </select>
    </label>
    <Field v-for="k in BESIDE" :key="looked + k" :at="`/wiring/beside/${looked}/${k}`" />
  </FieldGroup>
</template>
