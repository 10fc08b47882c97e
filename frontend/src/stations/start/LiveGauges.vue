<script setup lang="ts">
// What the control unit says now, as words and figures; greyed and said so once it is old.
import { computed } from "vue";
import type { Live } from "./useLive";

const props = defineProps<{ live: Live }>();
const said = computed(() => props.live.said.value);
const old = computed(() => props.live.away.value || said.value?.stale !== false);
const words = computed(() => {
  if (props.live.away.value) return "The server does not answer: nothing here is of now.";
  if (said.value?.key != null && said.value.age == null) return "The stand-in is there, key off.";
  if (!said.value || said.value.age == null) return "Nothing has come over the bus yet. Readings are typed.";
  if (said.value.stale && said.value.key === "off") return "Key off: its unit sleeps. What stands here is old, and no reading.";
  if (said.value.stale) return `Silent for ${Math.round(said.value.age)} s: what stands here is old, and no reading.`;
  return said.value.flood ? `A flood on the bus: ${said.value.flood} frames let go.` : "";
});
</script>

<template>
  <section class="no-print" aria-label="What the bus says">
    <p v-if="words" class="text-[0.92rem]" :class="{ 'font-semibold': said?.stale && said?.age != null }" role="status">{{ words }}</p>
    <dl v-if="said?.gauges.length" class="grid grid-cols-2 sm:grid-cols-4 gap-x-4 border-t border-line">
      <div v-for="g in said.gauges" :key="g.key" class="border-b border-hair py-1" :class="{ 'text-soft line-through': old || g.old }">
        <dt class="text-[0.8rem] text-soft">{{ g.word }}</dt>
        <dd class="num text-[1.2rem] leading-tight">
          {{ g.shown }} <span class="text-[0.85rem]">{{ g.unit }}</span>
        </dd>
      </div>
    </dl>
  </section>
</template>
