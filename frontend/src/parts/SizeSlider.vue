<script setup lang="ts">
// Slide a value through its usual sizes and watch the drawings move. The server works each one out.
import { useDebounceFn } from "@vueuse/core";
import { computed, inject } from "vue";
import { useBuild } from "@/stores/build";
import { TRIAL } from "@/stations/fuel/useTrial";

const props = defineProps<{ at: string; label: string }>();
const store = useBuild();
/** Usual sizes of this field, small to large. */
const sizes = computed(() => store.info(props.at)?.sizes ?? []);
/** The size that stands there now, or the nearest below it in the list. */
const now = computed(() => {
  const si = store.si(props.at);
  return si === null ? 0 : Math.max(0, sizes.value.filter((s) => s.si <= si * 1.001).length - 1);
});
const trial = inject(TRIAL, null);
const set = useDebounceFn((index: number) => store.set(props.at, sizes.value[index]?.written), 120);
/** While it slides: tried where a station can try, else stored once it rests. Let go: stored. */
const slide = (index: number) => (trial ? trial.attempt(props.at, sizes.value[index]?.written) : set(index));
const rest = (index: number) => trial?.settle(props.at, sizes.value[index]?.written);
</script>

<template>
  <label class="block text-[0.86rem] text-soft">
    {{ label }}
    <input
      type="range"
      class="mt-1 h-11 w-full"
      min="0"
      :max="sizes.length - 1"
      step="1"
      :value="now"
      :disabled="store.readOnly"
      :aria-valuetext="sizes[now]?.written"
      @input="slide(($event.target as HTMLInputElement).valueAsNumber)"
      @change="rest(($event.target as HTMLInputElement).valueAsNumber)"
    />
  </label>
</template>
