<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from "@headlessui/vue";
import { useBuild } from "@/stores/build";

const store = useBuild();
const told = (value: unknown) => (typeof value === "object" ? JSON.stringify(value) : String(value ?? "nothing"));
</script>

<template>
  <Dialog :open="store.clashing !== null" class="relative z-50" @close="() => undefined">
    <div class="fixed inset-0 bg-black/40" aria-hidden="true"></div>
    <div class="fixed inset-0 grid place-items-center p-4">
      <DialogPanel v-if="store.clashing" class="w-full max-w-lg border-2 border-ink bg-ground p-5">
        <DialogTitle class="text-xl">Somebody else changed the same place</DialogTitle>
        <p class="mt-3 eyebrow">What came in between</p>
        <p v-for="t in store.clashing.theirs" :key="t.summary" class="mb-1">{{ t.who || "Somebody" }}: {{ t.summary }}</p>
        <p class="mt-3 eyebrow">What you typed</p>
        <p v-for="op in store.clashing.waiting.patch.filter((o) => !o.path.startsWith('/marks'))" :key="op.path" class="num">
          {{ told(op.typed ?? op.value) }}
        </p>
        <div class="mt-4 flex flex-wrap justify-end gap-2">
          <button type="button" class="btn" @click="store.resolve(false)">Take theirs</button>
          <button type="button" class="btn btn-main" @click="store.resolve(true)">Keep mine</button>
        </div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
