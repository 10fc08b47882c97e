<script setup lang="ts">
// Slide a value through its usual sizes and watch the drawings move. The server works each one out.
import { useDebounceFn } from "@vueuse/core";
import { computed, inject } from "vue";
import { useBuild } from "@/stores/build";
import { TRIAL } from "@/stations/fuel/useTrial";

const props = defineProps<{ at: string; sizes: string[]; label: string }>();
const store = useBuild();
/** The size that stands there now, or the nearest below it in the list. */
const now = computed(() => {
  const written = String(store.at(props.at) ?? "");
  const exact = props.sizes.indexOf(written);
  if (exact >= 0) return exact;
  const number = Number.parseFloat(written);
  return Math.max(0, props.sizes.filter((s) => Number.parseFloat(s) <= number).length - 1);
});
const trial = inject(TRIAL, null);
const set = useDebounceFn((index: number) => store.set(props.at, props.sizes[index]), 120);
/** While it slides: tried where a station can try, else stored once it rests. Let go: stored. */
const slide = (index: number) => (trial ? trial.attempt(props.at, props.sizes[index]) : set(index));
const rest = (index: number) => trial?.settle(props.at, props.sizes[index]);
</script>

<template>
  <label class="block text-[0.86rem] text-soft">
    {{ label }}
    <input
      type="range"
      class="mt-1 h-11 w-full accent-[var(--ink)]"
      min="0"
      :max="sizes.length - 1"
      step="1"
      :value="now"
      :disabled="store.readOnly"
      :aria-valuetext="sizes[now]"
      @input="slide(Number(($event.target as HTMLInputElement).value))"
      @change="rest(Number(($event.target as HTMLInputElement).value))"
    />
  </label>
</template>
