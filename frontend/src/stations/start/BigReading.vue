<script setup lang="ts">
// One reading in letters that are read from under the bonnet: what is expected, what is read, whether it lies there.
import { computed, ref, watch } from "vue";
import type { SheetStep } from "@/api/types";
import SeverityMark from "@/parts/SeverityMark.vue";
import Told from "@/parts/Told.vue";
import { useBuild } from "@/stores/build";
import type { LiveTold } from "./asks";

const props = defineProps<{
  step: SheetStep;
  expected: SheetStep["expect"][number];
  live: LiveTold["readings"][number] | null;
  take: (typed: string, source: "typed" | "bus") => Promise<void>;
}>();
const store = useBuild();
const at = computed(() => `/start/steps/${props.step.number}/readings/${props.expected.key}/typed`);
const stands = computed(() => store.refused(at.value) ?? (store.at(at.value) as string | undefined) ?? "");
const typed = ref("");
watch(stands, (now) => (typed.value = now), { immediate: true });
const trouble = computed(() => store.problems[at.value] ?? "");
/** What is judged: what was taken, else what the bus says now. */
const verdict = computed(() => (props.expected.verdict !== "open" ? props.expected.verdict : (props.live?.verdict ?? "open")));
const off = computed(() => verdict.value === "low" || verdict.value === "high");
const word = computed(() => {
  if (verdict.value === "open") return "";
  if (!off.value) return "as it should be";
  return props.expected.verdict !== "open" ? props.expected.off : props.live!.off;
});
const keep = () => {
  if (typed.value.trim() && typed.value.trim() !== stands.value) void props.take(typed.value.trim(), "typed");
};
</script>

<template>
  <div class="mt-3 border-2 border-ink p-4" :data-reading="expected.key || undefined">
    <p :id="`big-${expected.key}`" class="text-[1.3rem] leading-tight"><Told :text="expected.what" /></p>
    <p class="mt-1 text-soft">
      expected <b class="text-[1.3rem] text-ink tabular-nums">{{ expected.shown }}</b>
      <span v-if="!expected.worked_out" class="ml-1 text-[0.8rem]">usual</span>
    </p>
    <template v-if="expected.key && expected.band">
      <div class="mt-2 flex flex-wrap items-center gap-3">
        <b v-if="live && expected.verdict === 'open'" class="num text-[2rem] leading-none" data-testid="live">{{ live.shown }}</b>
        <input
          v-model="typed"
          class="num h-12 w-40 border border-line bg-sheet px-2 text-right text-[1.6rem]"
          inputmode="decimal"
          autocomplete="off"
          maxlength="40"
          placeholder="read"
          :readonly="store.readOnly"
          :aria-labelledby="`big-${expected.key}`"
          :aria-invalid="!!trouble || undefined"
          @change="keep"
          @keydown.enter="keep"
        />
        <button
          v-if="live && expected.verdict === 'open'"
          type="button"
          class="btn btn-main h-12 text-[1.1rem]"
          :disabled="store.readOnly"
          @click="take(live.typed, 'bus')"
        >
          Take it
        </button>
      </div>
      <p v-if="trouble" role="alert" class="mt-1">{{ trouble }}</p>
      <p v-else-if="word" class="mt-2 flex items-center gap-2 text-[1.3rem] font-semibold" role="status">
        <SeverityMark :severity="off ? 'sort_out' : 'sound'" :size="26" />{{ word }}
      </p>
      <p v-if="off" class="mt-1 text-[1.05rem]"><Told :text="step.if_off.join(' ')" /></p>
    </template>
  </div>
</template>
