<script setup lang="ts">
// What is sound on values in pencil: folded to a line; opened, each says what it rests on, and which of that would turn it.
import { computed, ref } from "vue";
import type { Finding } from "@/api/types";
import { useAsked } from "@/stores/useAsked";
import SnagCard from "./SnagCard.vue";

const props = defineProps<{ findings: Finding[] }>();
const frame = ref<HTMLElement | null>(null);
const { found, stale } = useAsked("turns", frame);
const could = (f: Finding): string[] | null => (found.value && !stale.value ? (found.value.turns[`${f.code} ${f.at}`] ?? []) : null);
const turning = computed(() => props.findings.filter((f) => could(f)?.length).length);
</script>

<template>
  <details>
    <summary class="min-h-9 cursor-pointer py-1 text-[0.95rem]">
      {{ findings.length }} sound if the pencil holds<template v-if="turning">, {{ turning }} could turn</template>:
      {{ findings.map((f) => f.title.toLowerCase()).join(", ") }}
    </summary>
    <div ref="frame" class="mt-1 flex flex-col gap-2">
      <SnagCard v-for="f in findings" :key="f.code + f.at" :finding="f" :turns="could(f)" compact />
    </div>
  </details>
</template>
