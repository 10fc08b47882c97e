<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from "@headlessui/vue";
import { useSettings } from "@/stores/settings";

const settings = useSettings();
defineProps<{ open: boolean }>();
const emit = defineEmits<{ close: [] }>();
const KEYS = [
  ["1 to 9, 0", "go to a station"],
  ["Ctrl K or /", "find a figure, field, wire or snag"],
  ["S", "snags"],
  ["W", "the work: this evening, tasks, parts, diary"],
  ["Ctrl Z, Ctrl Shift Z", "undo, redo"],
  ["Enter or Tab", "take what was typed"],
  ["Esc", "put back what stood there"],
  ["[ and ]", "walk along the benches of a station"],
  ["Arrows", "move in a table, turn the wheel, lift the rail"],
  ["?", "these keys"],
];
</script>

<template>
  <Dialog :open="open" class="relative z-50" @close="emit('close')">
    <div class="fixed inset-0 bg-black/40" aria-hidden="true"></div>
    <div class="fixed inset-0 grid place-items-center p-4">
      <DialogPanel class="w-full max-w-md border-2 border-ink bg-ground p-5">
        <DialogTitle class="mb-2 text-xl">Keys</DialogTitle>
        <dl>
          <div v-for="[key, does] in KEYS" :key="key" class="flex justify-between gap-4 border-t border-hair py-1.5">
            <dt class="num font-semibold">{{ key }}</dt>
            <dd class="text-right">{{ does }}</dd>
          </div>
        </dl>
        <label class="mt-3 flex min-h-11 items-center gap-2.5 border-t border-hair pt-2"
          ><input v-model="settings.letterKeys" type="checkbox" class="size-5" />Single letters and figures are keys</label
        >
        <button type="button" class="btn btn-main mt-3" @click="emit('close')">Close</button>
      </DialogPanel>
    </div>
  </Dialog>
</template>
