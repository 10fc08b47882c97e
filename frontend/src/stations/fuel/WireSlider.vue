<script setup lang="ts">
// Slide through the standard sizes and watch the pump's curve move. The server works each one out.
import { useDebounceFn } from "@vueuse/core";
import { computed } from "vue";
import { useBuild } from "@/stores/build";

const SIZES = ["0.75 mm2", "1 mm2", "1.5 mm2", "2.5 mm2", "4 mm2", "6 mm2", "10 mm2"];
const store = useBuild();
const now = computed(() => {
  const written = store.build?.fuel.wire.size ?? "";
  const found = SIZES.indexOf(written);
  return found >= 0 ? found : 3;
});
const set = useDebounceFn((index: number) => store.set("/fuel/wire/size", SIZES[index]), 120);
</script>

<template>
  <label class="block text-[0.86rem] text-soft">
    Slide through the sizes
    <input
      type="range"
      class="mt-1 h-11 w-full accent-[var(--ink)]"
      min="0"
      :max="SIZES.length - 1"
      step="1"
      :value="now"
      :disabled="store.readOnly"
      :aria-valuetext="SIZES[now]"
      @input="set(Number(($event.target as HTMLInputElement).value))"
    />
  </label>
</template>
