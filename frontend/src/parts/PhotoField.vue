<script setup lang="ts">
// Photographs of a form that is not kept yet: small ones in a row, and the button that adds one. What stands beside the button comes in the slot.
import { api } from "@/api/client";
import { useCatalogue } from "@/stores/catalogue";
import AddPhoto from "./AddPhoto.vue";

defineProps<{ says: string }>();
const keys = defineModel<string[]>({ required: true });
const busy = defineModel<boolean>("busy", { default: false });
const { photographs } = useCatalogue();
const add = (more: string[]) => (keys.value = [...new Set([...keys.value, ...more])].slice(0, photographs.value.most));
</script>

<template>
  <div class="flex flex-wrap items-center gap-2">
    <img v-for="p in keys" :key="p" :src="api.photo(p, true)" alt="" class="size-16 border border-line object-cover" />
    <AddPhoto v-model:busy="busy" :says="says" @kept="add" />
    <slot />
  </div>
</template>
