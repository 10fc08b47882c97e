<script setup lang="ts">
// The chosen ignition wire in four positions of the key, with one hand: type what the meter shows, press the position. It stays on this telephone through a
// call or a flat battery, and becomes part of the build when it is sent.
import { IconSend, IconTrash } from "@tabler/icons-vue";
import { useStorage } from "@vueuse/core";
import { computed, ref } from "vue";
import { useBuild } from "@/stores/build";

const KEYS = [
  { key: "off", word: "Off" },
  { key: "accessory", word: "Accessory" },
  { key: "run", word: "Run" },
  { key: "crank", word: "Crank" },
] as const;
type Position = (typeof KEYS)[number]["key"];
const store = useBuild();
const drafts = useStorage<Record<string, Partial<Record<Position, string>>>>("uphill-spark.feeds", {});
const draft = computed(() => drafts.value[store.id] ?? {});
const shows = ref("");
const kept = (key: Position) => (store.at(`/wiring/feed/${key}`) as string | null | undefined) ?? "";
const told = (key: Position) => draft.value[key] ?? kept(key);
function put(key: Position): void {
  const text = shows.value.trim();
  if (!text) return;
  drafts.value = { ...drafts.value, [store.id]: { ...draft.value, [key]: text } };
  shows.value = "";
}
/** What the server said of one that it could not take: they stay here until they are put right. */
const wrong = ref("");
const waiting = computed(() => KEYS.filter((k) => draft.value[k.key] !== undefined));
const drop = () => (drafts.value = Object.fromEntries(Object.entries(drafts.value).filter(([id]) => id !== store.id)));
async function send(): Promise<void> {
  const ops = waiting.value.map((k) => ({ op: "add" as const, path: `/wiring/feed/${k.key}`, typed: draft.value[k.key]! }));
  await store.edit(ops);
  wrong.value = ops.map((o) => store.problems[o.path]).find(Boolean) ?? "";
  if (!wrong.value) drop();
}
</script>

<template>
  <section class="mt-3 border border-ink p-3" aria-label="Read by key">
    <h2 class="text-[1.1rem]">Read by key, with one hand</h2>
    <p class="text-[0.9rem] text-soft">
      Black on a clean ground, red on the wire, a 21 W lamp on it. Type what the meter shows, then press where the key stands. Cranking:
      coil unplugged, neutral, hand brake on, a helper at the key.
    </p>
    <label class="mt-2 block text-[0.88rem]"
      >The meter shows<input
        v-model="shows"
        inputmode="decimal"
        class="num mt-0.5 h-16 w-full border border-line bg-sheet px-3 text-[2rem]"
        placeholder="12.4"
        :aria-invalid="!!wrong"
    /></label>
    <p v-if="wrong" class="mt-1 text-spark" role="alert">{{ wrong }}</p>
    <div class="mt-2 grid grid-cols-2 gap-2">
      <button
        v-for="k in KEYS"
        :key="k.key"
        type="button"
        class="btn !flex h-24 flex-col !items-start justify-between !px-3 !py-2"
        :class="{ 'btn-main': draft[k.key] !== undefined }"
        :disabled="store.readOnly || (!shows.trim() && !told(k.key))"
        @click="put(k.key)"
      >
        <span class="text-[1.05rem]">{{ k.word }}</span><span class="num text-[1.7rem] leading-none font-semibold">{{
          told(k.key) || "–"
        }}</span>
      </button>
    </div>
    <p v-if="waiting.length" class="mt-2 text-[0.9rem]" role="status">
      {{ waiting.length }} on this telephone, not sent yet: {{ waiting.map((k) => k.word.toLowerCase()).join(", ") }}.
    </p>
    <div v-if="waiting.length" class="mt-2 grid grid-cols-2 gap-2">
      <button type="button" class="btn btn-main h-14" :disabled="store.readOnly" @click="send">
        <IconSend :size="18" aria-hidden="true" /> Send them
      </button>
      <button type="button" class="btn h-14" @click="drop"><IconTrash :size="18" aria-hidden="true" /> Throw away</button>
    </div>
  </section>
</template>
