<script setup lang="ts">
// One step of the first start: caution first, then what to do, what to expect, and the signature.
import { IconCheck } from "@tabler/icons-vue";
import { computed, ref, watch } from "vue";
import type { SheetStep } from "@/api/types";
import Told from "@/parts/Told.vue";
import { useBuild } from "@/stores/build";
import { useSettings } from "@/stores/settings";
import StepReading from "./StepReading.vue";
import { now } from "./taken";

const props = defineProps<{ step: SheetStep; blocked: boolean; printed?: boolean }>();
const store = useBuild();
const settings = useSettings();
const by = ref(props.step.by || settings.who);
const reading = ref(props.step.reading);
watch(
  () => props.step,
  (s) => {
    by.value = s.by || by.value || settings.who;
    reading.value = s.reading || reading.value;
  },
);

const why = ref(props.step.why);
const REASON = 12; // characters that a reason has at least
const reasoned = computed(() => !props.step.off.length || why.value.trim().length >= REASON);
function sign(done: boolean): void {
  if (done && !settings.who && by.value.trim()) settings.who = by.value.trim();
  const when = done ? now() : "";
  const at = `/start/steps/${props.step.number}`;
  const parts = { by: done ? by.value.trim() : "", when, reading: reading.value.trim(), why: done ? why.value.trim() : "", done };
  void store.edit(Object.entries(parts).map(([key, value]) => ({ op: "add" as const, path: `${at}/${key}`, value })));
}
</script>

<template>
  <article
    :id="printed ? undefined : `f/start/steps/${step.number}`"
    class="break-inside-avoid border-t-2 border-ink pt-3 pb-5"
    :aria-label="`Step ${step.number}, ${step.title}`"
  >
    <h2 class="flex items-baseline gap-3 text-[1.3rem]">
      <span class="num text-soft">{{ step.number }}</span>{{ step.title
      }}<IconCheck v-if="step.done" :size="24" class="self-center text-good" aria-label="done" />
    </h2>
    <p v-for="c in step.cautions" :key="c" class="mt-2 border-l-[6px] border-spark bg-wash px-3 py-1.5 font-semibold">{{ c }}</p>
    <div class="mt-2 grid gap-x-8 gap-y-2 md:grid-cols-2">
      <ul class="list-none">
        <li v-for="d in step.do" :key="d" class="flex gap-2.5 py-1">
          <span class="mt-1 grid size-5 shrink-0 place-items-center border-2 border-ink text-sm leading-none" aria-hidden="true">{{
            step.done ? "×" : ""
          }}</span><Told :text="d" />
        </li>
      </ul>
      <div>
        <StepReading v-for="e in step.expect" :key="e.what" :step="step.number" :expected="e" :printed="printed" />
      </div>
    </div>
    <p v-for="t in step.if_off" :key="t" class="mt-1.5 text-[0.92rem] text-soft">If it is off: <Told :text="t" /></p>
    <div v-if="step.off.length" class="mt-2 border-l-[6px] border-spark bg-wash px-3 py-2" role="group" aria-label="Off">
      <p class="font-semibold">{{ step.off.join("; ") }}.</p>
      <label v-if="!printed" class="mt-1 block text-[0.9rem]"
        >Mend it first. To sign all the same, say why
        <textarea
          v-model="why"
          rows="2"
          maxlength="600"
          class="mt-1 block w-full border border-line bg-sheet p-2 text-ink"
          :readonly="store.readOnly"
        ></textarea>
      </label>
      <p v-if="step.signed && !step.done" class="mt-1">Signed by {{ step.by }}; it does not stand without a reason.</p>
    </div>
    <div v-if="!printed" class="no-print mt-2.5 flex flex-wrap items-end gap-2">
      <label class="text-[0.85rem] text-soft"
        >Notes<input
          v-model="reading"
          maxlength="200"
          :readonly="store.readOnly"
          class="block h-11 w-52 border border-line bg-sheet px-2 text-ink"
      /></label>
      <label class="text-[0.85rem] text-soft"
        >Signed by<input
          v-model="by"
          maxlength="80"
          :readonly="store.readOnly"
          class="block h-11 w-40 border border-line bg-sheet px-2 text-ink"
      /></label>
      <button
        v-if="!step.done"
        type="button"
        class="btn btn-main"
        :disabled="store.readOnly || blocked || !by.trim() || !reasoned"
        @click="sign(true)"
      >
        Done, sign
      </button>
      <button v-else type="button" class="btn" :disabled="store.readOnly" @click="sign(false)">Take it back</button>
      <span v-if="step.done" class="pb-2.5 text-[0.9rem]">{{ step.by }}, {{ step.when }}</span>
      <span v-else-if="blocked" class="pb-2.5 text-[0.9rem] text-spark">Clear or sign for the Stops first.</span>
    </div>
  </article>
</template>
