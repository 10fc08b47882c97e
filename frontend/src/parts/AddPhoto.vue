<script setup lang="ts">
// The button by which photographs are added, from the telephone's camera or from files; why one was not kept stands under it.
import { IconCameraPlus } from "@tabler/icons-vue";
import { ref } from "vue";
import { useCatalogue } from "@/stores/catalogue";
import { keepPhotos } from "./keepPhotos";

defineProps<{ says: string; fixed?: boolean }>();
const emit = defineEmits<{ kept: [keys: string[]] }>();
const busy = defineModel<boolean>("busy", { default: false });
const { photographs } = useCatalogue();
const trouble = ref("");
async function chosen(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const files = Array.from(input.files ?? []);
  input.value = "";
  busy.value = true;
  const found = await keepPhotos(files, photographs.value.bytes);
  busy.value = false;
  trouble.value = found.trouble;
  if (found.keys.length) emit("kept", found.keys);
}
</script>

<template>
  <label class="btn btn-small no-print cursor-pointer focus-within:outline-2" :class="{ 'opacity-50': fixed || busy }">
    <IconCameraPlus :size="17" aria-hidden="true" />{{ busy ? "Keeping it…" : "Add a photograph" }}
    <input
      type="file"
      multiple
      accept="image/jpeg,image/png,image/heic,image/heif,.heic,.heif,.jpg,.jpeg,.png"
      class="sr-only"
      :aria-label="says"
      :disabled="fixed || busy"
      @change="chosen"
    />
  </label>
  <p v-if="trouble" class="basis-full text-[0.88rem] text-spark" role="alert">{{ trouble }}</p>
</template>
