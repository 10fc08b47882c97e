<script setup lang="ts">
// A look: its question, how, its caution, and what it showed: a word to press, or a figure to type.
import { ref, watch } from "vue";
import type { Look } from "./asks";

const props = defineProps<{ look: Look; shown: string | null | undefined; brief?: boolean }>();
const emit = defineEmits<{ put: [shown: string | null] }>();
const typed = ref("");
watch(
  () => props.shown,
  (now) => (typed.value = props.look.unit ? (now ?? "") : ""),
  { immediate: true },
);
const put = () => {
  if (typed.value.trim() && typed.value.trim() !== props.shown) emit("put", typed.value.trim());
};
</script>

<template>
  <div role="group" :aria-label="look.words">
    <p class="leading-tight" :class="{ 'font-semibold': !brief }">{{ look.words }}</p>
    <p v-if="!brief" class="text-[0.9rem] text-soft">{{ look.how }} {{ look.minutes }} min.</p>
    <p v-if="!brief && look.caution" class="mt-1 border-l-[6px] border-spark bg-wash px-2 py-1 text-[0.95rem] font-semibold">
      {{ look.caution }}
    </p>
    <div class="mt-1 flex flex-wrap gap-1.5">
      <template v-if="Object.keys(look.answers).length">
        <button
          v-for="(words, key) in look.answers"
          :key="key"
          type="button"
          class="btn btn-small text-left"
          :class="{ 'btn-main': shown === key }"
          :aria-pressed="shown === key"
          @click="emit('put', String(key))"
        >
          {{ words }}
        </button>
      </template>
      <label v-else class="flex items-center gap-2"
        ><span class="sr-only">{{ look.words }}</span
        ><input
          v-model="typed"
          class="num h-11 w-32 border border-line bg-sheet px-2 text-right"
          inputmode="decimal"
          autocomplete="off"
          maxlength="40"
          placeholder="read"
          @change="put"
          @keydown.enter="put"
        />{{ look.printed }}</label
      >
      <button
        v-if="look.runs"
        type="button"
        class="btn btn-small"
        :class="{ 'btn-main': shown === null }"
        :aria-pressed="shown === null"
        @click="emit('put', null)"
      >
        It does not run
      </button>
    </div>
  </div>
</template>
