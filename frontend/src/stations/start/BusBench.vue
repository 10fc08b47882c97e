<script setup lang="ts">
// Where live readings come from: the stand-in's own bus, or a person's control unit by its DBC file, signal by signal.
import { computed, onMounted, ref, shallowRef } from "vue";
import { ApiError } from "@/api/client";
import { written } from "@/figures/format";
import { useBuild } from "@/stores/build";
import { startApi, type BusTold } from "./asks";

const store = useBuild();
const bus = shallowRef<BusTold | null>(null);
const place = ref("");
const dbc = ref("");
const name = ref("");
const trouble = ref("");
const taken = ref<Record<string, string>>({});
const LARGEST = 2_000_000; // bytes
async function tried(act: () => Promise<BusTold>): Promise<void> {
  trouble.value = "";
  try {
    const said = await act();
    bus.value = said;
    place.value = said.own ? "" : said.place;
    name.value = said.name;
    taken.value = Object.fromEntries(said.taken.map((t) => [t.quantity, t.signal]));
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    trouble.value = [error.message, ...error.body.problems.map((p) => `${p.given}: ${p.wants}`)].join(" ");
  }
}
onMounted(() => void tried(() => startApi.bus(store.id)));
async function read(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0];
  if (!file) return;
  if (file.size > LARGEST) {
    trouble.value = `${file.name} is larger than 2 MB. A DBC file with the messages of this control unit alone will do.`;
    return;
  }
  [dbc.value, name.value] = [await file.text(), file.name];
  await tell(null);
}
const tell = (rows: BusTold["taken"] | null) =>
  tried(() =>
    startApi.tellBus(store.id, { place: place.value || "socketcan:can0", name: name.value, dbc: dbc.value, taken: rows } as never),
  );
const quantities = computed(() => bus.value?.quantities ?? []);
function map(quantity: string, signal: string): void {
  taken.value = { ...taken.value, [quantity]: signal };
  const before = new Map((bus.value?.taken ?? []).map((t) => [`${t.quantity} ${t.signal}`, t]));
  const rows = Object.entries(taken.value)
    .filter(([, s]) => s)
    .map(([q, s]) => before.get(`${q} ${s}`) ?? { quantity: q, signal: s, factor: 1, offset: 0 });
  void tell(rows as BusTold["taken"]);
}
</script>

<template>
  <section class="min-h-64" aria-label="Its bus">
    <p v-if="trouble" role="alert" class="mb-2 font-semibold">{{ trouble }}</p>
    <template v-if="bus">
      <p>
        <template v-if="bus.own">Listening to the stand-in, on a bus that does not leave this machine.</template>
        <template v-else
          >Listening to <b>{{ bus.name || "a DBC file" }}</b> on <b class="num">{{ bus.place }}</b>.</template
        >
      </p>
      <p class="mt-1 text-[0.92rem] text-soft">
        A control unit with no bus is read off its own screen: every reading can be typed at its step. One with a bus is listened to by the
        DBC file of its maker; nothing is ever written to it.
      </p>
      <div class="mt-3 flex flex-wrap items-end gap-3">
        <label class="text-[0.9rem]"
          >Interface and channel<input
            v-model="place"
            class="block h-11 w-64 border border-line bg-sheet px-2"
            maxlength="120"
            placeholder="socketcan:can0"
        /></label>
        <label class="text-[0.9rem]"
          >DBC file of the unit<input
            type="file"
            accept=".dbc,text/plain"
            class="block h-11 w-72 border border-line bg-sheet p-2"
            @change="read"
        /></label>
        <button v-if="!bus.own" type="button" class="btn" @click="tried(() => startApi.forgetBus(store.id))">
          Listen to the stand-in again
        </button>
      </div>
      <table class="mt-4 w-full text-[0.95rem]">
        <caption class="text-left text-[1.05rem] font-semibold">
          Its signals
        </caption>
        <thead>
          <tr class="border-b border-line text-left text-[0.85rem] text-soft">
            <th scope="col">Quantity</th>
            <th scope="col">Signal</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="q in quantities" :key="q.key" class="border-b border-hair">
            <th scope="row" class="py-1 text-left font-normal">
              {{ q.word }} <span class="text-soft">{{ written(q.unit) }}</span>
            </th>
            <td>
              <select
                v-if="!bus.own && dbc"
                class="h-11 w-full border border-line bg-sheet px-1"
                :aria-label="`Signal of ${q.word.toLowerCase()}`"
                :value="taken[q.key] ?? ''"
                @change="map(q.key, ($event.target as HTMLSelectElement).value)"
              >
                <option value="">none</option>
                <option v-for="s in bus.signals" :key="s.name" :value="s.name">{{ s.name }} {{ s.unit && `[${s.unit}]` }}</option>
              </select>
              <template v-else>{{ taken[q.key] ?? "none" }}</template>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="!bus.own && !dbc" class="mt-1 text-[0.9rem] text-soft">Choose the file again to change which signal is what.</p>
    </template>
  </section>
</template>
