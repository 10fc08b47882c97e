<script setup lang="ts">
// The log as an open format with every column that it came with; the drive plan and the reading on paper.
import { IconDownload, IconPrinter } from "@tabler/icons-vue";
import PaperLink from "@/parts/PaperLink.vue";
import { roadApi } from "./asks";
import NeedsLog from "./NeedsLog.vue";
import { useRoad } from "./useRoad";

const road = useRoad();
const FILES = [
  { kind: "csv", word: "CSV", says: "Text with units in the names, for a spreadsheet." },
  { kind: "mf4", word: "MDF 4", says: "The measurement format of ASAM, packed." },
  { kind: "parquet", word: "Parquet", says: "Columns, for whoever computes on." },
];
</script>

<template>
  <PaperLink name="sheets/road.pdf">Every drive, on one sheet</PaperLink>
  <NeedsLog class="mt-3" :road="road" />
  <ul v-if="road.line.value?.rows" class="mt-3 grid gap-3 sm:grid-cols-2">
    <li v-for="f in FILES" :key="f.kind" class="flex flex-col items-start gap-1.5 border-t border-ink py-2">
      <a :href="roadApi.file(road.store.id, road.id.value, f.kind)" class="btn"
        ><IconDownload :size="18" aria-hidden="true" />{{ f.word }}</a
      >
      <p class="leading-snug text-soft">{{ f.says }} Every column and row that was read, as it came.</p>
    </li>
    <template v-if="road.said.value">
      <li class="flex flex-col items-start gap-1.5 border-t border-ink py-2">
        <a :href="roadApi.paper(road.store.id, road.id.value, 'plan.pdf')" class="btn btn-main"
          ><IconPrinter :size="18" aria-hidden="true" />Drive plan</a
        >
        <p class="leading-snug text-soft">What is still to be driven, for the passenger.</p>
      </li>
      <li class="flex flex-col items-start gap-1.5 border-t border-ink py-2">
        <a :href="roadApi.paper(road.store.id, road.id.value, 'reading.pdf')" class="btn btn-main"
          ><IconPrinter :size="18" aria-hidden="true" />Reading of the log</a
        >
        <p class="leading-snug text-soft">What is off and by how much, snags of the day, pulls: for the folder of the car.</p>
      </li>
    </template>
  </ul>
</template>
