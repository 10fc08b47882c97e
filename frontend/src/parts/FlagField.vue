<script setup lang="ts">
import { Switch, SwitchGroup, SwitchLabel } from "@headlessui/vue";
import { computed } from "vue";
import { useBuild } from "@/stores/build";

const props = defineProps<{ at: string; label?: string }>();
const store = useBuild();
const info = computed(() => store.info(props.at));
const value = computed(() => store.at(props.at) === true);
</script>

<template>
  <SwitchGroup as="div" class="flex min-h-11 items-center gap-3 self-end">
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
