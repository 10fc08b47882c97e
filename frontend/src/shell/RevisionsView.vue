<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { RouterLink, useRoute } from "vue-router";
import { api, ApiError } from "@/api/client";
import type { Journal } from "@/api/types";
import { useBuild } from "@/stores/build";
import { useSettings } from "@/stores/settings";

const store = useBuild();
const settings = useSettings();
const route = useRoute();
const id = computed(() => String(route.params.id));
const lines = ref<Journal["revisions"]>([]);
const more = ref(false);
const trouble = ref("");
async function load(below?: number): Promise<void> {
  try {
    const journal = await api.journal(id.value, below);
    lines.value = below ? [...lines.value, ...journal.revisions] : journal.revisions;
    more.value = journal.more;
    trouble.value = "";
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    trouble.value = error.message;
  }
}
watch([id, () => store.head], () => void load(), { immediate: true });
const when = (text: string) => new Date(text).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });
</script>

<template>
  <section class="mx-auto max-w-4xl px-4 pb-8">
    <h1 class="pt-3 text-[1.45rem]">Revisions</h1>
    <p class="mb-3 text-soft">Every change is kept, undo too. Open any of them to look at the build as it was.</p>
    <div class="no-print mb-4 flex flex-wrap gap-3">
      <label class="text-[0.85rem] text-soft"
        >Changes are signed<input
          v-model="settings.who"
          maxlength="80"
          placeholder="your name"
          class="mt-0.5 block h-11 w-44 border border-line bg-sheet px-2 text-ink placeholder:text-soft"
      /></label>
      <label class="flex-1 text-[0.85rem] text-soft"
        >Reason noted with the next changes, until emptied<input
          v-model="settings.reason"
          maxlength="600"
          placeholder="bigger cam"
          class="mt-0.5 block h-11 w-full min-w-56 border border-line bg-sheet px-2 text-ink placeholder:text-soft"
      /></label>
    </div>
    <p v-if="trouble" role="alert" class="text-spark">{{ trouble }}</p>
    <table class="w-full text-[0.95rem]">
      <thead class="border-b border-ink text-left text-[0.85rem] text-soft">
        <tr>
          <th class="py-1 font-normal">No.</th>
          <th class="font-normal">What</th>
          <th class="font-normal max-sm:hidden">Who</th>
          <th class="font-normal max-sm:hidden">When</th>
          <th><span class="sr-only">Open</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in lines" :key="r.number" class="border-b border-hair" :class="{ 'bg-wash': r.number === store.revision }">
          <td class="num py-1.5 pr-3 align-top">{{ r.number }}</td>
          <td class="pr-3 align-top">
            {{ r.summary }}
            <p v-if="r.reason" class="text-[0.88rem] text-soft">Because: {{ r.reason }}</p>
          </td>
          <td class="pr-3 align-top max-sm:hidden">{{ r.who || "–" }}</td>
          <td class="num pr-3 align-top text-[0.88rem] whitespace-nowrap max-sm:hidden">{{ when(r.written) }}</td>
          <td class="text-right align-top">
            <RouterLink :to="{ path: `/b/${id}/engine`, query: r.number === store.head ? {} : { rev: r.number } }" class="btn btn-small"
              >Open<span class="sr-only"> revision {{ r.number }}</span></RouterLink
            >
          </td>
        </tr>
      </tbody>
    </table>
    <button v-if="more" type="button" class="btn mt-3" @click="load(lines[lines.length - 1]!.number)">Earlier ones</button>
  </section>
</template>
