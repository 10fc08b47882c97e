<script setup lang="ts">
// A thing on the bench: its name, what belongs to it, and whether it is still in pencil.
import { IconPencilCheck } from "@tabler/icons-vue";
import { computed } from "vue";
import { useBuild } from "@/stores/build";
import { escape, within } from "@/stores/pointer";

const props = defineProps<{ title: string; at?: string | string[]; note?: string }>();
const store = useBuild();
const marks = computed(() => {
  const places = props.at ? [props.at].flat() : [];
  return Object.keys(store.marks).filter((m) => store.marks[m]!.kind === "assumed" && places.some((p) => within(m, p) || within(p, m)));
});
const acceptAll = () => store.edit(marks.value.map((m) => ({ op: "remove" as const, path: `/marks/${escape(m)}` })));
</script>

<template>
  <section class="break-inside-avoid border-t border-ink pt-2 pb-4">
    <div class="mb-1.5 flex min-h-9 flex-wrap items-center justify-between gap-x-3">
      <h3 class="text-[1.05rem]">{{ title }}</h3>
      <button
        v-if="marks.length"
        type="button"
        class="btn btn-small btn-plain text-info italic"
        :disabled="store.readOnly"
        :title="`Assumed: ${marks.join(', ')}`"
        @click="acceptAll"
      >
        <IconPencilCheck :size="16" aria-hidden="true" /> in pencil, accept
      </button>
    </div>
    <p v-if="typeof at === 'string' && store.story(at)" class="mb-1 text-[0.85rem]">{{ store.story(at) }}</p>
    <p v-if="note" class="mb-2 text-[0.85rem] text-soft">{{ note }}</p>
    <div class="grid grid-cols-2 gap-x-3 gap-y-2.5"><slot /></div>
  </section>
</template>
