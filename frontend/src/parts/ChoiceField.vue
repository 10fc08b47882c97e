<script setup lang="ts">
import { Listbox, ListboxButton, ListboxLabel, ListboxOption, ListboxOptions } from "@headlessui/vue";
import { IconChevronDown } from "@tabler/icons-vue";
import { computed } from "vue";
import { choice } from "@/figures/format";
import { useBuild } from "@/stores/build";

const props = defineProps<{ at: string; bare?: boolean; label?: string }>();
const store = useBuild();
const info = computed(() => store.info(props.at));
const value = computed(() => (store.at(props.at) as string | undefined) ?? info.value?.default ?? undefined);
const pencil = computed(() => store.pencil(props.at) !== null);
const problem = computed(() => store.problems[props.at]);
const name = computed(() => props.label ?? info.value?.title ?? props.at);
</script>

<template>
  <Listbox
    as="div"
    class="relative min-w-0"
    :model-value="value ?? null"
    :disabled="store.readOnly"
    @update:model-value="(v: string | null) => store.set(at, v ?? undefined)"
  >
    <ListboxLabel class="block text-[0.86rem] leading-tight text-soft" :class="{ 'sr-only': bare }">{{ name }}</ListboxLabel>
    <ListboxButton
      :id="`f${at}`"
      class="mt-0.5 flex h-11 w-full items-center justify-between gap-1 border border-line bg-sheet px-2 text-left text-[0.98rem]"
      :class="{ pencil }"
      style="border-radius: 2px"
    >
      <span class="truncate">{{ value ? choice(value) : "choose" }}</span>
      <IconChevronDown :size="16" class="shrink-0" aria-hidden="true" />
    </ListboxButton>
    <ListboxOptions
      class="absolute z-30 mt-0.5 max-h-72 w-max min-w-full overflow-auto border border-ink bg-sheet py-1 shadow-md focus:outline-none"
    >
      <ListboxOption v-for="option in info?.options ?? []" :key="option" v-slot="{ active, selected }" :value="option" as="template">
        <li class="flex min-h-10 cursor-pointer items-center gap-2 px-3" :class="active ? 'bg-ink text-on-ink' : ''">
          <span class="w-3">{{ selected ? "•" : "" }}</span>{{ choice(option) }}
        </li>
      </ListboxOption>
    </ListboxOptions>
    <p v-if="problem" class="mt-0.5 text-[0.85rem] text-spark" role="alert">{{ choice(problem) }}</p>
    <p v-else-if="info?.help && !bare" class="mt-0.5 text-[0.8rem] leading-tight text-soft">{{ info.help }}</p>
  </Listbox>
</template>
