<script setup lang="ts">
// Phones of the network: how one is paired, which are, and which is to come in no more. Asked and answered at the machine itself only.
import { Dialog, DialogPanel, DialogTitle } from "@headlessui/vue";
import { ref, watch } from "vue";
import { api, ApiError } from "@/api/client";
import type { components } from "@/api/schema";

const props = defineProps<{ open: boolean }>();
const emit = defineEmits<{ close: [] }>();
const found = ref<components["schemas"]["Devices"] | null>(null);
const offered = ref<components["schemas"]["Offered"] | null>(null);
const trouble = ref("");
async function attempt(work: () => Promise<void>): Promise<void> {
  trouble.value = "";
  try {
    await work();
    found.value = await api.devices();
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    trouble.value = error.message;
  }
}
watch(
  () => props.open,
  (open) => open && void attempt(async () => void (offered.value = null)),
  { immediate: true },
);
const offer = () => attempt(async () => void (offered.value = await api.offerPairing()));
const forget = (id: string) => attempt(() => api.forgetDevice(id));
</script>

<template>
  <Dialog :open="open" class="relative z-50" @close="emit('close')">
    <div class="fixed inset-0 bg-black/40" aria-hidden="true"></div>
    <div class="fixed inset-0 grid place-items-center overflow-auto p-4">
      <DialogPanel class="w-full max-w-lg border-2 border-ink bg-ground p-5">
        <DialogTitle class="mb-1 text-xl">Phones and tablets</DialogTitle>
        <p v-if="trouble" class="my-2 border-2 border-spark bg-sheet px-3 py-2" role="alert">{{ trouble }}</p>
        <template v-if="found && !found.address">
          <p class="my-2">Uphill Spark listens to this machine alone. To have it on the phone under the car, start it so:</p>
          <p class="num my-2 border border-line bg-sheet px-3 py-2">./spark start --listen</p>
          <p class="text-soft">It then prints an address, and a word that pairs one phone.</p>
        </template>
        <template v-else-if="found">
          <div v-if="offered" class="my-3 flex flex-wrap items-start gap-4">
            <img
              class="size-44 shrink-0 bg-white"
              alt="The address as a picture, for the phone's camera"
              :src="`data:image/svg+xml,${encodeURIComponent(offered.picture)}`"
            />
            <div class="min-w-0 flex-1">
              <p class="font-semibold">Photograph this with the phone, or go to</p>
              <p class="num break-all">{{ found.address }}/pair</p>
              <p class="mt-2">and give the word</p>
              <p class="num text-[1.15rem] font-semibold">{{ offered.word }}</p>
              <p class="mt-2 text-[0.9rem] text-soft">
                It pairs one phone, within the hour. The way there is not encrypted: a network at home, not one in a cafe.
              </p>
            </div>
          </div>
          <button type="button" class="btn btn-main my-2" @click="offer">{{ offered ? "Another word" : "Pair a phone" }}</button>
          <ul v-if="found.devices.length" aria-label="Paired" class="mt-2">
            <li v-for="d in found.devices" :key="d.id" class="flex items-center gap-3 border-t border-hair py-1.5">
              <span class="min-w-0 flex-1 leading-tight"
                ><b class="block truncate">{{ d.name }}</b
                ><span class="text-[0.85rem] text-soft">paired {{ d.paired }}, seen {{ d.seen }}</span></span
              >
              <button type="button" class="btn btn-small" :aria-label="`Forget ${d.name}`" @click="forget(d.id)">Forget</button>
            </li>
          </ul>
          <p v-else class="mt-2 text-soft">No phone is paired.</p>
        </template>
        <button type="button" class="btn mt-3" @click="emit('close')">Close</button>
      </DialogPanel>
    </div>
  </Dialog>
</template>
