<script setup lang="ts">
// What can be printed of the harness, in the order in which it is wanted.
import PaperLink from "@/parts/PaperLink.vue";

const GROUPS = [
  {
    word: "To order and buy by",
    papers: [
      ["sheets/order.pdf", "Order sheet, PDF"],
      ["cut-list.csv", "Cut list, CSV"],
      ["wire-list.csv", "Wire list, CSV"],
    ],
  },
  {
    word: "To lay and join by",
    papers: [
      ["form-board/a4.pdf", "Form board, full size on A4, PDF"],
      ["form-board/a3.pdf", "Form board on A3, PDF"],
      ["form-board.svg", "Form board in one piece, SVG"],
      ["wire-labels.pdf", "Labels for both ends, PDF"],
      ["sheets/connectors.pdf", "Connectors, PDF"],
      ["sheets/connectors.csv", "Connectors, CSV"],
    ],
  },
  {
    word: "To test and keep by",
    papers: [
      ["sheets/tests.pdf", "Test sheet, PDF"],
      ["test-sheet.csv", "Test sheet, CSV"],
      ["sheets/fuses.pdf", "Fuses and relays, for the lid, PDF"],
      ["sheets/fuses.csv", "Fuses and relays, CSV"],
      ["sheets/which-wire.pdf", "Which wire is this? Four positions of the key, PDF"],
      ["sheets/hand-over.pdf", "Hand-over, with spares, PDF"],
    ],
  },
  {
    word: "For a circuit simulator",
    papers: [
      ["harness.cir?state=crank", "Solved circuit, cranking"],
      ["harness.cir?state=full", "Solved circuit, full power"],
    ],
  },
];
</script>

<template>
  <section v-for="g in GROUPS" :key="g.word" class="mt-3">
    <h2 class="text-[1.05rem]">{{ g.word }}</h2>
    <p class="mt-1 flex flex-wrap gap-2">
      <PaperLink v-for="[name, word] in g.papers" :key="name" :name="name!">{{ word }}</PaperLink>
    </p>
  </section>
</template>
