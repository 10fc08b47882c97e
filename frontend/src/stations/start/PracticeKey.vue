<script setup lang="ts">
// The car of a practice under the hand: key, pedal, and what its gauges say with the fault in it.
import { computed, ref } from "vue";
import KeySwitch from "./KeySwitch.vue";
import LiveGauges from "./LiveGauges.vue";
import { useCrank } from "./useCrank";
import { useLive } from "./useLive";

defineProps<{ id: string }>();
const live = useLive(ref(5));
const crank = useCrank(computed(() => live.said.value?.turning === "cranking"));
</script>

<template>
  <div>
    <KeySwitch :live="live" :rests="crank.rests.value" :practice="id" />
    <LiveGauges :live="live" class="mt-2" />
  </div>
</template>
