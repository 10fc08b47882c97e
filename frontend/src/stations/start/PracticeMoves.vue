<script setup lang="ts">
// A practice under way: what the owner says, what was done, and what can be done.
import { computed, defineAsyncComponent, ref } from "vue";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import type { components } from "@/api/schema";
import type { Look, Move } from "./asks";
import { byStep, holds } from "./looks";

const props = defineProps<{ id: string; practice: components["schemas"]["Practice"]; looks: Look[] }>();
const emit = defineEmits<{ move: [move: Move] }>();
type Tab = "look" | "meter" | "swap" | "name" | "risk";
const PracticeKey = defineAsyncComponent(() => import("./PracticeKey.vue"));
const PracticeMeter = defineAsyncComponent(() => import("./PracticeMeter.vue"));
const atKey = ref(false);
const tab = ref<Tab>("look");
const TABS: { key: Tab; word: string }[] = [
  { key: "look", word: "Look, read, try" },
  { key: "meter", word: "Meter" },
  { key: "swap", word: "Swap a part" },
  { key: "risk", word: "Dare something" },
  { key: "name", word: "Name it" },
];
const search = ref("");
const groups = computed(() => byStep(props.looks, search.value));
const done = computed(() => new Map(props.practice.steps.filter((s) => s.kind === "look").map((s) => [s.key, s.says])));
const names = computed(() => {
  const rows = props.practice.names.map(([key, words, group]) => ({ key, words, group })).filter((n) => holds(n.words, search.value));
  return [...new Set(rows.map((n) => n.group))].map((group) => ({ group, rows: rows.filter((n) => n.group === group) }));
});
const GROUPS: Record<string, string> = {
  feed: "Feed and ground", unit: "Control unit", trigger: "Trigger and phase", ignition: "Ignition", fuel: "Fuel", air: "Air", sensors: "Sensors", tune: "Tune", engine: "Engine itself",
}; // prettier-ignore
</script>

<template>
  <div class="grid gap-x-8 gap-y-3 lg:grid-cols-2">
    <div class="lg:order-2">
      <section class="border-2 border-ink p-3" aria-label="The owner says">
        <h2 class="text-[1.05rem]">The owner says</h2>
        <p v-for="c in practice.complaint" :key="c.key" class="text-[1.1rem]">
          {{ c.words }}: <b>{{ c.says }}</b>
        </p>
        <p v-if="practice.complaint.length < 2 && practice.complaint[0]?.shown === 'runs'" class="text-soft">
          And yet something is not right.
        </p>
      </section>
      <p class="mt-2 flex gap-4 border-b border-line pb-1" role="status">
        <span
          ><b class="num text-[1.3rem]">{{ practice.minutes }}</b> min</span
        >
        <span
          ><b class="num text-[1.3rem]">{{ practice.money }}</b> spent</span
        >
        <span v-if="practice.risks" class="text-spark"
          ><b class="num text-[1.3rem]">{{ practice.risks }}</b> dangerous</span
        >
      </p>
      <ol aria-label="What you did" reversed class="flex flex-col-reverse">
        <li v-for="(s, k) in practice.steps" :key="k" class="border-b border-hair py-1.5 leading-tight">
          <span class="text-soft">{{ s.words }}</span><span v-if="s.minutes" class="ml-2 text-[0.85rem] text-soft"
            >{{ s.minutes }} min</span
          >
          <b class="block">{{ s.says }}</b>
          <span v-if="s.why" class="block border-l-[6px] border-spark bg-wash px-2 py-1">{{ s.why }}</span>
        </li>
      </ol>
      <details class="mt-3 border-t border-line" @toggle="atKey ||= ($event.target as HTMLDetailsElement).open">
        <summary class="min-h-11 cursor-pointer py-2 font-semibold">At the key of this car</summary>
        <PracticeKey v-if="atKey" :id="id" />
      </details>
      <button type="button" class="btn btn-small mt-3" @click="emit('move', { kind: 'give_up', key: '' })">Give up and see</button>
    </div>
    <div>
      <ChoiceBar v-model="tab" :options="TABS" label="What to do" class="!mt-0" />
      <label v-if="tab === 'look' || tab === 'name'" class="mt-2 block text-[0.9rem]"
        >Find<input v-model="search" type="search" maxlength="40" class="mt-0.5 block h-11 w-full border border-line bg-sheet px-2"
      /></label>
      <div class="mt-1 max-h-[26rem] overflow-y-auto" tabindex="0" role="group" aria-label="Choices">
        <template v-if="tab === 'look'">
          <section v-for="g in groups" :key="g.title" :aria-label="g.title">
            <h3 class="mt-2 text-[0.9rem] text-soft">{{ g.title }}</h3>
            <button
              v-for="l in g.rows"
              :key="l.key"
              type="button"
              class="flex min-h-11 w-full items-center justify-between gap-3 border-b border-hair text-left leading-tight hover:bg-wash"
              :title="l.how"
              @click="emit('move', { kind: 'look', key: l.key })"
            >
              <span
                >{{ l.words }}<span v-if="l.caution" class="block text-[0.85rem] text-spark">{{ l.caution }}</span></span
              ><span class="text-[0.9rem] whitespace-nowrap" :class="done.has(l.key) ? 'font-semibold' : 'text-soft'">{{
                done.get(l.key) ?? `${l.minutes} min`
              }}</span>
            </button>
          </section>
        </template>
        <PracticeMeter v-else-if="tab === 'meter'" @put="(key) => emit('move', { kind: 'meter', key })" />
        <template v-else-if="tab === 'swap'">
          <button
            v-for="p in practice.swaps"
            :key="p.key"
            type="button"
            class="flex min-h-11 w-full items-center justify-between gap-3 border-b border-hair text-left hover:bg-wash"
            @click="emit('move', { kind: 'swap', key: p.key })"
          >
            {{ p.words }}<span class="text-[0.9rem] whitespace-nowrap text-soft">{{ p.minutes }} min, {{ p.money }}</span>
          </button>
        </template>
        <template v-else-if="tab === 'risk'">
          <p class="mt-2 text-[0.92rem] text-soft">What people do when it is late. Each counts against you, and you are told why.</p>
          <button
            v-for="r in practice.dares"
            :key="r.key"
            type="button"
            class="flex min-h-11 w-full items-center border-b border-hair text-left hover:bg-wash"
            @click="emit('move', { kind: 'risk', key: r.key })"
          >
            {{ r.words }}
          </button>
        </template>
        <template v-else>
          <section v-for="g in names" :key="g.group" :aria-label="GROUPS[g.group] ?? g.group">
            <h3 class="mt-2 text-[0.9rem] text-soft">{{ GROUPS[g.group] ?? g.group }}</h3>
            <button
              v-for="n in g.rows"
              :key="n.key"
              type="button"
              class="flex min-h-11 w-full items-center border-b border-hair text-left leading-tight hover:bg-wash"
              @click="emit('move', { kind: 'name', key: n.key })"
            >
              {{ n.words }}
            </button>
          </section>
        </template>
      </div>
    </div>
  </div>
</template>
