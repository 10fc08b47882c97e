<script setup lang="ts">
// At the car: one thing at a time in large letters, typed or off the bus, the screen kept awake; key off always in reach.
import { useWakeLock } from "@vueuse/core";
import { computed, onMounted, ref, watch } from "vue";
import { RouterLink } from "vue-router";
import Told from "@/parts/Told.vue";
import { useBuild } from "@/stores/build";
import BigReading from "./BigReading.vue";
import KeySwitch from "./KeySwitch.vue";
import LiveGauges from "./LiveGauges.vue";
import { CRANKS, useCrank } from "./useCrank";
import { useLive } from "./useLive";
import { useStepWalk } from "./useStepWalk";

const store = useBuild();
const walk = useStepWalk();
const { step, place, reading, all } = walk;
const live = useLive(computed(() => step.value.number));
const cranking = computed(() => live.said.value?.turning === "cranking" && !live.said.value.stale);
const crank = useCrank(cranking);
const turns = computed(() => [4, 5].includes(step.value.number));
const awake = useWakeLock();
onMounted(() => void awake.request("screen").catch(() => undefined));
const speaks = ref(false);
const byItself = ref(false);
const ended = ref(false);
/** A short tone, for who cannot look. */
function beep(): void {
  const sound = new AudioContext();
  const tone = sound.createOscillator();
  tone.frequency.value = 880;
  tone.connect(sound.destination);
  tone.start();
  tone.stop(sound.currentTime + 0.15);
  tone.onended = () => void sound.close();
}
function say(words: string): void {
  if (speaks.value) beep();
  if (speaks.value && "speechSynthesis" in window) speechSynthesis.speak(new SpeechSynthesisUtterance(words));
}
const now = computed(() => live.said.value?.readings.find((r) => r.key === reading.value?.key) ?? null);
const HELD = 3; // s that a reading has to hold before it is taken by itself
let taking = false; // a reading is on its way into the build: it is taken once
watch(now, (r) => {
  if (!byItself.value || taking || !r || store.readOnly || r.held < HELD || reading.value?.verdict !== "open") return;
  taking = true;
  const words = `${reading.value.what}: ${r.shown}. As it should be.`;
  void walk
    .take(r.typed, "bus")
    .then(() => {
      say(words);
      walk.onward();
    })
    .finally(() => (taking = false));
});
watch(
  () => crank.enough.value,
  (is) => is && say("Let go. Half a minute of rest."),
);
watch(reading, (r) => r && say(r.what));
function stop(): void {
  void live.turn("off");
  ended.value = true;
  say("Key off.");
}
watch(
  () => live.key.value,
  (k) => (ended.value = ended.value && k === "off"),
);
</script>

<template>
  <section class="pt-3 pb-24" aria-label="At the car">
    <div class="flex items-baseline gap-3">
      <h2 class="text-[1.3rem]">
        <span class="num text-soft">{{ step.number }}</span> {{ step.title }}
      </h2>
      <span class="ml-auto text-[0.9rem] whitespace-nowrap text-soft">{{ place + 1 }} of {{ all.length }}</span>
    </div>
    <p v-for="c in step.cautions" :key="c" class="mt-2 border-l-[6px] border-spark bg-wash px-3 py-1.5 font-semibold">{{ c }}</p>
    <BigReading v-if="reading" :key="`${step.number} ${reading.what}`" :step="step" :expected="reading" :live="now" :take="walk.take" />
    <ul v-else class="mt-2 text-[1.2rem]">
      <li v-for="d in step.do" :key="d" class="border-b border-hair py-2"><Told :text="d" /></li>
    </ul>
    <div class="mt-3 grid grid-cols-2 gap-3">
      <button type="button" class="btn h-12 text-[1.1rem]" :disabled="walk.first.value" @click="walk.back()">Back</button>
      <button type="button" class="btn btn-main h-12 text-[1.1rem]" :disabled="walk.last.value" @click="walk.next()">Next</button>
    </div>
    <p class="mt-2 flex flex-wrap gap-x-4 gap-y-1">
      <RouterLink :to="`/b/${store.id}/start/off`" class="inline-flex min-h-11 items-center underline"
        >It is off: what do you see?</RouterLink
      >
      <RouterLink
        :to="{ path: `/b/${store.id}/start/steps`, hash: `#f/start/steps/${step.number}` }"
        class="inline-flex min-h-11 items-center underline"
        >The whole step, and its signature</RouterLink
      >
    </p>
    <LiveGauges :live="live" class="mt-2" />
    <KeySwitch :live="live" :rests="crank.rests.value" />
    <div class="no-print mt-3 flex flex-wrap gap-x-6">
      <label class="flex min-h-11 items-center gap-2"
        ><input v-model="byItself" type="checkbox" class="size-5" />Take and go on by itself once a reading holds</label
      >
      <label class="flex min-h-11 items-center gap-2"
        ><input v-model="speaks" type="checkbox" class="size-5" />A tone, and say it aloud</label
      >
    </div>
    <details class="mt-2 border-t border-line">
      <summary class="min-h-11 cursor-pointer py-2 font-semibold">For the helper at the battery</summary>
      <ul class="list-none text-[1.1rem]">
        <li>Hand on the battery's minus lead or the master switch, spanner ready. Extinguisher beside you.</li>
        <li>Off at a word, at smoke, at a spurt of fuel, at a wire that gets hot: do not ask first.</li>
        <li>Out of line with fan and belts. Nobody under the car, nobody at the throttle's mouth.</li>
        <li v-for="d in step.do" :key="d"><Told :text="d" /></li>
      </ul>
    </details>
    <div class="no-print fixed inset-x-0 bottom-0 z-30 border-t-2 border-spark bg-sheet px-4 py-2">
      <p v-if="turns && (crank.cranked.value || crank.rests.value)" class="mx-auto max-w-5xl pb-1 text-center" role="timer">
        <template v-if="crank.cranked.value"
          ><b class="num text-[1.8rem] leading-none">{{ crank.cranked.value.toFixed(1) }} s</b>
          <span :class="{ 'font-bold text-spark': crank.enough.value }">{{
            crank.enough.value ? " Let go of the key: rest" : ` of ${CRANKS} at most`
          }}</span></template
        >
        <template v-else
          ><b class="num text-[1.8rem] leading-none">{{ crank.rests.value }} s</b> of rest for the starter</template
        >
      </p>
      <button
        type="button"
        class="btn mx-auto block h-12 w-full max-w-5xl border-2 !border-spark text-[1.2rem] font-bold text-spark"
        @click="stop"
      >
        Stop: key off
      </button>
      <p v-if="ended" class="pt-1" role="alert">Key off now, at the car too. If it runs on: battery off.</p>
    </div>
  </section>
</template>
