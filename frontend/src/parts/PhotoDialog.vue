<script setup lang="ts">
// One photograph, large.
import { Dialog, DialogPanel, DialogTitle } from "@headlessui/vue";
import { api } from "@/api/client";

defineProps<{ photo: string; of: string; lost: boolean; fixed: boolean }>();
const emit = defineEmits<{ close: []; off: [] }>();
</script>

<template>
  <Dialog :open="true" class="relative z-50" @close="emit('close')">
    <div class="fixed inset-0 bg-black/60" aria-hidden="true" />
    <div class="fixed inset-0 grid place-items-center p-4">
      <DialogPanel class="max-h-full max-w-full overflow-auto border border-ink bg-sheet p-3">
        <DialogTitle class="text-[1.05rem]">{{ of.charAt(0).toUpperCase() + of.slice(1) }}</DialogTitle>
        <img v-if="!lost" :src="api.photo(photo)" :alt="of" class="mt-2 max-h-[75vh] max-w-full" />
        <p v-else class="my-6">This photograph is not kept in this store: the build came from elsewhere.</p>
        <div class="mt-2 flex flex-wrap gap-2">
          <button type="button" class="btn btn-small btn-main" @click="emit('close')">Close</button>
          <button type="button" class="btn btn-small" :disabled="fixed" @click="emit('off')">Take it off</button>
        </div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
