<script setup lang="ts">
// The hand at the stand-in: key, pedal, injectors; begun and ended here.
import { computed, ref, shallowRef } from "vue";
import { useBuild } from "@/stores/build";
import { startApi, type Key } from "./asks";
import type { Live } from "./useLive";

const props = defineProps<{ live: Live; rests: number; practice?: string }>();
const store = useBuild();
const warm = ref(false);
const fault = ref("");
const faults = shallowRef<[string, string][]>([]);
/** What could be wrong with it, once somebody wants to choose. */
async function names(): Promise<void> {
  if (faults.value.length || props.practice) return;
  faults.value = ((await startApi.diagnosis(store.id, [], false).catch(() => null))?.faults ?? []) as [string, string][];
}
const begin = () =>
  props.live.begin(props.practice ? { practice: props.practice, warm: warm.value } : { fault: fault.value, warm: warm.value });
const there = computed(() => props.live.said.value?.key != null);
const KEYS: { key: Key; word: string }[] = [
  { key: "off", word: "Off" },
  { key: "run", word: "Run" },
];
function let_go(): void {
  if (props.live.key.value === "start") void props.live.turn("run");
}
const press = (to: number) => void props.live.press(to);
const injectors = (off: boolean) => void props.live.switchInjectors(off);
</script>

<template>
  <section class="no-print mt-3 border border-line p-3" aria-label="Stand-in">
    <div class="flex flex-wrap items-center gap-2">
      <h3 class="mr-2 text-[1.05rem]">Stand-in of this car</h3>
      <span v-if="!there && live.waking.value" role="status">It wakes: its engine is worked from its measures, ten seconds or so …</span>
      <template v-else-if="!there">
        <button type="button" class="btn" @click="begin">Begin it</button>
        <label class="flex min-h-11 items-center gap-2 text-[0.9rem]"
          ><input v-model="warm" type="checkbox" class="size-5" />warm already</label
        >
        <label v-if="!practice" class="flex items-center gap-2 text-[0.9rem]"
          >with
          <select v-model="fault" class="h-11 border border-line bg-sheet px-1" @focus="names" @pointerdown="names">
            <option value="">nothing wrong but what is</option>
            <option v-for="f in faults" :key="f[0]" :value="f[0]">{{ f[1] }}</option>
          </select></label
        >
      </template>
      <template v-else>
        <button
          v-for="k in KEYS"
          :key="k.key"
          type="button"
          class="btn"
          :class="{ 'btn-main': live.said.value?.key === k.key }"
          :aria-pressed="live.said.value?.key === k.key"
          @click="live.turn(k.key)"
        >
          {{ k.word }}
        </button>
        <button
          type="button"
          class="btn touch-none select-none"
          :class="{ 'btn-main': live.said.value?.key === 'start' }"
          :disabled="rests > 0"
          @pointerdown.prevent="live.turn('start')"
          @pointerup="let_go"
          @pointerleave="let_go"
          @pointercancel="let_go"
          @keydown.space.prevent="live.key.value !== 'start' && live.turn('start')"
          @keyup.space="let_go"
          @blur="let_go"
        >
          Start, held
        </button>
        <label class="flex items-center gap-2 text-[0.9rem]"
          >Pedal<input
            type="range"
            min="0"
            max="100"
            step="5"
            class="w-28"
            :value="live.pedal.value"
            @input="press(+($event.target as HTMLInputElement).value)"
        /></label>
        <label class="flex min-h-11 items-center gap-2 text-[0.9rem]"
          ><input
            :checked="live.injectorsOff.value"
            type="checkbox"
            class="size-5"
            @change="injectors(($event.target as HTMLInputElement).checked)"
          />Injectors off</label
        >
        <button type="button" class="btn btn-small ml-auto" @click="live.end()">End it</button>
      </template>
    </div>
    <p v-if="!there" class="mt-1 text-[0.9rem] text-soft">
      An engine and a control unit made from this build, on a bus of their own: to try the steps before the car is there.
    </p>
    <p v-if="live.trouble.value" role="alert" class="mt-1">{{ live.trouble.value }}</p>
  </section>
</template>
