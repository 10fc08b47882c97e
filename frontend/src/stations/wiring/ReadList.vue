<script setup lang="ts">
// "I read ...": readings as they were taken, the faults that would show them, and what to measure next.
import { IconArrowRight, IconPlus, IconX } from "@tabler/icons-vue";
import { computed } from "vue";
import { useBuild } from "@/stores/build";
import type { UseMeterReturn } from "./useMeter";

const props = defineProps<{ meter: UseMeterReturn }>();
const { board, readings, explained, stale, problems, leads, state, name, explain } = props.meter;
const store = useBuild();
const word = (key: string) => board.value?.states.find((s) => s.key === key)?.word ?? key;
const add = () => (readings.value = [...readings.value, { red: leads.value.red, black: leads.value.black, state: state.value, volts: "" }]);
const out = (i: number) => (readings.value = readings.value.filter((_, k) => k !== i));
/** The problem of a reading: those that are empty were not sent. */
const problem = (i: number) => problems.value[`readings/${readings.value.slice(0, i).filter((r) => r.volts.trim()).length}/volts`] ?? "";
const next = computed(() => explained.value?.next ?? null);
function toNext(): void {
  const n = next.value;
  if (!n) return;
  leads.value = { red: n.red, black: n.black };
  state.value = n.state;
  readings.value = [...readings.value, { red: n.red, black: n.black, state: n.state, volts: "" }];
}
const percent = (x: number) => (x > 0.995 ? "almost sure" : `${Math.round(x * 100)} in 100`);
</script>

<template>
  <section class="mt-2 border-t border-ink pt-2" aria-label="I read">
    <h2 class="text-[1.05rem]">I read ...</h2>
    <p v-if="!readings.length" class="text-[0.9rem] text-soft">
      Put the leads where yours are, in the same position of the key, and type what your meter shows. Coil unplugged, neutral, hand brake on
      before anybody cranks.
    </p>
    <ol v-else>
      <li v-for="(r, i) in readings" :key="i" class="grid grid-cols-[1fr_6.5rem_2.75rem] items-center gap-2 border-t border-hair py-1">
        <span class="text-[0.88rem] leading-tight">{{ name(r.red) }} against {{ name(r.black) }}, {{ word(r.state) }}</span>
        <input
          v-model="r.volts"
          type="text"
          inputmode="decimal"
          class="num h-11 w-full min-w-0 border border-line bg-sheet px-2"
          placeholder="0.4 V"
          :aria-label="`Read, ${name(r.red)}, ${word(r.state)}`"
          :aria-invalid="!!problem(i)"
          @keydown.enter="explain"
        />
        <button type="button" class="btn btn-plain !px-0" :aria-label="`Take out reading ${i + 1}`" @click="out(i)">
          <IconX :size="16" aria-hidden="true" />
        </button>
        <p v-if="problem(i)" class="col-span-3 text-[0.85rem] text-spark" role="alert">{{ problem(i) }}</p>
      </li>
    </ol>
    <p class="mt-1.5 flex flex-wrap gap-2">
      <button type="button" class="btn btn-small" @click="add">
        <IconPlus :size="15" aria-hidden="true" /> A reading where the leads are
      </button>
      <button type="button" class="btn btn-small btn-main" :disabled="!readings.some((r) => r.volts.trim())" @click="explain">
        What would show that?
      </button>
    </p>
    <p v-if="problems.all" class="mt-1 text-[0.85rem] text-spark" role="alert">{{ problems.all }}</p>
    <div v-if="explained" class="mt-3" :class="{ 'opacity-60': stale }" role="status">
      <p v-if="stale" class="text-[0.85rem]">Readings or the build have changed since.</p>
      <p v-if="!explained.suspects.length">No single fault shows that. Measure again, or at the plugs before it.</p>
      <ol>
        <li v-for="s in explained.suspects" :key="s.key" class="relative border-t border-hair py-1.5 pl-2">
          <span
            class="absolute top-1 bottom-1 left-0 w-1 bg-spark"
            :style="{ opacity: Math.max(0.12, s.chance) }"
            aria-hidden="true"
          ></span>
          <span class="leading-snug first-letter:uppercase">{{ s.label }}</span>
          <span class="num block text-[0.85rem] text-soft"
            >{{ percent(s.chance) }}; would show {{ s.shows.map((v) => `${v.toFixed(2)} V`).join(", ") }}
            <RouterLink v-if="s.wire" :to="`/b/${store.id}/wiring/wires#w-${s.wire}`" class="underline">trace that wire</RouterLink></span
          >
        </li>
      </ol>
      <div v-if="next" class="mt-2 border-2 border-ink px-3 py-2">
        <p class="font-semibold">Measure next</p>
        <p class="leading-snug">{{ next.says }}</p>
        <ul class="num mt-1 text-[0.85rem] text-soft">
          <li v-for="[label, volts] in next.shows" :key="label">{{ volts.toFixed(2) }} V: {{ label }}</li>
        </ul>
        <button type="button" class="btn btn-small mt-1.5" @click="toNext">
          <IconArrowRight :size="15" aria-hidden="true" /> Leads there, and a line for it
        </button>
      </div>
      <p class="mt-1.5 text-[0.82rem] text-soft">{{ explained.assumes }}</p>
    </div>
  </section>
</template>
