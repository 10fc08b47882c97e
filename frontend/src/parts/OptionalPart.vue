<script setup lang="ts">
// A part of the build that may be there or not: its fields once it is, a button that brings it while it is not.
import { IconPlus } from "@tabler/icons-vue";
import { computed } from "vue";
import type { Operation } from "@/api/types";
import { useBuild } from "@/stores/build";
import { escape } from "@/stores/pointer";

/** `fresh` is what it holds at first; `usual`: those are usual values, and they stand in pencil. */
const props = defineProps<{ at: string; add: string; fresh?: unknown; usual?: boolean; out?: string }>();
const store = useBuild();
function bring(): void {
  const value = props.fresh ?? {};
  const mark: Operation[] = props.usual ? [{ op: "add", path: `/marks/${escape(props.at)}`, value: { kind: "assumed" } }] : [];
  void store.edit([{ op: "add", path: props.at, value }, ...mark]);
}
const there = computed(() => store.at(props.at) != null);
</script>

<template>
  <template v-if="there">
    <slot />
    <button
      v-if="out"
      type="button"
      class="btn btn-small btn-plain self-end justify-self-start underline"
      :disabled="store.readOnly"
      @click="store.set(at, undefined)"
    >
      {{ out }}
    </button>
  </template>
  <button v-else :id="`f${at}`" type="button" class="btn btn-small col-span-2 justify-self-start" :disabled="store.readOnly" @click="bring">
    <IconPlus :size="15" aria-hidden="true" />{{ add }}
  </button>
</template>
