<script setup lang="ts">
// What a person notes of the day on which a log was driven: its name, day, words, photographs.
import { reactive, ref } from "vue";
import PhotoField from "@/parts/PhotoField.vue";
import type { LogLine } from "./asks";

const props = defineProps<{ log: LogLine }>();
const emit = defineEmits<{ keep: [{ name: string; day: string; note: string; photos: string[] }] }>();
const form = reactive({ name: props.log.name, day: props.log.day, note: props.log.note, photos: [...props.log.photos] });
const busy = ref(false);
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
    <PhotoField v-model="form.photos" v-model:busy="busy" says="Add a photograph of the day">
      <button class="btn btn-small btn-main" :disabled="busy">Keep the notes</button>
    </PhotoField>
  </form>
</template>
