<script setup lang="ts">
import { RadioGroup, RadioGroupLabel, RadioGroupOption, Switch, SwitchGroup, SwitchLabel } from "@headlessui/vue";
import { computed } from "vue";
import { useBuild } from "@/stores/build";

const props = defineProps<{ at: string; label?: string }>();
const store = useBuild();
const info = computed(() => store.info(props.at));
const value = computed(() => store.at(props.at) === true);
/** One that may be open: nobody has looked yet. */
const open = computed(() => info.value?.optional === true);
const WORDS = { yes: true, no: false, "not looked": undefined } as const;
type Word = keyof typeof WORDS;
const said = computed<Word>(() => (store.at(props.at) == null ? "not looked" : value.value ? "yes" : "no"));
</script>

<template>
  <RadioGroup
    v-if="open"
    :id="`f${at}`"
    as="div"
    tabindex="-1"
    class="min-w-0 self-end"
    :model-value="said"
    :disabled="store.readOnly"
    @update:model-value="(v: Word) => store.set(at, WORDS[v])"
  >
    <RadioGroupLabel class="block text-[0.86rem] leading-tight text-soft">{{ label ?? info?.title }}</RadioGroupLabel>
    <div class="mt-0.5 flex">
      <RadioGroupOption v-for="(_, word) in WORDS" :key="word" v-slot="{ checked }" :value="word" as="template">
        <button
          type="button"
          class="-ml-px h-11 min-w-11 border border-line px-2 text-[0.92rem] first:ml-0"
          :class="checked ? 'bg-ink text-on-ink' : 'bg-sheet'"
        >
          {{ word }}
        </button>
      </RadioGroupOption>
    </div>
  </RadioGroup>
  <SwitchGroup v-else as="div" class="flex min-h-11 items-center gap-3 self-end">
    <Switch
      :id="`f${at}`"
      :model-value="value"
      :disabled="store.readOnly"
      class="inline-flex h-11 w-16 shrink-0 items-center border border-ink px-1"
      :class="value ? 'bg-ink' : 'bg-sheet'"
      style="border-radius: 3px"
      @update:model-value="(v: boolean) => store.set(at, v)"
    >
      <span
        class="grid h-8 w-9 place-items-center text-[0.8rem]"
        :class="value ? 'ml-auto bg-sheet text-ink' : 'bg-well text-ink'"
        style="border-radius: 2px"
        >{{ value ? "yes" : "no" }}</span
      >
    </Switch>
    <SwitchLabel class="text-[0.92rem] leading-tight">{{ label ?? info?.title }}</SwitchLabel>
  </SwitchGroup>
</template>
