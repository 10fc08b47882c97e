<script setup lang="ts">
// Every other look, by the step at which it is taken, found by a word.
import { computed, ref } from "vue";
import type { Look } from "./asks";
import LookTaken from "./LookTaken.vue";
import { byStep } from "./looks";

const props = defineProps<{ looks: Look[]; done: string[] }>();
const emit = defineEmits<{ put: [look: string, shown: string | null] }>();
const search = ref("");
const chosen = ref("");
const groups = computed(() =>
  byStep(
    props.looks.filter((l) => !props.done.includes(l.key)),
    search.value,
  ),
);
function put(look: string, shown: string | null): void {
  chosen.value = search.value = "";
  emit("put", look, shown);
}
</script>

<template>
  <details class="mt-4 border-t border-line" :open="!done.length || undefined">
    <summary class="min-h-11 cursor-pointer py-2 font-semibold">Something else that you see or can try</summary>
    <label class="block text-[0.9rem]"
      >Find a look<input v-model="search" type="search" maxlength="40" class="mt-0.5 block h-11 w-full border border-line bg-sheet px-2"
    /></label>
    <p v-if="!groups.length" class="mt-2">No look has that word.</p>
    <div class="mt-1 max-h-[26rem] overflow-y-auto" tabindex="0" role="group" aria-label="Looks">
      <section v-for="g in groups" :key="g.title" :aria-label="g.title">
        <h3 class="mt-2 text-[0.9rem] text-soft">{{ g.title }}</h3>
        <ul>
          <li v-for="l in g.rows" :key="l.key" class="border-b border-hair">
            <button
              type="button"
              class="flex min-h-11 w-full items-center justify-between gap-2 text-left hover:bg-wash"
              :aria-expanded="chosen === l.key"
              @click="chosen = chosen === l.key ? '' : l.key"
            >
              {{ l.words }}<span class="text-[0.85rem] whitespace-nowrap text-soft">{{ l.minutes }} min</span>
            </button>
            <LookTaken v-if="chosen === l.key" :look="l" :shown="undefined" class="pb-2" @put="(shown) => put(l.key, shown)" />
          </li>
        </ul>
      </section>
    </div>
  </details>
</template>
