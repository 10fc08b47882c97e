<script setup lang="ts">
// A text of which the words of the field can be pressed.
import { computed } from "vue";
import { CARD, useWords } from "@/stores/words";

const props = defineProps<{ text: string }>();
const words = useWords();
const pieces = computed(() => words.pieces(props.text));
</script>

<template>
  <!-- prettier-ignore -->
  <span><template v-for="(p, i) in pieces" :key="i"><button v-if="p.word" type="button" class="word" :popovertarget="CARD" @click="words.show(p.word)">{{ p.text }}</button><template v-else>{{ p.text }}</template></template></span>
</template>
