<script setup lang="ts" generic="K extends string">
// A few choices side by side, one of them pressed.
defineProps<{ options: { key: K; word: string }[]; label: string }>();
const chosen = defineModel<K>({ required: true });
</script>

<template>
  <div class="choice-bar no-print mt-3 flex flex-wrap" role="group" :aria-label="label">
    <button
      v-for="o in options"
      :key="o.key"
      type="button"
      class="btn btn-small -ml-px first:ml-0"
      :class="{ 'btn-main': chosen === o.key }"
      :aria-pressed="chosen === o.key"
      @click="chosen = o.key"
    >
      {{ o.word }}
    </button>
  </div>
</template>
