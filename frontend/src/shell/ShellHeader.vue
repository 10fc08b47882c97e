<script setup lang="ts">
// The bar above every screen of a build: its name and verdict, find, snags, undo, and the menu of papers.
import { Menu, MenuButton, MenuItem, MenuItems } from "@headlessui/vue";
import { IconArrowBackUp, IconArrowForwardUp, IconCalendarEvent, IconDots, IconMoon, IconSearch, IconSun } from "@tabler/icons-vue";
import { computed } from "vue";
import { RouterLink, useRouter } from "vue-router";
import { api } from "@/api/client";
import SeverityMark from "@/parts/SeverityMark.vue";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import { UNITS, useSettings, type Units } from "@/stores/settings";

defineProps<{ buildId: string }>();
const emit = defineEmits<{ find: []; snags: []; keys: [] }>();
const router = useRouter();
const store = useBuild();
const { atRest } = useCatalogue();
const settings = useSettings();
const open = computed(() => (store.plan?.findings ?? []).filter((f) => !atRest(f.severity)).length);
/** Everything told anew in other units; what is stored stays as it was written. */
function tellIn(units: Units): void {
  settings.units = units;
  void store.load(store.id, store.readOnly ? store.revision : undefined);
}
const stops = computed(() => (store.plan?.findings ?? []).filter((f) => f.holds && !f.overruled).length);
</script>

<template>
  <header class="mx-auto flex w-full max-w-[100rem] items-center gap-x-3 px-4 pt-2 print:hidden">
    <RouterLink to="/" class="font-head text-[1.05rem] font-bold whitespace-nowrap hover:underline max-sm:text-[0.9rem]"
      >Uphill Spark</RouterLink
    >
    <div v-if="store.plan" class="min-w-0 flex-1 leading-tight">
      <p class="truncate text-[1.02rem] font-semibold">{{ store.plan.name }}</p>
      <p class="truncate text-[0.82rem] text-soft max-sm:hidden">
        {{ store.plan.verdict }} Revision {{ store.revision
        }}<template v-if="store.mine.length">, {{ store.mine.length }} waiting to be stored</template>
      </p>
    </div>
    <div v-else class="flex-1"></div>
    <button type="button" class="btn btn-small" :disabled="!store.plan" @click="emit('find')">
      <IconSearch :size="16" aria-hidden="true" /><span class="max-md:sr-only">Find</span
      ><kbd class="num text-[0.75rem] text-soft max-lg:hidden">Ctrl K</kbd>
    </button>
    <button type="button" class="btn btn-small" :disabled="!store.plan" @click="emit('snags')">
      <SeverityMark :severity="stops ? 'stop' : open ? 'watch' : 'sound'" /> {{ open }}
      <span class="max-md:sr-only">{{ open === 1 ? "snag" : "snags" }}</span>
    </button>
    <RouterLink
      v-if="store.plan"
      :to="`/b/${buildId}/work`"
      class="btn btn-small"
      active-class="btn-main"
      :title="`${store.plan.stations.at(-1)?.ruling}. Key W`"
      ><IconCalendarEvent :size="16" aria-hidden="true" /><span class="max-sm:sr-only">Work</span></RouterLink
    >
    <button
      type="button"
      class="btn btn-small max-md:!hidden"
      aria-label="Undo"
      :disabled="!store.canUndo || store.readOnly"
      @click="store.undo()"
    >
      <IconArrowBackUp :size="17" aria-hidden="true" />
    </button>
    <button
      type="button"
      class="btn btn-small max-md:!hidden"
      aria-label="Redo"
      :disabled="!store.canRedo || store.readOnly"
      @click="store.redo()"
    >
      <IconArrowForwardUp :size="17" aria-hidden="true" />
    </button>
    <Menu as="div" class="relative">
      <MenuButton class="btn btn-small" aria-label="Papers and more"><IconDots :size="17" aria-hidden="true" /></MenuButton>
      <MenuItems
        class="absolute right-0 z-40 mt-1 max-h-[80vh] w-64 overflow-y-auto border border-ink bg-sheet py-1 shadow-md focus:outline-none"
      >
        <MenuItem
          v-for="p in [
            ['start-sheet.pdf', 'First-start sheet, PDF'],
            ['fuel-sheet.pdf', 'Fuel sheet, PDF'],
            ['wire-list.csv', 'Wire list, CSV'],
            ['tune.json', 'All tables, JSON'],
            ['figures.csv', 'All figures, CSV'],
          ]"
          :key="p[0]"
          v-slot="{ active }"
          as="template"
        >
          <a :href="api.paper(buildId, p[0]!)" class="flex min-h-11 items-center px-4" :class="{ 'bg-ink text-on-ink': active }">{{
            p[1]
          }}</a>
        </MenuItem>
        <MenuItem v-slot="{ active }" as="template"
          ><a :href="api.file(buildId)" class="flex min-h-11 items-center px-4" :class="{ 'bg-ink text-on-ink': active }"
            >Build file, JSON</a
          ></MenuItem
        >
        <MenuItem v-slot="{ active }" as="template"
          ><button
            type="button"
            class="flex min-h-11 w-full items-center px-4"
            :class="{ 'bg-ink text-on-ink': active }"
            @click="router.push(`/b/${buildId}/guesses`)"
          >
            What rests on guesses
          </button></MenuItem
        >
        <MenuItem v-slot="{ active }" as="template"
          ><button
            type="button"
            class="flex min-h-11 w-full items-center px-4"
            :class="{ 'bg-ink text-on-ink': active }"
            @click="router.push(`/b/${buildId}/revisions`)"
          >
            Revisions
          </button></MenuItem
        >
        <MenuItem v-slot="{ active }" as="template">
          <button
            type="button"
            class="flex min-h-11 w-full items-center gap-2 px-4"
            :class="{ 'bg-ink text-on-ink': active }"
            @click="settings.toggleTheme()"
          >
            <component :is="settings.theme === 'night' ? IconSun : IconMoon" :size="17" aria-hidden="true" />{{
              settings.theme === "night" ? "Day theme" : "Night theme"
            }}
          </button>
        </MenuItem>
        <p class="border-t border-hair px-4 pt-2 text-[0.85rem] text-soft">Units</p>
        <MenuItem v-for="u in UNITS" :key="u.value" v-slot="{ active }" as="template">
          <button
            type="button"
            class="flex min-h-11 w-full items-center gap-2 px-4"
            :class="{ 'bg-ink text-on-ink': active }"
            :aria-pressed="settings.units === u.value"
            @click="tellIn(u.value)"
          >
            <span class="w-3" aria-hidden="true">{{ settings.units === u.value ? "•" : "" }}</span>{{ u.word }}
          </button>
        </MenuItem>
        <MenuItem v-slot="{ active }" as="template">
          <button
            type="button"
            class="flex min-h-11 w-full items-center border-t border-hair px-4"
            :class="{ 'bg-ink text-on-ink': active }"
            @click="emit('keys')"
          >
            Keys
          </button>
        </MenuItem>
      </MenuItems>
    </Menu>
  </header>
</template>
