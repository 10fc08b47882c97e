<script setup lang="ts">
// What a person notes of the day on which a log was driven: its name, day, words, photographs.
import { IconCameraPlus } from "@tabler/icons-vue";
import { reactive } from "vue";
import { api } from "@/api/client";
import { usePhotosKept } from "@/parts/keepPhotos";
import { useCatalogue } from "@/stores/catalogue";
import type { LogLine } from "./asks";

const props = defineProps<{ log: LogLine }>();
const emit = defineEmits<{ keep: [{ name: string; day: string; note: string; photos: string[] }] }>();
const { photographs } = useCatalogue();
const form = reactive({ name: props.log.name, day: props.log.day, note: props.log.note, photos: [...props.log.photos] });
const { busy, trouble, chosen } = usePhotosKept();
async function photos(event: Event): Promise<void> {
  form.photos = [...new Set([...form.photos, ...(await chosen(event, photographs.value.bytes))])].slice(0, photographs.value.most);
}
</script>

<template>
  <form class="grid gap-2 px-2 pb-3" @submit.prevent="emit('keep', { ...form, photos: [...form.photos] })">
    <div class="flex gap-2">
      <label class="min-w-0 flex-1 text-[0.86rem] text-soft"
        >Called<input v-model="form.name" required maxlength="120" class="mt-0.5 h-11 w-full border border-line bg-sheet px-2 text-ink"
      /></label>
      <label class="text-[0.86rem] text-soft"
        >Driven on<input v-model="form.day" type="date" required class="mt-0.5 block h-11 border border-line bg-sheet px-1.5 text-ink"
      /></label>
    </div>
    <label class="text-[0.86rem] text-soft"
      >Notes of the day<textarea
        v-model="form.note"
        rows="3"
        maxlength="4000"
        class="mt-0.5 w-full border border-line bg-sheet px-2 py-1.5 text-ink"
      ></textarea>
    </label>
    <div class="flex flex-wrap items-center gap-2">
      <img v-for="p in form.photos" :key="p" :src="api.photo(p, true)" alt="" class="size-16 border border-line object-cover" />
      <label class="btn btn-small cursor-pointer focus-within:outline-2"
        ><IconCameraPlus :size="17" aria-hidden="true" />{{ busy ? "Keeping it…" : "Photograph"
        }}<input
          type="file"
          multiple
          class="sr-only"
          aria-label="Add a photograph of the day"
          accept="image/jpeg,image/png,image/heic,image/heif,.heic,.heif,.jpg,.jpeg,.png"
          :disabled="busy"
          @change="photos"
      /></label>
      <button class="btn btn-small btn-main" :disabled="busy">Keep the notes</button>
    </div>
    <p v-if="trouble" role="alert" class="text-[0.88rem] text-spark">{{ trouble }}</p>
  </form>
</template>
