<script setup lang="ts">
// What goes with the car: the book as one paper, lists and calendars, and the archive that brings all of it back.
import { IconBook2, IconCalendarDown, IconFileZip, IconListDetails, IconPrinter, IconTags } from "@tabler/icons-vue";
import { computed } from "vue";
import { api } from "@/api/client";
import { asks } from "./asks";
import { useWork } from "./useWork";

const { store, today } = useWork();
const papers = computed(() => [
  {
    icon: IconBook2,
    word: "Book of the build",
    says: "One PDF: what differs, figures, drawings, pins, fuses, tests, tune, wires, parts, diary. It takes some seconds to bind.",
    at: `${api.paper(store.id, "book.pdf")}?revision=${store.revision}`,
    main: true,
  },
  {
    icon: IconFileZip,
    word: "Archive",
    says: "All of it, to read back whole: journal, diary, photographs, tables, the book; a manifest has the hash of each. It is put back in the garage.",
    at: asks.archive(store.id),
    main: true,
  },
  {
    icon: IconPrinter,
    word: "The week",
    says: "Evenings with who does what, what to order, what comes.",
    at: `${asks.at(store.id, "week.pdf")}?on=${today.value}`,
  },
  {
    icon: IconTags,
    word: "Tags",
    says: "For what comes off the car, with a square that a phone reads.",
    at: asks.at(store.id, "tags.pdf"),
  },
  { icon: IconListDetails, word: "Parts, workbook", says: "To fill in and read in again.", at: asks.at(store.id, "parts.xlsx") },
  {
    icon: IconCalendarDown,
    word: "Evenings, calendar",
    says: "For any calendar: evenings, and days by which to order.",
    at: `${asks.at(store.id, "evenings.ics")}?on=${today.value}`,
  },
]);
</script>

<template>
  <ul class="grid gap-3 sm:grid-cols-2">
    <li v-for="p in papers" :key="p.word" class="flex flex-col items-start gap-1.5 border-t border-ink py-2">
      <a :href="p.at" class="btn" :class="{ 'btn-main': p.main }"><component :is="p.icon" :size="18" aria-hidden="true" />{{ p.word }}</a>
      <p class="leading-snug text-soft">{{ p.says }}</p>
    </li>
  </ul>
</template>
