<script setup lang="ts">
// Who does a task: one of the people, or whoever is free first.
import { useWork } from "./useWork";
import type { Task } from "./asks";

const props = defineProps<{ task: Task }>();
const { store, people } = useWork();
const put = (event: Event) => {
  const who = (event.target as HTMLSelectElement).value;
  void store.edit([{ op: "add", path: `${props.task.entered_at}/who`, value: who || null }]);
};
</script>

<template>
  <label :id="`f${task.entered_at}/who`" class="block text-[0.86rem] leading-tight text-soft"
    >Who
    <select
      class="mt-0.5 h-11 w-full border border-line bg-sheet px-1.5 text-[0.95rem] text-ink"
      :value="task.who"
      :disabled="store.readOnly || task.helper"
      @change="put"
    >
      <option value="">{{ task.helper ? "both" : "whoever is free" }}</option>
      <option v-for="(p, key) in people" :key="key" :value="key">{{ p.name }}</option>
      <option v-if="task.who && !(task.who in people)" :value="task.who">{{ task.who }}: not there</option>
    </select></label
  >
</template>
