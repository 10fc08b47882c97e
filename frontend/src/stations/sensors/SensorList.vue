<script setup lang="ts">
// The minimal set for the layout and strategy; each is confirmed or struck.
import type { Stages } from "@/api/types";
import { useBuild } from "@/stores/build";

defineProps<{ rows: Stages["sensors"]["rows"] }>();
const store = useBuild();
const decide = (kind: string, now: string, word: "fitted" | "struck") =>
  store.set(`/sensors/decisions/${kind}`, now === word ? undefined : word);
</script>

<template>
  <ul class="col-span-2">
    <li
      v-for="row in rows"
      :id="`f/sensors/decisions/${row.kind}`"
      :key="row.kind"
      tabindex="-1"
      class="grid grid-cols-[1fr_auto] items-center gap-x-3 border-b border-hair py-1.5"
    >
      <div>
        <p class="leading-tight font-semibold" :class="{ 'line-through': row.state === 'struck' }">
          {{ row.label }} <span class="font-normal text-soft">{{ row.need }}</span>
        </p>
        <p class="text-[0.85rem] leading-tight text-soft">
          {{ row.why }}; {{ row.place }}<template v-if="row.inside_unit">. Inside the throttle body.</template>
        </p>
      </div>
      <span class="flex" role="group" :aria-label="row.label">
        <button
          type="button"
          class="btn btn-small"
          :class="{ 'btn-main': row.state === 'fitted' }"
          :aria-pressed="row.state === 'fitted'"
          :disabled="store.readOnly"
          @click="decide(row.kind, row.state, 'fitted')"
        >
          fitted
        </button>
        <button
          type="button"
          class="btn btn-small -ml-px"
          :class="{ 'btn-main': row.state === 'struck' }"
          :aria-pressed="row.state === 'struck'"
          :disabled="store.readOnly"
          @click="decide(row.kind, row.state, 'struck')"
        >
          left out
        </button>
      </span>
    </li>
  </ul>
</template>
