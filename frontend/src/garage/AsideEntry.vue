<script setup lang="ts">
// A build that was put away: when, and the way back. After a time it may go for good, if somebody says so.
import { computed, ref } from "vue";
import type { GarageRow } from "@/api/types";

const props = defineProps<{ row: GarageRow }>();
const emit = defineEmits<{ back: []; remove: [] }>();
const days = computed(() => Math.floor((Date.now() - new Date(props.row.put_away!).getTime()) / 86_400_000));
const sure = ref(false);
</script>

<template>
  <li class="flex flex-wrap items-center gap-x-6 gap-y-2 border-t border-ink py-3">
    <h3 class="flex-1 text-[1.2rem]">{{ row.name }}</h3>
    <span class="text-soft"
      >put away {{ days < 1 ? "today" : `${days} ${days === 1 ? "day" : "days"} ago`
      }}{{ row.removable ? ": keep it or let it go?" : "" }}</span
    >
    <button type="button" class="btn btn-small" @click="emit('back')">Bring back</button>
    <button v-if="row.removable" type="button" class="btn btn-small" @click="sure = true">Remove for good…</button>
    <div v-if="sure" class="flex w-full flex-wrap items-center gap-2 border border-ink bg-sheet p-3" role="alert">
      <span class="flex-1">Remove {{ row.name }} with its whole journal? Only a backup brings it back.</span>
      <button type="button" class="btn btn-small" @click="sure = false">Keep it</button
      ><button type="button" class="btn btn-small btn-main" @click="emit('remove')">Remove for good</button>
    </div>
  </li>
</template>
