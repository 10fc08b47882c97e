<script setup lang="ts">
// The words of a bench, with their pictures: those in its question, its fields, its figure and its snags.
import { computed } from "vue";
import type { Finding, StationKey } from "@/api/types";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import { useWords } from "@/stores/words";
import WordPicture from "./WordPicture.vue";

const props = defineProps<{ station: StationKey; bench: string; asks: string; figure?: string | null; findings: Finding[] }>();
const store = useBuild();
const words = useWords();
const { benchOf } = useCatalogue();
const here = (at: string) => {
  const there = benchOf(at);
  return there.station === props.station && there.bench === props.bench;
};
const fields = computed(() => Object.entries(store.fields).filter(([at]) => here(at)));
const found = computed(() =>
  words.foundIn([
    props.asks,
    store.plan?.figures[props.figure ?? ""]?.label ?? "",
    ...fields.value.flatMap(([, info]) => [info.title, info.help ?? ""]),
    ...props.findings.flatMap((f) => [f.title, f.why]),
  ]),
);
</script>

<template>
  <details v-if="found.length" class="mt-4">
    <summary class="min-h-9 cursor-pointer py-1 text-[0.95rem]">Words: {{ found.map((w) => w.title.toLowerCase()).join(", ") }}</summary>
    <dl class="mt-1 grid gap-x-6 gap-y-3 lg:grid-cols-2">
      <div v-for="w in found" :key="w.key" class="flex items-start gap-3 border-t border-hair pt-2">
        <dt class="w-32 shrink-0 leading-tight font-semibold">{{ w.title }}<WordPicture :picture="w.picture" /></dt>
        <dd class="text-[0.92rem] leading-snug">{{ w.says }}</dd>
      </div>
    </dl>
  </details>
</template>
