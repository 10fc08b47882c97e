<script setup lang="ts">
// The meter in the hand: position of the key, what is measured, where its leads are, what it shows.
import { IconArrowsLeftRight } from "@tabler/icons-vue";
import { computed } from "vue";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import type { Lead, UseMeterReturn } from "./useMeter";

const props = defineProps<{ meter: UseMeterReturn }>();
const { board, reading, trouble, state, plugged, quantity, leads, hand, name } = props.meter;
const shown = computed(() => {
  const r = reading.value;
  if (!r) return "–";
  if (r.value == null) return r.quantity === "amps" ? "fuse gone" : "open";
  if (r.quantity === "amps") return Math.abs(r.value) < 0.1 ? `${(r.value * 1e3).toFixed(1)} mA` : `${r.value.toFixed(2)} A`;
  if (r.quantity === "volts") return `${r.value.toFixed(Math.abs(r.value) < 1 ? 3 : 2)} V`;
  return r.value < 1 ? `${(r.value * 1e3).toFixed(1)} mΩ` : `${r.value.toPrecision(3)} Ω`;
});
const UNIT = [
  { key: "on" as const, word: "unit plugged" },
  { key: "off" as const, word: "its plug off" },
];
const plug = computed({ get: () => (plugged.value ? "on" : "off"), set: (v: "on" | "off") => (plugged.value = v === "on") });
const WHAT = [
  { key: "volts" as const, word: "volts" },
  { key: "ohms" as const, word: "ohms" },
  { key: "amps" as const, word: "amps" },
];
const swap = () => (leads.value = { red: leads.value.black, black: leads.value.red });
const LEADS: Lead[] = ["red", "black"];
</script>

<template>
  <FieldGroup note="Press a terminal: red goes there, with the next press black. Ohms only with the battery off.">
    <div class="col-span-2">
      <p class="num text-[2.4rem] leading-none font-semibold" role="status" data-testid="meter">{{ shown }}</p>
      <p class="mt-1 min-h-10 text-[0.9rem] leading-snug text-soft">{{ reading?.says ?? trouble }}</p>
      <p v-if="reading" class="mt-1 border-l-2 border-line pl-2 text-[0.86rem] leading-snug">It proves {{ reading.proves }}</p>
      <label class="mt-2 block">
        <span class="text-[0.88rem]">Key and engine</span>
        <select
          v-model="state"
          aria-label="Key and engine"
          class="mt-0.5 h-11 w-full border border-line bg-sheet px-2"
          :disabled="quantity === 'ohms'"
        >
          <option v-for="s in board?.states ?? []" :key="s.key" :value="s.key">{{ s.word }}</option>
        </select>
      </label>
      <div class="flex flex-wrap items-end gap-x-4">
        <ChoiceBar v-model="quantity" :options="WHAT" label="What is measured" />
        <ChoiceBar v-model="plug" :options="UNIT" label="Plug of the control unit" />
      </div>
      <div class="mt-3 grid grid-cols-[1fr_2.75rem] items-end gap-2">
        <div class="flex flex-col gap-1.5">
          <label v-for="l in LEADS" :key="l" class="block">
            <span class="flex items-center gap-2 text-[0.88rem]">
              <span class="lead" :class="l === 'red' ? 'lead-red' : 'lead-black'">{{ l }}</span>
              <button type="button" class="min-h-6 underline" :aria-pressed="hand === l" @click="hand = l">
                {{ hand === l ? "next press" : "press next" }}
              </button>
            </span>
            <select
              class="mt-0.5 h-11 w-full border border-line bg-sheet px-2"
              :value="leads[l]"
              :aria-label="`${l} lead on`"
              @change="leads = { ...leads, [l]: ($event.target as HTMLSelectElement).value }"
            >
              <option v-if="!board" :value="leads[l]">{{ name(leads[l]) }}</option>
              <option v-for="t in board?.terminals ?? []" :key="t.key" :value="t.key">{{ t.name }}</option>
            </select>
          </label>
        </div>
        <button type="button" class="btn !px-0" aria-label="Swap the leads" @click="swap">
          <IconArrowsLeftRight :size="18" aria-hidden="true" />
        </button>
      </div>
    </div>
  </FieldGroup>
</template>
