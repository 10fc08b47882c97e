<script setup lang="ts">
// Which log is looked at; and what stands there while there is none, or it is not read.
import { computed } from "vue";
import { RouterLink } from "vue-router";
import { onItsWay, type UseRoad } from "./useRoad";

const props = defineProps<{ road: UseRoad }>();
const kept = computed(() => props.road.logs.value.filter((l) => l.taken_in));
const line = computed(() => props.road.line.value);
const to = computed(() => `/b/${props.road.store.id}/road`);
</script>

<template>
  <div>
    <p v-if="!road.list.value" class="text-soft" role="status">Looking for logs…</p>
    <p v-else-if="!line" class="leading-snug">
      No log is here yet. <RouterLink :to="to" class="underline">Bring one, or have the stand-in drive this car</RouterLink>: then this
      bench says what it tells.
    </p>
    <template v-else>
      <label v-if="kept.length" class="no-print flex flex-wrap items-center gap-2 text-[0.9rem] text-soft"
        >The log
        <select
          :value="line.id"
          class="h-11 max-w-full min-w-0 border border-line bg-sheet px-2 text-ink"
          @change="road.choose(($event.target as HTMLSelectElement).value)"
        >
          <option v-for="l in kept" :key="l.id" :value="l.id">{{ l.name }}, {{ l.day }}</option>
          <option v-if="!line.taken_in" :value="line.id">{{ line.name }}, {{ line.day }}</option>
        </select>
      </label>
      <p v-if="onItsWay(line)" class="mt-2" role="status">{{ line.name }} is being read in, {{ Math.round(line.progress * 100) }} %.</p>
      <p v-else-if="line.state === 'asks'" class="mt-2">
        {{ line.name }} is here. <RouterLink :to="to" class="underline">Say which of its columns is what</RouterLink>: then it is read
        against the build.
      </p>
      <p v-else-if="line.state === 'failed'" class="mt-2" role="alert">{{ line.why }}</p>
      <p v-else-if="road.why.value" class="mt-2 border-l-4 border-spark bg-wash px-3 py-2 leading-snug" role="alert">
        {{ road.why.value }}
      </p>
      <p v-else-if="line.state === 'kept' && !road.said.value" class="mt-2 text-soft" role="status">
        {{ line.name }} is read against the build{{ road.progress.value ? `, ${Math.round(road.progress.value * 100)} %` : "" }}…
      </p>
      <p v-else-if="!road.same.value" class="mt-2 border-l-4 border-line pl-3 leading-snug text-soft">
        What the unit runs on has changed since this drive: it is read as it was driven. Drive again to see whether that worked.
      </p>
    </template>
    <slot v-if="road.said.value" :said="road.said.value" />
  </div>
</template>
