<script setup lang="ts">
// Photographs of one entry of the build: small ones in a row, one more to add, each to open and to take off again.
import { computed, defineAsyncComponent, ref } from "vue";
import { api } from "@/api/client";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import AddPhoto from "./AddPhoto.vue";

const props = defineProps<{ at: string; of: string }>();
const store = useBuild();
const keys = computed(() => (store.at(props.at) as string[] | undefined) ?? []);
const { photographs } = useCatalogue();
const PhotoDialog = defineAsyncComponent(() => import("./PhotoDialog.vue"));
const shown = ref<string | null>(null);
const lost = ref<Record<string, boolean>>({});
async function add(more: string[]): Promise<void> {
  const kept = [...new Set([...keys.value, ...more])];
  if (kept.length !== keys.value.length) await store.set(props.at, kept.slice(0, photographs.value.most));
}
async function takeOff(key: string): Promise<void> {
  shown.value = null;
  await store.set(
    props.at,
    keys.value.filter((k) => k !== key),
  );
}
</script>

<template>
  <div class="col-span-2 min-w-0">
    <div class="flex flex-wrap items-center gap-2">
      <template v-for="(key, i) in keys" :key="key">
        <button
          type="button"
          class="h-16 w-16 shrink-0 overflow-hidden border border-line bg-well text-[0.75rem] text-soft"
          :aria-label="`Photograph ${i + 1} of ${of}`"
          @click="shown = key"
        >
          <span v-if="lost[key]">not kept here</span
          ><img v-else :src="api.photo(key, true)" alt="" class="h-full w-full object-cover" @error="lost[key] = true" />
        </button>
      </template>
      <AddPhoto v-if="keys.length < photographs.most" :says="`Add a photograph of ${of}`" :fixed="store.readOnly" @kept="add" />
    </div>
    <PhotoDialog
      v-if="shown"
      :photo="shown"
      :of="of"
      :lost="Boolean(lost[shown])"
      :fixed="store.readOnly"
      @close="shown = null"
      @off="takeOff(shown)"
    />
  </div>
</template>
