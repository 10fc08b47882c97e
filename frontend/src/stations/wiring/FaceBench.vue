<script setup lang="ts">
// One plug by its face, from the side of the wires or the side that mates: which wire goes into which place, and what a meter shows there.
import { useQuery } from "@pinia/colada";
import { computed, ref, watch } from "vue";
import { api } from "@/api/client";
import type { KeyState } from "@/api/types";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import { choice } from "@/figures/format";
import { useBuild } from "@/stores/build";
import ColourStripe from "./ColourStripe.vue";
import { KEY_STATES } from "./keyStates";

const store = useBuild();
const state = ref<KeyState>("run");
const part = ref("unit");
const side = ref<"wires" | "mates">("wires");
const hole = ref<string | null>(null);
const SIDES: { key: "wires" | "mates"; word: string }[] = [
  { key: "wires", word: "wire side" },
  { key: "mates", word: "mating side" },
];
const { data, error } = useQuery({
  key: () => ["faces", store.id, store.revision, state.value],
  query: () => api.faces(store.id, { revision: store.revision, state: state.value }),
});
const face = computed(() => data.value?.find((f) => f.part === part.value) ?? data.value?.[0] ?? null);
const rows = computed(() => (face.value?.rows ?? []).map((r) => (side.value === "mates" ? [...r].reverse() : r)));
const chosen = computed(() => face.value?.rows.flat().find((h) => h.terminal === hole.value) ?? null);
watch(part, () => (hole.value = null));
const volts = (v: number | null) => (v === null ? "–" : `${v.toFixed(2)} V`);
</script>

<template>
  <div class="mt-2">
    <div class="flex flex-wrap items-end gap-x-5 gap-y-2">
      <label class="block w-64 max-w-full">
        <span class="text-[0.88rem]">Plug</span>
        <select v-model="part" aria-label="Plug" class="mt-0.5 h-11 w-full border border-line bg-sheet px-2">
          <option v-for="f in data ?? []" :key="f.part" :value="f.part" class="capitalize">{{ f.name }}</option>
        </select>
      </label>
      <ChoiceBar v-model="side" class="!mt-0" :options="SIDES" label="Seen from" />
      <ChoiceBar v-model="state" class="!mt-0" :options="KEY_STATES" label="Key and engine" />
    </div>
    <p v-if="error" class="mt-3" role="alert">{{ error.message }}</p>
    <figure v-if="face" class="mt-4">
      <figcaption class="mb-1 text-[0.95rem] font-semibold first-letter:uppercase">
        {{ face.name }}, {{ side === "wires" ? "with its wires towards you" : "with its open face towards you" }}
      </figcaption>
      <div class="overflow-x-auto border-2 border-ink bg-well p-3" tabindex="0" role="region" :aria-label="`Face of the ${face.name}`">
        <div
          v-for="(row, r) in rows"
          :key="r"
          class="mt-1.5 flex gap-1.5 first:mt-0"
          :class="{ 'mt-4': r && row[0]?.pin[0] !== rows[r - 1]?.[0]?.pin[0] }"
        >
          <button
            v-for="h in row"
            :key="h.terminal"
            type="button"
            class="flex h-[5.4rem] w-[6.7rem] shrink-0 flex-col border px-1.5 pt-1 pb-1 text-left"
            :class="[hole === h.terminal ? 'border-ink outline-2 outline-ink' : 'border-line', h.wires.length ? 'bg-sheet' : 'bg-well']"
            :aria-pressed="hole === h.terminal"
            @click="hole = hole === h.terminal ? null : h.terminal"
          >
            <span class="flex w-full items-baseline justify-between gap-1">
              <b class="num text-[0.95rem]">{{ h.pin }}</b><span v-if="h.volts !== null" class="num text-[0.82rem]"
                >{{ h.volts.toFixed(2) }} V</span
              >
            </span>
            <span class="mt-0.5 flex-1"
              ><span class="line-clamp-2 text-[0.8rem] leading-tight" :class="{ 'text-soft': !h.wires.length }">{{
                h.label || "empty"
              }}</span></span
            >
            <ColourStripe v-if="h.colour" :colour="h.colour" />
          </button>
        </div>
      </div>
      <p class="mt-1 text-[0.82rem] text-soft">
        Rows as they are counted in the pin table. Numbers moulded into the plug win over any drawing; tug each wire once its terminal has
        clicked. Volts against battery minus.
      </p>
    </figure>
    <section v-if="chosen" class="mt-3 border border-line bg-sheet px-3 py-2" aria-label="What is in this place">
      <p class="text-[1.05rem] font-semibold">
        {{ chosen.pin }}<template v-if="chosen.kind">, {{ choice(chosen.kind) }}</template
        >: {{ chosen.label || "empty, plugged against water" }}
      </p>
      <p v-if="chosen.goes_to" class="text-[0.92rem]">
        Goes to {{ chosen.goes_to }}<template v-if="chosen.area_m2">, {{ +(chosen.area_m2 * 1e6).toPrecision(3) }} mm²</template>.
        {{ volts(chosen.volts) }} should be read here.
      </p>
      <p v-if="chosen.wires.length" class="mt-1 flex flex-wrap gap-x-4">
        <RouterLink v-for="w in chosen.wires" :key="w" :to="`/b/${store.id}/wiring/wires#w-${w}`" class="underline">trace it</RouterLink>
        <RouterLink :to="`/b/${store.id}/wiring/tests#f/wiring/tests/${chosen.wires[0]}`" class="underline"
          >its line on the test sheet</RouterLink
        >
      </p>
    </section>
  </div>
</template>
