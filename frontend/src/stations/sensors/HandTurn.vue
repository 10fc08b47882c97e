<script setup lang="ts">
// The bench test under the car: two thumbs and a meter. Left as the meter drops over a tooth, right as it comes up after it. What is read stays in this
// browser through a call, a dropped telephone or a flat one, and becomes part of the build when it is kept.
import { IconArrowBackUp, IconFlag, IconTrash } from "@tabler/icons-vue";
import { useStorage } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import type { Stages } from "@/api/types";
import Field from "@/parts/Field.vue";
import { useBuild } from "@/stores/build";
import { useReader } from "@/stores/useReader";

interface Level {
  over: string;
  between: string;
}
interface Draft {
  supply: string;
  low: string;
  high: string;
  /** The volts of a tooth that has gone low and not come up yet. */
  half: string | null;
  levels: Level[];
}
const props = defineProps<{ trigger: NonNullable<Stages["trigger"]> }>();
const store = useBuild();
const EMPTY: Draft = { supply: "", low: "", high: "", half: null, levels: [] };
const drafts = useStorage<Record<string, Draft>>("uphill-spark.hand-turn", {});
const draft = computed<Draft>(() => drafts.value[store.id] ?? EMPTY);
const going = computed(() => draft.value.levels.length > 0 || draft.value.half !== null);
const put = (change: Partial<Draft>) => (drafts.value = { ...drafts.value, [store.id]: { ...draft.value, ...change } });
const expected = computed(() => props.trigger.teeth_per_turn);
const number = computed(() => draft.value.levels.length + 1);
/** Volts as the core reads them: each text once, however often it is pressed. */
const { ask, read, written } = useReader("voltage", "V");
watch(draft, (d) => ask([d.supply, d.low, d.high, ...d.levels.flatMap((l) => [l.over, l.between])]), { immediate: true, deep: true });
/** Whether a tooth is wrong, by the limits of the core; not told while the core has not read it. */
const wrong = (l: Level) => {
  const [over, between, supply] = [read(l.over), read(l.between), read(draft.value.supply)];
  if (over === null || between === null || supply === null) return false;
  return over > props.trigger.low_most_v || between < props.trigger.high_share * supply;
};
const bad = computed(() => draft.value.levels.findIndex(wrong));
function low(): void {
  if (draft.value.half === null) put({ half: written(draft.value.low) });
}
function high(): void {
  if (draft.value.half === null) return;
  put({ half: null, levels: [...draft.value.levels, { over: draft.value.half, between: written(draft.value.high) }] });
}
function back(): void {
  if (draft.value.half !== null) put({ half: null });
  else put({ levels: draft.value.levels.slice(0, -1) });
}
/** Into the build; what stays here is thrown away once the build has it. */
async function keep(finished: boolean): Promise<void> {
  const { supply, levels } = draft.value;
  const pullUp = store.at("/sensors/trigger/hand_turn/pull_up");
  const value = {
    when: new Date().toISOString().slice(0, 10),
    supply: written(supply),
    finished,
    levels,
    ...(pullUp ? { pull_up: pullUp } : {}),
  };
  await store.set("/sensors/trigger/hand_turn", value);
  if (store.problems["/sensors/trigger/hand_turn"]) return;
  put({ ...EMPTY, supply });
  again.value = false;
}
/** Go on with what the build has. */
function resume(): void {
  const kept = store.build!.sensors!.trigger!.hand_turn!;
  put({ supply: kept.supply ?? "", half: null, levels: (kept.levels ?? []) as Level[] });
}
const kept = computed(() => props.trigger.hand);
const again = ref(false);
/** A test that passed stands there as passed; it is read again only on asking. */
const open = computed(() => going.value || again.value || kept.value?.passed !== true);
</script>

<template>
  <section id="f/sensors/trigger/hand_turn" tabindex="-1" class="mt-4 border border-ink p-3" aria-label="Hand-turn test">
    <h2 class="text-[1.1rem]">Hand-turn test</h2>
    <p class="text-[0.9rem] text-soft">
      Plugs out, key out, gear in neutral; sensor on its supply, meter on its output. Turn slowly the way the engine runs, from the long
      gap.
    </p>
    <p
      v-if="kept && !going"
      class="mt-2 font-semibold"
      :class="kept.passed === false ? 'text-spark' : kept.passed ? 'text-good' : ''"
      role="status"
    >
      {{ kept.passed === false ? "Failed: " : kept.passed ? "Passed: " : "" }}{{ kept.told }}
    </p>
    <button v-if="!open" type="button" class="btn btn-small no-print mt-2" :disabled="store.readOnly" @click="again = true">
      Test again
    </button>
    <p v-if="open" class="num mt-2 text-[2rem] leading-none font-semibold" aria-live="polite">
      tooth {{ Math.min(number, expected) }} <span class="text-lg font-normal">of {{ expected }}</span>
    </p>
    <div v-if="open" class="mt-2 grid grid-cols-2 gap-3">
      <button
        type="button"
        class="btn h-28 text-[1.15rem] sm:h-24"
        :class="{ 'btn-main': draft.half === null }"
        :disabled="store.readOnly || number > expected || !draft.low.trim() || !draft.supply.trim()"
        @click="low"
      >
        Low, over the tooth
      </button>
      <button
        type="button"
        class="btn h-28 text-[1.15rem] sm:h-24"
        :class="{ 'btn-main': draft.half !== null }"
        :disabled="store.readOnly || draft.half === null || !draft.high.trim()"
        @click="high"
      >
        High, after it
      </button>
      <label class="text-[0.86rem] text-soft"
        >the meter shows<input
          :value="draft.low"
          inputmode="decimal"
          class="num mt-0.5 h-11 w-full border border-line bg-sheet px-2 text-ink"
          @input="put({ low: ($event.target as HTMLInputElement).value })"
      /></label>
      <label class="text-[0.86rem] text-soft"
        >the meter shows<input
          :value="draft.high"
          inputmode="decimal"
          class="num mt-0.5 h-11 w-full border border-line bg-sheet px-2 text-ink"
          @input="put({ high: ($event.target as HTMLInputElement).value })"
      /></label>
    </div>
    <p v-if="open && !(draft.low.trim() && draft.high.trim() && draft.supply.trim())" class="mt-1 text-[0.9rem] text-info">
      Type what the meter shows over a tooth, after it, and the supply; then each press is a reading.
    </p>
    <p v-if="bad >= 0" class="mt-2 text-spark" role="alert">
      Tooth {{ bad + 1 }}: {{ draft.levels[bad]!.over }} over it, {{ draft.levels[bad]!.between }} after it. Under
      {{ trigger.low_most_v }} V and near {{ draft.supply }} are wanted.
    </p>
    <Field v-if="kept" class="mt-2 max-w-72" at="/sensors/trigger/hand_turn/pull_up" />
    <ol v-if="going || kept?.rows.length" class="mt-2 flex flex-wrap gap-1" aria-label="Teeth read">
      <li
        v-for="(l, i) in going ? draft.levels : kept!.rows"
        :key="i"
        class="num grid h-7 min-w-7 place-items-center border px-0.5 text-[0.8rem]"
        :class="('wrong' in l ? l.wrong : wrong(l as Level)) ? 'border-spark bg-spark text-on-ink font-bold' : 'border-line'"
        :title="'wrong' in l ? l.wrong : undefined"
      >
        {{ i + 1 }}
      </li>
    </ol>
    <div v-if="open" class="mt-3 flex flex-wrap items-end gap-2">
      <label class="w-28 text-[0.86rem] text-soft"
        >Supply<input
          :value="draft.supply"
          class="num mt-0.5 h-11 w-full border border-line bg-sheet px-2 text-ink"
          @input="put({ supply: ($event.target as HTMLInputElement).value })"
      /></label>
      <button type="button" class="btn" :disabled="!going" @click="back"><IconArrowBackUp :size="17" aria-hidden="true" />One back</button>
      <button type="button" class="btn" :disabled="store.readOnly || !draft.levels.length" @click="keep(true)">
        <IconFlag :size="17" aria-hidden="true" />Back at the gap
      </button>
      <button v-if="going" type="button" class="btn" :disabled="store.readOnly || !draft.levels.length" @click="keep(false)">
        Keep so far
      </button>
      <button v-if="!going && kept && kept.passed !== true" type="button" class="btn" @click="resume">
        Go on from tooth {{ kept.read }}
      </button>
      <button v-if="going" type="button" class="btn btn-plain" @click="put({ levels: [], half: null })">
        <IconTrash :size="17" aria-hidden="true" />Start again
      </button>
    </div>
  </section>
</template>
