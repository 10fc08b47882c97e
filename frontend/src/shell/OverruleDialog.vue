<script setup lang="ts">
// Going on over a Stop: only with a reason in the person's own words, which the start sheet prints.
import { Dialog, DialogPanel, DialogTitle } from "@headlessui/vue";
import { computed, ref, watch } from "vue";
import type { Finding } from "@/api/types";
import { useBuild } from "@/stores/build";
import { useSettings } from "@/stores/settings";

const props = defineProps<{ finding: Finding | null }>();
const emit = defineEmits<{ close: [] }>();
const store = useBuild();
const settings = useSettings();
const reason = ref("");
const by = ref("");
watch(
  () => props.finding,
  (f) => {
    reason.value = "";
    if (f) by.value = settings.who;
  },
);
const missing = computed(() =>
  reason.value.trim().length < 12 ? "Write a sentence, twelve letters at least." : by.value.trim() ? "" : "Write who decides.",
);

async function decide(): Promise<void> {
  const f = props.finding;
  if (!f || missing.value) return;
  if (!settings.who) settings.who = by.value.trim();
  const value = { code: f.code, at: f.at, reason: reason.value.trim(), by: by.value.trim() };
  await store.edit([{ op: "add", path: "/start/overrules/-", value }], value.reason);
  emit("close");
}
</script>

<template>
  <Dialog :open="finding !== null" class="relative z-50" @close="emit('close')">
    <div class="fixed inset-0 bg-black/40" aria-hidden="true"></div>
    <div class="fixed inset-0 grid place-items-center overflow-auto p-4">
      <DialogPanel v-if="finding" as="form" class="w-full max-w-lg border-2 border-spark bg-ground p-5" @submit.prevent="decide">
        <DialogTitle class="text-xl">Go on over {{ finding.code }}, {{ finding.title.toLowerCase() }}?</DialogTitle>
        <p class="my-2">{{ finding.why }}</p>
        <p class="mb-3"><b>Instead:</b> {{ finding.do }}</p>
        <label class="block text-[0.9rem]" for="overrule-reason">Why you go on. It is printed on the start sheet.</label>
        <textarea
          id="overrule-reason"
          v-model="reason"
          rows="3"
          maxlength="600"
          class="mt-1 w-full border border-line bg-sheet p-2"
        ></textarea>
        <label class="mt-2 block text-[0.9rem]" for="overrule-by">Who decides</label>
        <input id="overrule-by" v-model="by" maxlength="80" class="mt-1 h-11 w-full border border-line bg-sheet px-2" />
        <p class="mt-2 min-h-6 text-[0.9rem] text-soft" aria-live="polite">{{ missing }}</p>
        <div class="mt-2 flex justify-end gap-2">
          <button type="button" class="btn" @click="emit('close')">Leave it stopped</button>
          <button type="submit" class="btn btn-main" :disabled="!!missing">Sign and go on</button>
        </div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
