<script setup lang="ts">
// The diary: written by thumb, kept here until the server has it; below it a timeline with what was changed in the build, and a search over all of it.
import { IconHistory, IconSearch } from "@tabler/icons-vue";
import { ref } from "vue";
import { RouterLink } from "vue-router";
import DiaryEntry from "./DiaryEntry.vue";
import DiaryForm from "./DiaryForm.vue";
import { long } from "./days";
import { useDiary, type Draft } from "./useDiary";
import { useWork } from "./useWork";

const { store } = useWork();
const { search, days, entries, head, more, mine, away, loading, load, write, rewrite, takeBack } = useDiary();
const back = ref<Draft | null>(null);
const form = ref(0);
function again(id: string): void {
  back.value = takeBack(id) ?? null;
  form.value++;
}
</script>

<template>
  <div class="grid gap-x-8 gap-y-3 lg:grid-cols-[22rem_minmax(0,1fr)] lg:items-start">
    <section class="min-w-0" aria-label="Write">
      <DiaryForm :key="form" :draft="back" @keep="write" />
      <ul v-if="mine.length" class="mt-2" role="status">
        <li v-for="w in mine" :key="w.body.id" class="border-l-4 border-care bg-wash px-3 py-1.5 leading-snug">
          <template v-if="w.trouble">
            <span class="text-spark">{{ w.trouble }}</span>
            <button type="button" class="btn btn-small ml-2" @click="again(w.body.id)">Put it right</button>
          </template>
          <template v-else>Waits on this device until the server answers: {{ w.body.words || "an entry" }}</template>
        </li>
      </ul>
      <p v-if="head" class="mt-3 text-soft">
        <b class="num text-ink">{{ head.hours }} h</b> are written down in all.
      </p>
    </section>
    <section class="min-w-0" aria-label="What was written">
      <label class="flex items-center gap-2"
        ><IconSearch :size="18" aria-hidden="true" /><span class="sr-only">Search the diary</span
        ><input
          v-model="search"
          type="search"
          maxlength="120"
          placeholder="Search all of it: words, beginnings of words, a code"
          class="h-11 w-full border border-line bg-sheet px-2 placeholder:text-soft"
      /></label>
      <p v-if="away" class="mt-2 text-care" role="status">The server does not answer; what is written is kept on this device.</p>
      <ul v-if="head?.off.length" class="mt-2">
        <li v-for="o in head.off" :key="o.code" class="border-t border-hair py-1.5">
          <RouterLink :to="{ path: `/b/${store.id}/work/off`, hash: `#f/work/off/${o.code}` }" class="underline"
            ><span class="num font-bold uppercase">{{ o.code }}</span> {{ o.what }}</RouterLink
          ><span v-if="o.goes" class="text-soft">, back to {{ o.goes }}</span>
        </li>
      </ul>
      <p v-if="head && !days.length && !head.off.length" class="mt-4 text-soft">
        {{
          search
            ? "Nothing that was written has these words."
            : "Nothing is written yet. An evening is worth three lines: what was done, what was read, what was decided and why."
        }}
      </p>
      <div v-for="d in days" :key="d.day" class="mt-4">
        <h2 class="border-b border-ink pb-1 text-[1.02rem]">{{ long(d.day) }}</h2>
        <DiaryEntry v-for="e in d.entries" :key="e.id" :entry="e" :rewrite="rewrite" />
        <p v-for="c in d.changes" :key="c.first" class="flex gap-2 border-t border-hair py-1.5 text-[0.9rem] leading-snug text-soft">
          <IconHistory :size="17" class="mt-0.5 shrink-0" aria-hidden="true" />
          <span class="min-w-0"
            >{{ c.many === 1 ? `Revision ${c.last}` : `${c.many} changes, revisions ${c.first} to ${c.last}` }}: {{ c.summaries.join(" ") }}
            <RouterLink :to="`/b/${store.id}/revisions`" class="underline">All of them</RouterLink></span
          >
        </p>
      </div>
      <button v-if="more" type="button" class="btn mt-3" :disabled="loading" @click="load(true)">Earlier</button>
      <p v-if="!head && !away" class="mt-3 text-soft" role="status">Opening the diary…</p>
      <p class="sr-only" role="status">{{ search ? `${entries.length} entries found` : "" }}</p>
    </section>
  </div>
</template>
