<script setup lang="ts">
// The last change in one sentence, what it moved anywhere on the hill, and the way back.
import { IconArrowBackUp, IconChevronUp } from "@tabler/icons-vue";
import { ref } from "vue";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";

const store = useBuild();
const open = ref(false);
const emit = defineEmits<{ light: [string[]] }>();
const { title } = useCatalogue();
const percent = (c: number | null | undefined) =>
  c == null ? "" : `${c > 0 ? "+" : "−"}${Math.abs(c * 100).toFixed(Math.abs(c) < 0.095 ? 1 : 0)} %`;
</script>

<template>
  <aside
    v-if="store.ripple"
    class="fixed inset-x-0 bottom-0 z-20 border-t-2 border-ink bg-sheet print:hidden"
    aria-label="What the last change moved"
    @mouseenter="emit('light', store.ripple?.stations ?? [])"
    @mouseleave="emit('light', [])"
  >
    <div class="mx-auto flex max-w-[100rem] items-center gap-3 px-4 py-1.5">
      <p class="min-w-0 flex-1 text-[0.95rem] leading-snug max-md:line-clamp-3" data-testid="ripple">
        {{ store.ripple.sentence }}
      </p>
      <button type="button" class="btn btn-small" :aria-expanded="open" @click="open = !open">
        <IconChevronUp :size="16" :class="{ 'rotate-180': open }" aria-hidden="true" />
        {{ store.ripple.figures.length + store.ripple.findings.length }} moved
      </button>
      <button type="button" class="btn btn-small" :disabled="!store.canUndo || store.readOnly" @click="store.undo()">
        <IconArrowBackUp :size="16" aria-hidden="true" /> Undo
      </button>
    </div>
    <div
      v-if="open"
      class="mx-auto max-h-[45vh] max-w-[100rem] overflow-auto border-t border-hair px-4 py-2"
      tabindex="0"
      role="region"
      aria-label="Everything that moved"
    >
      <ul v-if="store.ripple.findings.length" class="mb-2 grid gap-x-8 sm:grid-cols-2">
        <li v-for="m in store.ripple.findings" :key="m.code + m.at" class="flex gap-2 border-b border-hair py-1 text-[0.92rem]">
          <span class="num w-20 shrink-0">{{ m.code }}</span><span class="flex-1">{{ m.title }}</span>
          <span class="shrink-0">{{ m.before ?? "–" }} → {{ m.after ?? "gone" }}</span>
        </li>
      </ul>
      <table class="w-full text-[0.92rem]">
        <thead class="sr-only">
          <tr>
            <th>Station</th>
            <th>Figure</th>
            <th>Before</th>
            <th>After</th>
            <th>Change</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="m in store.ripple.figures" :key="m.name" class="border-b border-hair">
            <td class="py-0.5 pr-3 text-soft max-sm:hidden">{{ title(m.station) }}</td>
            <td class="pr-3">{{ m.label }}</td>
            <td class="num pr-2 text-right whitespace-nowrap">{{ m.shown_before }}</td>
            <td class="num pr-3 font-semibold whitespace-nowrap">→ {{ m.shown_after }}</td>
            <td class="num text-right whitespace-nowrap text-soft">{{ percent(m.change) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </aside>
</template>
