<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from "@headlessui/vue";
import { IconX } from "@tabler/icons-vue";
import { computed, ref } from "vue";
import type { Finding, Severity } from "@/api/types";
import SeverityMark from "@/parts/SeverityMark.vue";
import SnagCard from "@/parts/SnagCard.vue";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";

defineProps<{ open: boolean }>();
const emit = defineEmits<{ close: []; overrule: [Finding] }>();
const store = useBuild();
const { severities, word } = useCatalogue();
const hidden = ref<Severity[]>(["sound", "sound_if"]);
const all = computed(() => store.plan?.findings ?? []);
const shown = computed(() => all.value.filter((f) => !hidden.value.includes(f.severity)));
const count = (s: Severity) => all.value.filter((f) => f.severity === s).length;
const toggle = (s: Severity) => (hidden.value = hidden.value.includes(s) ? hidden.value.filter((h) => h !== s) : [...hidden.value, s]);
</script>

<template>
  <Dialog :open="open" class="relative z-40" @close="emit('close')">
    <div class="fixed inset-0 bg-black/40" aria-hidden="true"></div>
    <DialogPanel class="fixed inset-y-0 right-0 flex w-full max-w-2xl flex-col border-l-2 border-ink bg-ground">
      <header class="flex items-center justify-between border-b border-ink px-4 py-2">
        <DialogTitle class="text-xl">Snags</DialogTitle>
        <button type="button" class="btn btn-plain" aria-label="Close" @click="emit('close')">
          <IconX :size="20" aria-hidden="true" />
        </button>
      </header>
      <div class="flex flex-wrap gap-1.5 border-b border-line px-4 py-2" role="group" aria-label="Which to show">
        <button
          v-for="s in severities"
          :key="s"
          type="button"
          class="btn btn-small"
          :class="hidden.includes(s) ? 'opacity-100 !border-line text-soft' : 'bg-well'"
          :aria-pressed="!hidden.includes(s)"
          @click="toggle(s)"
        >
          <SeverityMark :severity="s" />{{ word(s) }} <span class="num">{{ count(s) }}</span>
        </button>
      </div>
      <div class="flex flex-1 flex-col gap-3 overflow-auto p-4" tabindex="0" role="region" aria-label="Findings, worst first">
        <SnagCard v-for="f in shown" :key="f.code + f.at" :finding="f" @go="emit('close')" @overrule="(x) => emit('overrule', x)" />
        <p v-if="!shown.length" class="text-soft">Nothing of these kinds. What is sound can be shown with the last buttons above.</p>
      </div>
    </DialogPanel>
  </Dialog>
</template>
