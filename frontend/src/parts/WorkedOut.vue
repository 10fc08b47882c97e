<script setup lang="ts">
// What is worked out beside the server: how far it is, given up or begun again; that what stands is of the build before.
import { computed } from "vue";
import type { UseAskedReturn } from "@/stores/useAsked";

const props = defineProps<{ what: string; asked: UseAskedReturn<unknown> }>();
const there = computed(() => props.asked.found.value !== null);
const percent = computed(() => Math.round((props.asked.progress.value ?? 0) * 100));
const waits = computed(() => props.asked.progress.value === null);
</script>

<template>
  <div v-if="asked.cancelled.value" class="flex flex-wrap items-center gap-3" role="status">
    <span>{{ what }} was given up{{ there ? "; what stands is of an earlier build" : "" }}.</span>
    <button type="button" class="btn btn-small" @click="asked.again">Work it out</button>
  </div>
  <p v-else-if="asked.trouble.value" role="alert">{{ asked.trouble.value }}</p>
  <div v-else-if="!there || asked.stale.value" class="flex flex-wrap items-center gap-x-3 gap-y-1 text-[0.9rem] text-soft">
    <span role="status">{{
      there ? `Of the build before the last change. ${what} is being worked again.` : `${what} is being worked, cycle after cycle.`
    }}</span>
    <span
      role="progressbar"
      :aria-label="what"
      aria-valuemin="0"
      aria-valuemax="100"
      :aria-valuenow="percent"
      :aria-valuetext="waits ? 'waits its turn' : `${percent} %`"
      class="h-2 w-40 overflow-hidden rounded border border-hair"
      ><span class="block h-full bg-[var(--spark)]" :style="{ width: `${percent}%` }"></span
    ></span>
    <button v-if="!waits" type="button" class="btn btn-small" @click="asked.giveUp">Give it up</button>
  </div>
</template>
