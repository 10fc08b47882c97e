<script setup lang="ts">
// An entry of the diary: what was done, how long, for which task, photographs, what was measured. Big enough for a thumb; the telephone's own keyboard takes dictation.
import { IconPlus } from "@tabler/icons-vue";
import { computed, reactive, ref } from "vue";
import PhotoField from "@/parts/PhotoField.vue";
import { localDay } from "./days";
import type { Draft } from "./useDiary";
import { useWork } from "./useWork";

const props = defineProps<{ draft?: Draft | null; again?: boolean }>();
const emit = defineEmits<{ keep: [Draft]; leave: [] }>();
const { work } = useWork();
const KINDS = [
  ["did", "Done"],
  ["measured", "Measured"],
  ["decided", "Decided"],
  ["problem", "Problem"],
  ["mended", "Mended"],
  ["note", "Note"],
] as const;
const SAYS: Record<string, string> = {
  decided: "What was decided, and why",
  problem: "What is wrong",
  mended: "What put it right",
  measured: "Of what, and how it was taken",
};
const empty = (): Draft => ({ day: localDay(), kind: "did", words: "", hours: "", task: "", photos: [], measured: [] });
const form = reactive<Draft>({
  ...empty(),
  ...(props.draft
    ? { ...props.draft, photos: [...(props.draft.photos ?? [])], measured: (props.draft.measured ?? []).map((m) => ({ ...m })) }
    : {}),
});
const open = computed(() => work.value.tasks.filter((t) => ["open", "done"].includes(t.stands)));
const nothing = computed(
  () => !form.words!.trim() && !form.hours!.trim() && !form.photos!.length && !form.measured!.some((m) => m.what.trim()),
);
const busy = ref(false);
function keep(): void {
  const measured = form.measured!.filter((m) => m.what.trim() && m.value.trim());
  emit("keep", { ...form, photos: [...form.photos!], measured });
  if (!props.again) Object.assign(form, empty(), { kind: form.kind, task: form.task });
}
</script>

<template>
  <form class="grid gap-2" @submit.prevent="keep">
    <div class="flex flex-wrap gap-1" role="group" aria-label="What it is">
      <button
        v-for="[key, word] in KINDS"
        :key="key"
        type="button"
        class="btn btn-small"
        :class="{ 'btn-main': form.kind === key }"
        :aria-pressed="form.kind === key"
        @click="form.kind = key"
      >
        {{ word }}
      </button>
    </div>
    <label
      ><span class="sr-only">{{ SAYS[form.kind ?? ""] ?? "What was done" }}</span
      ><textarea
        v-model="form.words"
        rows="4"
        maxlength="8000"
        :placeholder="SAYS[form.kind ?? ''] ?? 'What was done'"
        class="w-full border border-line bg-sheet px-2 py-2 text-[1.05rem] leading-snug placeholder:text-soft"
      ></textarea>
    </label>
    <div class="grid grid-cols-3 gap-2">
      <label class="text-[0.86rem] text-soft"
        >Day<input v-model="form.day" type="date" required class="mt-0.5 h-11 w-full min-w-0 border border-line bg-sheet px-1.5 text-ink"
      /></label>
      <label class="text-[0.86rem] text-soft"
        >Hours<input
          v-model="form.hours"
          maxlength="20"
          placeholder="1:30"
          inputmode="decimal"
          class="num mt-0.5 h-11 w-full border border-line bg-sheet px-2 text-ink placeholder:text-soft"
      /></label>
      <label class="text-[0.86rem] text-soft"
        >For
        <select v-model="form.task" class="mt-0.5 h-11 w-full min-w-0 border border-line bg-sheet px-1 text-ink">
          <option value="">no task</option>
          <option v-for="t in open" :key="t.key" :value="t.key">{{ t.what }}</option>
        </select></label
      >
    </div>
    <div v-for="(m, i) in form.measured" :key="i" class="grid grid-cols-2 gap-2">
      <input
        v-model="m.what"
        maxlength="200"
        :aria-label="`What was measured, ${i + 1}`"
        placeholder="gap, tooth 3"
        class="h-11 min-w-0 border border-line bg-sheet px-2 placeholder:text-soft"
      />
      <input
        v-model="m.value"
        maxlength="200"
        :aria-label="`How much, ${i + 1}`"
        placeholder="0.85 mm"
        class="num h-11 min-w-0 border border-line bg-sheet px-2 placeholder:text-soft"
      />
    </div>
    <PhotoField v-model="form.photos!" v-model:busy="busy" says="Add a photograph to the entry">
      <button type="button" class="btn btn-small" @click="form.measured!.push({ what: '', value: '' })">
        <IconPlus :size="16" aria-hidden="true" />A reading
      </button>
    </PhotoField>
    <div class="flex gap-2">
      <button class="btn btn-main" :class="{ 'flex-1': !again }" :disabled="nothing || busy">{{ again ? "Keep it so" : "Keep it" }}</button>
      <button v-if="again" type="button" class="btn" @click="emit('leave')">Leave it</button>
    </div>
  </form>
</template>
