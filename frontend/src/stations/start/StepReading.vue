<script setup lang="ts">
// A reading at a step: what is expected, what was read, and whether it lies there. Kept as it is typed, judged at once.
import { computed, ref, watch } from "vue";
import type { SheetStep } from "@/api/types";
import SeverityMark from "@/parts/SeverityMark.vue";
import Told from "@/parts/Told.vue";
import { useBuild } from "@/stores/build";
import { takeReading } from "./taken";

const props = defineProps<{ step: number; expected: SheetStep["expect"][number]; printed?: boolean }>();
const store = useBuild();
const at = computed(() => `/start/steps/${props.step}/readings/${props.expected.key}`);
const typed = ref("");
/** What waits to be stored, or was refused, stays as it was typed. */
const stands = computed(() => store.refused(`${at.value}/typed`) ?? (store.at(`${at.value}/typed`) as string | undefined) ?? "");
watch(stands, (now) => (typed.value = now), { immediate: true });
const trouble = computed(() => store.problems[`${at.value}/typed`] ?? store.problems[`${at.value}/when`] ?? "");
const off = computed(() => props.expected.verdict === "low" || props.expected.verdict === "high");
function keep(): void {
  const text = typed.value.trim();
  if (text === stands.value) return;
  if (!text) {
    if (store.at(at.value) !== undefined) void store.edit([{ op: "remove", path: at.value }]);
    return;
  }
  void takeReading(store, at.value, text, "typed");
}
</script>

<template>
  <div class="border-b border-hair py-1.5" :data-reading="printed ? undefined : expected.key">
    <div class="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3">
      <span :id="printed ? undefined : `r-${step}-${expected.key}`" class="leading-tight"><Told :text="expected.what" /></span>
      <input
        v-if="expected.key && expected.band && !printed"
        v-model="typed"
        class="no-print num row-span-2 h-12 w-32 border border-line bg-sheet px-2 text-right text-[1.2rem]"
        inputmode="decimal"
        autocomplete="off"
        maxlength="40"
        placeholder="read"
        :readonly="store.readOnly"
        :aria-labelledby="`r-${step}-${expected.key}`"
        :aria-invalid="!!trouble || undefined"
        @change="keep"
        @keydown.enter="keep"
      />
      <span class="font-semibold tabular-nums"
        >{{ expected.shown }}<span v-if="!expected.worked_out" class="ml-1 text-[0.75rem] font-normal text-soft">usual</span></span
      >
    </div>
    <p v-if="trouble" role="alert" class="text-right text-[0.9rem]">{{ trouble }}</p>
    <p
      v-else-if="expected.verdict !== 'open'"
      class="flex items-center justify-end gap-1.5 text-[0.95rem]"
      :class="{ 'font-semibold': off }"
      role="status"
    >
      <SeverityMark :severity="off ? 'sort_out' : 'sound'" /><span v-if="printed">{{ expected.got }}, </span
      >{{ off ? expected.off : "as it should be" }}
    </p>
  </div>
</template>
