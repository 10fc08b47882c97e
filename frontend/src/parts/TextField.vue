<script setup lang="ts">
// One value to type: a quantity in any unit, a number, a word, a firing order. What is typed stays until the server has taken it.
import { computed, nextTick, ref, watch } from "vue";
import { choice } from "@/figures/format";
import { useBuild } from "@/stores/build";

const props = defineProps<{ at: string; bare?: boolean; label?: string; hint?: string }>();
const store = useBuild();
const info = computed(() => store.info(props.at));
const value = computed(() => store.at(props.at));
const told = computed(() => store.told(props.at));
const written = computed(() => {
  const v = value.value;
  if (v == null) return "";
  if (told.value.shown) return told.value.shown;
  return Array.isArray(v) ? v.join(info.value?.kind === "numbers" ? "  " : "-") : String(v);
});
const typed = ref(store.refused(props.at) ?? written.value);
const focused = ref(false);
// What comes from the server takes the place of what stood there, but never of what somebody is typing.
watch(written, (now, before) => {
  const typing = focused.value && typed.value !== before;
  if (!store.problems[props.at] && !typing) typed.value = now;
});
const pencil = computed(() => value.value != null && store.pencil(props.at) !== null);
const problem = computed(() => store.problems[props.at] || "");
const id = computed(() => `f${props.at}`);
const name = computed(() => props.label ?? info.value?.title ?? props.at);

/** What counts while the field is empty: the usual value, or that nothing is known. */
const empty = computed(() => {
  if (props.hint) return props.hint;
  if (info.value?.default) return `${told.value.shown ?? info.value.default}, usual`; // in the person's unit, as what is typed
  return info.value?.optional ? (props.bare ? "–" : "not known") : (info.value?.example ?? "");
});

function commit(): void {
  const text = typed.value.trim();
  if (text === written.value) return store.accepted(props.at);
  if (!text && info.value?.optional) return void store.set(props.at, undefined);
  void store.type(props.at, text);
}
/** Entered once more as it was refused: it is meant, however far from what stood there. */
function again(): void {
  const text = typed.value.trim();
  if (problem.value && text === store.refused(props.at)) void store.type(props.at, text, true);
}

async function leave(): Promise<void> {
  typed.value = written.value;
  store.accepted(props.at);
  await nextTick();
}
/** What was typed is taken: then undo means the change, not the letters. */
function undo(event: KeyboardEvent): void {
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z" || typed.value !== written.value) return;
  event.preventDefault();
  void (event.shiftKey ? store.redo() : store.undo());
}
/** On a telephone a number is typed on figures; who wants to write a unit asks for the letters. */
const letters = ref(false);
const figures = computed(() => ["quantity", "count", "number", "numbers", "order"].includes(info.value?.kind ?? "") && !letters.value);
</script>

<template>
  <div class="min-w-0">
    <label v-if="!bare" :for="id" class="block text-[0.86rem] leading-tight text-soft"
      >{{ name }}<span v-if="told.also && value != null" class="num float-right pl-2 text-[0.8rem]">{{ told.also }}</span></label
    >
    <div class="relative">
      <input
        :id="id"
        v-model="typed"
        type="text"
        autocomplete="off"
        spellcheck="false"
        :inputmode="figures ? 'decimal' : 'text'"
        :aria-label="bare ? name : undefined"
        :aria-invalid="problem ? true : undefined"
        :aria-describedby="problem ? `${id}-problem` : undefined"
        :placeholder="empty"
        :readonly="store.readOnly"
        class="num mt-0.5 h-11 w-full min-w-0 border bg-sheet px-2 text-[0.98rem] text-ink placeholder:text-soft"
        :class="[problem ? 'border-2 border-spark' : 'border-line', { pencil }]"
        style="border-radius: 2px"
        @change="commit"
        @focus="focused = true"
        @blur="focused = false"
        @keydown.esc="leave"
        @keydown.enter="again"
        @keydown="undo"
      />
      <button
        v-if="focused && !letters && info?.kind === 'quantity'"
        type="button"
        tabindex="-1"
        class="absolute right-0 bottom-0 hidden h-11 w-11 text-[0.85rem] underline pointer-coarse:block"
        aria-label="Letters, for another unit"
        @pointerdown.prevent="letters = true"
      >
        abc
      </button>
    </div>
    <p v-if="problem" :id="`${id}-problem`" class="mt-0.5 text-[0.85rem] text-spark" role="alert">{{ choice(problem) }}</p>
    <p v-else-if="!bare && store.story(at)" class="mt-0.5 text-[0.8rem] leading-tight text-soft">{{ store.story(at) }}</p>
    <p v-else-if="info?.help && !bare" class="mt-0.5 text-[0.8rem] leading-tight text-soft">{{ info.help }}</p>
  </div>
</template>
