<script setup lang="ts">
// What a word means: its picture and two lines. It goes by Esc, by a press beside it, or by its own button.
import { IconX } from "@tabler/icons-vue";
import WordPicture from "@/parts/WordPicture.vue";
import { CARD, useWords } from "@/stores/words";

const words = useWords();
</script>

<template>
  <div :id="CARD" popover role="dialog" aria-labelledby="word-title" class="word-card">
    <div v-if="words.shown" class="flex items-start gap-x-4 max-sm:flex-wrap">
      <WordPicture :picture="words.shown.picture" />
      <div class="min-w-0 flex-1 max-sm:order-1 max-sm:basis-full">
        <h2 id="word-title" class="text-[1.1rem]">{{ words.shown.title }}</h2>
        <p class="mt-0.5 leading-snug">{{ words.shown.says }}</p>
      </div>
      <button
        type="button"
        class="btn btn-small btn-plain max-sm:ml-auto"
        :popovertarget="CARD"
        popovertargetaction="hide"
        aria-label="Close"
      >
        <IconX :size="18" aria-hidden="true" />
      </button>
    </div>
  </div>
</template>
