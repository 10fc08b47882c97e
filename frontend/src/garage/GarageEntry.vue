<script setup lang="ts">
// One build in the garage: its verdict, its climb in small, what blocks it; or why it cannot be worked out.
import { Menu, MenuButton, MenuItem, MenuItems } from "@headlessui/vue";
import { IconDots } from "@tabler/icons-vue";
import { ref } from "vue";
import { RouterLink } from "vue-router";
import { api } from "@/api/client";
import type { GarageRow } from "@/api/types";
import RidgeLine from "@/shell/RidgeLine.vue";

defineProps<{ row: GarageRow }>();
const emit = defineEmits<{ away: [] }>();
const confirming = ref(false);
const when = (text: string) => new Date(text).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });
</script>

<template>
  <li class="grid items-center gap-x-6 gap-y-1 border-t border-ink py-4 md:grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)_auto]">
    <div class="min-w-0">
      <h2 class="text-[1.35rem]">
        <RouterLink :to="`/b/${row.id}/engine`" class="underline decoration-line decoration-2 underline-offset-4 hover:decoration-ink">{{
          row.name
        }}</RouterLink>
      </h2>
      <p class="font-semibold" :class="{ 'text-spark': row.trouble }">{{ row.trouble || row.verdict || "Being worked out…" }}</p>
      <p v-if="row.notes" class="line-clamp-2 text-[0.9rem] text-soft">{{ row.notes }}</p>
    </div>
    <div class="min-w-0">
      <RidgeLine v-if="row.stations.length" :stations="row.stations.filter((s) => !s.beside)" small />
      <p v-if="row.blocking.length" class="text-[0.9rem] text-spark">Blocked by {{ row.blocking.join("; ") }}</p>
      <p v-else-if="!row.trouble && row.verdict" class="text-[0.9rem] text-good">Nothing blocks the first start.</p>
      <p v-if="row.next" class="text-[0.9rem]">
        Next: <RouterLink :to="`/b/${row.id}/${row.next.station}/${row.next.bench}`" class="underline">{{ row.next.says }}</RouterLink>
        <span class="text-soft"> about {{ row.next.minutes }} min</span>
      </p>
    </div>
    <div class="flex items-center gap-1 text-[0.85rem] text-soft">
      <span class="num">rev {{ row.revision }}, {{ when(row.changed) }}</span>
      <Menu as="div" class="relative">
        <MenuButton class="btn btn-small btn-plain" :aria-label="`More for ${row.name}`" @click="confirming = false"
          ><IconDots :size="17" aria-hidden="true"
        /></MenuButton>
        <MenuItems class="absolute right-0 z-20 mt-1 w-60 border border-ink bg-sheet py-1 text-ink shadow-md focus:outline-none">
          <MenuItem v-slot="{ active }" as="template"
            ><a :href="api.file(row.id)" class="flex min-h-11 items-center px-4" :class="{ 'bg-ink text-on-ink': active }"
              >Build file, JSON</a
            ></MenuItem
          >
          <MenuItem v-slot="{ active }" as="template"
            ><a
              :href="api.paper(row.id, 'start-sheet.pdf')"
              class="flex min-h-11 items-center px-4"
              :class="{ 'bg-ink text-on-ink': active }"
              >First-start sheet, PDF</a
            ></MenuItem
          >
          <MenuItem v-slot="{ active }" as="template"
            ><button
              type="button"
              class="flex min-h-11 w-full items-center px-4"
              :class="{ 'bg-ink text-on-ink': active }"
              @click="confirming = true"
            >
              Put away…
            </button></MenuItem
          >
        </MenuItems>
      </Menu>
    </div>
    <div v-if="confirming" class="flex flex-wrap items-center gap-2 border border-ink bg-sheet p-3 md:col-span-3" role="alert">
      <span class="flex-1">Take {{ row.name }} out of the garage? It is kept under “What was put away” and can be brought back.</span>
      <button type="button" class="btn btn-small" @click="confirming = false">Leave it</button
      ><button type="button" class="btn btn-small btn-main" @click="emit('away')">Put away</button>
    </div>
  </li>
</template>
