<script setup lang="ts">
// A list of entries, each folded to a line: opened it shows its fields and the button that takes it out. Below, one adds another.
import { IconPlus } from "@tabler/icons-vue";
import { ref, watch } from "vue";
import { useBuild } from "@/stores/build";
import { escape } from "@/stores/pointer";
import Field from "./Field.vue";

export interface Entry {
  /** Its number or key in the build. */
  token: string | number;
  title: string;
  note: string;
  /** Words of the button that takes it out. */
  out: string;
  bad?: boolean;
  open?: boolean;
}
const props = defineProps<{ at: string; entries: Entry[]; fields: string[]; noun?: string }>();
defineEmits<{ add: []; out: [string | number] }>();
defineSlots<{
  before?: (p: { token: string | number; i: number }) => unknown;
  after?: (p: { token: string | number; i: number }) => unknown;
  under?: () => unknown;
}>();
const store = useBuild();
/** Entries that stand open. One that is put right stays open under the hand that did it; only that hand folds it. */
const open = ref(new Set<string | number>());
watch(
  () => props.entries.filter((e) => e.open).map((e) => e.token),
  (wanted) => wanted.forEach((token) => open.value.add(token)),
  { immediate: true },
);
function turned(token: string | number, event: Event): void {
  if ((event.target as HTMLDetailsElement).open) open.value.add(token);
  else open.value.delete(token);
}
</script>

<template>
  <div :id="`f${at}`" tabindex="-1" class="col-span-2 min-w-0">
    <details
      v-for="(e, i) in entries"
      :id="`f${at}/${e.token}`"
      :key="e.token"
      class="border-t border-hair"
      :open="open.has(e.token)"
      @toggle="turned(e.token, $event)"
    >
      <summary class="flex min-h-11 cursor-pointer items-baseline justify-between gap-2 py-2">
        <b>{{ e.title }}</b><span class="num text-[0.86rem]" :class="e.bad ? 'text-spark' : 'text-soft'">{{ e.note }}</span>
      </summary>
      <div class="grid grid-cols-2 gap-x-3 gap-y-2 pb-3">
        <slot name="before" :token="e.token" :i="i" />
        <Field v-for="k in fields" :key="k" :at="`${at}/${escape(String(e.token))}/${k}`" />
        <slot name="after" :token="e.token" :i="i" />
        <button
          type="button"
          class="btn btn-small btn-plain col-span-2 justify-self-start underline"
          :disabled="store.readOnly"
          @click="$emit('out', e.token)"
        >
          {{ e.out }}
        </button>
      </div>
    </details>
    <button v-if="noun" type="button" class="btn btn-small mt-1" :disabled="store.readOnly" @click="$emit('add')">
      <IconPlus :size="15" aria-hidden="true" />Add {{ noun }}
    </button>
    <slot name="under" />
  </div>
</template>
