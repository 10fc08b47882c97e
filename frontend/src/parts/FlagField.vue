<script setup lang="ts">
import { computed } from "vue";
import { useBuild } from "@/stores/build";

const props = defineProps<{ at: string; label?: string }>();
const store = useBuild();
const info = computed(() => store.info(props.at));
const value = computed(() => store.at(props.at) === true);
/** One that may be open: nobody has looked yet. */
const open = computed(() => info.value?.optional === true);
const WORDS = { yes: true, no: false, "not looked": undefined } as const;
const said = computed(() => (store.at(props.at) == null ? "not looked" : value.value ? "yes" : "no"));
</script>

<template>
  <div v-if="open" :id="`f${at}`" tabindex="-1" class="min-w-0 self-end" role="group" :aria-label="label ?? info?.title">
    <p class="text-[0.86rem] leading-tight text-soft">{{ label ?? info?.title }}</p>
    <div class="mt-0.5 flex">
      <button
        v-for="(answer, word) in WORDS"
        :key="word"
        type="button"
        class="-ml-px h-11 min-w-11 border border-line px-2 text-[0.92rem] first:ml-0"
        :class="said === word ? 'bg-ink text-on-ink' : 'bg-sheet'"
        :aria-pressed="said === word"
        :disabled="store.readOnly"
        @click="store.set(at, answer)"
      >
        {{ word }}
      </button>
    </div>
  </div>
  <div v-else class="flex min-h-11 items-center gap-3 self-end">
    <button
      :id="`f${at}`"
      type="button"
      role="switch"
      :aria-checked="value"
      :aria-labelledby="`f${at}-title`"
      :disabled="store.readOnly"
      class="inline-flex h-11 w-16 shrink-0 items-center border border-ink px-1"
      :class="value ? 'bg-ink' : 'bg-sheet'"
      style="border-radius: 3px"
      @click="store.set(at, !value)"
    >
      <span
        class="grid h-8 w-9 place-items-center text-[0.8rem]"
        :class="value ? 'ml-auto bg-sheet text-ink' : 'bg-well text-ink'"
        style="border-radius: 2px"
        aria-hidden="true"
        >{{ value ? "yes" : "no" }}</span
      >
    </button>
    <label :id="`f${at}-title`" :for="`f${at}`" class="text-[0.92rem] leading-tight">{{ label ?? info?.title }}</label>
  </div>
</template>
