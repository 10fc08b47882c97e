<script setup lang="ts">
// Around every screen of a build: bar, ridge line, station, ripple, and the dialogs.
import { Menu, MenuButton, MenuItem, MenuItems } from "@headlessui/vue";
import { IconArrowBackUp, IconArrowForwardUp, IconDots, IconMoon, IconSearch, IconSun } from "@tabler/icons-vue";
import { useEventListener } from "@vueuse/core";
import { computed, provide, ref, watch } from "vue";
import { RouterLink, RouterView, useRoute, useRouter } from "vue-router";
import { api } from "@/api/client";
import type { Finding } from "@/api/types";
import SeverityMark from "@/parts/SeverityMark.vue";
import { useBuild } from "@/stores/build";
import { useSettings } from "@/stores/settings";
import ClashDialog from "./ClashDialog.vue";
import { OVERRULE } from "./keys";
import KeysDialog from "./KeysDialog.vue";
import OverruleDialog from "./OverruleDialog.vue";
import PaletteDialog from "./PaletteDialog.vue";
import RidgeLine from "./RidgeLine.vue";
import RippleBar from "./RippleBar.vue";
import SnagsDrawer from "./SnagsDrawer.vue";
import { STATIONS } from "./stations";

const route = useRoute();
const router = useRouter();
const store = useBuild();
const settings = useSettings();
const snags = ref(false);
const palette = ref(false);
const keys = ref(false);
const overruling = ref<Finding | null>(null);
const lit = ref<string[]>([]);
provide(OVERRULE, (f) => (overruling.value = f));

const buildId = computed(() => String(route.params.id));
const asked = computed(() => (route.query.rev ? Number(route.query.rev) : undefined));
watch([buildId, asked], ([id, rev]) => void store.load(id, rev), { immediate: true });

const current = computed(() => route.meta.station as string | undefined);
const here = computed(() => store.plan?.stations.find((s) => s.key === current.value));
const open = computed(() => (store.plan?.findings ?? []).filter((f) => !["sound", "note"].includes(f.severity)).length);
const stops = computed(() => (store.plan?.findings ?? []).filter((f) => f.severity === "stop" && !f.overruled).length);
const go = (key: string) => router.push({ path: `/b/${buildId.value}/${key}`, query: route.query });
const neighbour = (by: number) => STATIONS[STATIONS.findIndex((s) => s.key === current.value) + by];

useEventListener("keydown", (event: KeyboardEvent) => {
  const typing = (event.target as HTMLElement).closest("input, textarea, [role=dialog], [role=listbox]");
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "k") {
    event.preventDefault();
    palette.value = true;
  } else if (typing || event.altKey) return;
  else if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
    event.preventDefault();
    void (event.shiftKey ? store.redo() : store.undo());
  } else if (event.ctrlKey || event.metaKey) return;
  else if (/^\d$/.test(event.key)) void go(STATIONS[(Number(event.key) + 9) % 10]!.key);
  else if (event.key === "/") {
    event.preventDefault();
    palette.value = true;
  } else if (event.key === "s") snags.value = true;
  else if (event.key === "?") keys.value = true;
});
</script>

<template>
  <div class="flex min-h-screen flex-col pb-16 print:pb-0">
    <a href="#main" class="btn sr-only focus:not-sr-only focus:absolute focus:z-50 focus:m-2">To the station</a>
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
      <button type="button" class="btn btn-small" :disabled="!store.plan" @click="palette = true">
        <IconSearch :size="16" aria-hidden="true" /><span class="max-md:sr-only">Find</span
        ><kbd class="num text-[0.75rem] text-soft max-lg:hidden">Ctrl K</kbd>
      </button>
      <button type="button" class="btn btn-small" :disabled="!store.plan" @click="snags = true">
        <SeverityMark :severity="stops ? 'stop' : open ? 'watch' : 'sound'" /> {{ open }}
        <span class="max-md:sr-only">{{ open === 1 ? "snag" : "snags" }}</span>
      </button>
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
        <MenuItems class="absolute right-0 z-40 mt-1 w-64 border border-ink bg-sheet py-1 shadow-md focus:outline-none">
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
            ><RouterLink :to="`/b/${buildId}/revisions`" class="flex min-h-11 items-center px-4" :class="{ 'bg-ink text-on-ink': active }"
              >Revisions</RouterLink
            ></MenuItem
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
          <MenuItem v-slot="{ active }" as="template">
            <button
              type="button"
              class="flex min-h-11 w-full items-center px-4"
              :class="{ 'bg-ink text-on-ink': active }"
              @click="keys = true"
            >
              Keys
            </button>
          </MenuItem>
        </MenuItems>
      </Menu>
    </header>

    <div v-if="store.away" class="border-y-2 border-spark bg-wash px-4 py-2 text-[0.95rem] print:hidden" role="status">
      The store does not answer. What you type is kept in this browser and stored when it is back<template v-if="store.mine.length"
        >: {{ store.mine.length }} {{ store.mine.length === 1 ? "change waits" : "changes wait" }}</template
      >.
    </div>
    <div
      v-if="store.plan && store.readOnly"
      class="flex flex-wrap items-center gap-3 border-y-2 border-info bg-wash px-4 py-1.5 print:hidden"
      role="status"
    >
      <span>This is revision {{ store.revision }} as it was; the build is at {{ store.head }}. Nothing can be changed here.</span>
      <RouterLink :to="{ path: route.path }" class="btn btn-small">Back to the newest</RouterLink>
    </div>

    <template v-if="store.plan && store.build">
      <RidgeLine :stations="store.plan.stations" :build-id="buildId" :current="current" :lit="lit" />
      <div v-if="here" class="flex items-center justify-between border-b border-line px-2 md:hidden print:hidden">
        <button type="button" class="btn btn-plain" :disabled="!neighbour(-1)" @click="go(neighbour(-1)!.key)">
          ←<span class="sr-only">station before</span>
        </button>
        <p class="flex flex-wrap items-center justify-center gap-x-2 text-center leading-tight">
          <b>{{ here.title }}</b> <span class="num text-[0.9rem]">{{ here.ruling }}</span>
          <SeverityMark v-if="here.severity" :severity="here.severity" word class="text-[0.9rem]" />
        </p>
        <button type="button" class="btn btn-plain" :disabled="!neighbour(1)" @click="go(neighbour(1)!.key)">
          →<span class="sr-only">next station</span>
        </button>
      </div>
      <main id="main" class="flex-1"><RouterView /></main>
      <RippleBar @light="(s) => (lit = s)" />
    </template>
    <main v-else-if="store.trouble" id="main" class="mx-auto max-w-xl p-8">
      <h1 class="text-2xl">This build cannot be shown</h1>
      <p class="my-3">{{ store.trouble }}</p>
      <RouterLink to="/" class="btn btn-main">To the garage</RouterLink>
    </main>
    <main v-else id="main" class="first-load" role="status">
      <svg viewBox="0 0 240 60" aria-hidden="true">
        <path d="M4 54 C60 50 70 30 110 32 S170 8 236 6" fill="none" stroke="currentColor" stroke-width="2" stroke-dasharray="5 5" />
      </svg>
      <p>{{ store.away ? "Waiting for the store…" : "Working the build out…" }}</p>
    </main>

    <SnagsDrawer :open="snags" @close="snags = false" @overrule="(f) => (overruling = f)" />
    <PaletteDialog :open="palette" @close="palette = false" />
    <OverruleDialog :finding="overruling" @close="overruling = null" />
    <KeysDialog :open="keys" @close="keys = false" />
    <ClashDialog />
  </div>
</template>
