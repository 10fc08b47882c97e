<script setup lang="ts">
// One entry: kind, words, readings, photographs, who and how long; changed or struck out with what it said before kept.
import { computed, defineAsyncComponent, ref } from "vue";
import { api } from "@/api/client";
import type { Entry } from "./asks";
import DiaryForm from "./DiaryForm.vue";
import type { Draft } from "./useDiary";
import { useWork } from "./useWork";

const props = defineProps<{ entry: Entry; rewrite: (entry: Entry, draft: Draft, struck?: boolean) => Promise<string> }>();
const PhotoDialog = defineAsyncComponent(() => import("@/parts/PhotoDialog.vue"));
const { task } = useWork();
const WORDS: Record<string, string> = {
  did: "Done",
  measured: "Measured",
  decided: "Decided",
  problem: "Problem",
  mended: "Mended",
  note: "Note",
};
const editing = ref(false);
const trouble = ref("");
const shown = ref("");
const draft = computed<Draft>(() => ({ ...props.entry, hours: props.entry.hours === null ? "" : String(props.entry.hours) }));
const plain = (d: Draft): Draft => ({
  day: d.day,
  kind: d.kind,
  words: d.words,
  hours: d.hours,
  task: d.task,
  photos: d.photos,
  measured: d.measured,
});
async function keep(d: Draft, struck = false): Promise<void> {
  trouble.value = await props.rewrite(props.entry, plain(d), struck);
  editing.value = Boolean(trouble.value);
}
</script>

<template>
  <article class="border-t border-hair py-2" :class="{ 'opacity-70': entry.struck }">
    <DiaryForm v-if="editing" again :draft="draft" @keep="keep" @leave="editing = false" />
    <template v-else>
      <p class="flex flex-wrap items-baseline gap-x-3 text-[0.88rem] text-soft">
        <b class="text-ink" :class="{ 'text-spark': entry.kind === 'problem' }">{{ WORDS[entry.kind] }}</b>
        <span v-if="entry.task">{{ task(entry.task)?.what ?? entry.task }}</span>
        <span v-if="entry.hours" class="num">{{ entry.hours }} h</span>
        <span v-if="entry.who">{{ entry.who }}</span>
        <span v-if="entry.struck">struck out</span>
      </p>
      <p class="mt-0.5 leading-snug whitespace-pre-line [overflow-wrap:anywhere]" :class="{ 'line-through': entry.struck }">
        {{ entry.words }}
      </p>
      <dl v-if="entry.measured.length" class="mt-1 grid max-w-md grid-cols-[1fr_auto] gap-x-4">
        <template v-for="(m, i) in entry.measured" :key="i">
          <dt>{{ m.what }}</dt>
          <dd class="num text-right">{{ m.value }}</dd>
        </template>
      </dl>
      <p v-if="entry.photos.length" class="mt-1.5 flex flex-wrap gap-2">
        <button
          v-for="(p, i) in entry.photos"
          :key="p"
          type="button"
          class="size-16 overflow-hidden border border-line bg-well"
          :aria-label="`Photograph ${i + 1}`"
          @click="shown = p"
        >
          <img :src="api.photo(p, true)" alt="" class="h-full w-full object-cover" />
        </button>
      </p>
      <div class="no-print mt-1 flex flex-wrap items-center gap-x-4">
        <button type="button" class="min-h-9 text-[0.86rem] underline" @click="editing = true">Change it</button>
        <button type="button" class="min-h-9 text-[0.86rem] underline" @click="keep(draft, !entry.struck)">
          {{ entry.struck ? "Let it stand again" : "Strike it out" }}
        </button>
        <details v-if="entry.before.length" class="text-[0.86rem]">
          <summary class="flex min-h-9 cursor-pointer items-center underline">Said before</summary>
          <p v-for="(b, i) in entry.before" :key="i" class="text-soft">
            {{ b.words }} <span v-if="b.who">(until {{ b.changed.slice(0, 10) }}, {{ b.who }})</span>
          </p>
        </details>
      </div>
    </template>
    <p v-if="trouble" class="text-[0.88rem] text-spark" role="alert">{{ trouble }}</p>
    <PhotoDialog v-if="shown" :photo="shown" of="the entry" :lost="false" fixed @close="shown = ''" />
  </article>
</template>
