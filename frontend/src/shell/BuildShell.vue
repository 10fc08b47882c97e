<script setup lang="ts">
// Around every screen of a build: bar, ridge line, station, ripple, and the dialogs.
import { useEventListener, useNetwork } from "@vueuse/core";
import { computed, defineAsyncComponent, nextTick, provide, ref, watch } from "vue";
import { RouterLink, RouterView, useRoute, useRouter } from "vue-router";
import type { Finding, StationKey } from "@/api/types";
import SeverityMark from "@/parts/SeverityMark.vue";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import { useSettings } from "@/stores/settings";
import { useWords } from "@/stores/words";
import { OVERRULE } from "./keys";
import NextLine from "./NextLine.vue";
import RidgeLine from "./RidgeLine.vue";
import ShellHeader from "./ShellHeader.vue";
import { fieldsOf, SCREENS } from "./stations";

/** What is opened seldom is fetched when it is first opened, and stays. */
const SnagsDrawer = defineAsyncComponent(() => import("./SnagsDrawer.vue"));
const PaletteDialog = defineAsyncComponent(() => import("./PaletteDialog.vue"));
const OverruleDialog = defineAsyncComponent(() => import("./OverruleDialog.vue"));
const KeysDialog = defineAsyncComponent(() => import("./KeysDialog.vue"));
const RippleBar = defineAsyncComponent(() => import("./RippleBar.vue"));
const wordCard = () => import("./WordCard.vue");
const WordCard = defineAsyncComponent(wordCard);
const ClashDialog = defineAsyncComponent(() => import("./ClashDialog.vue"));

const route = useRoute();
const router = useRouter();
const store = useBuild();
const settings = useSettings();
const snags = ref(false);
const palette = ref(false);
const keys = ref(false);
const overruling = ref<Finding | null>(null);
const opened = new Set<string>();
const once = (open: boolean, name: string) => (open ? Boolean(opened.add(name)) : opened.has(name));
const lit = ref<string[]>([]);
provide(OVERRULE, (f) => (overruling.value = f));

const buildId = computed(() => String(route.params.id));
const asked = computed(() => (route.query.rev ? +route.query.rev : undefined));
const current = computed(() => route.meta.station as StationKey | undefined);
const screen = computed(() => SCREENS.find((s) => s.key === current.value));
watch([buildId, asked], ([id, rev]) => void store.load(id, rev, screen.value?.needs), { immediate: true });
const { title, stations } = useCatalogue();
/** A screen is drawn once the results and fields that it shows are here. */
watch(
  [current, () => store.id, () => store.revision, () => store.plan !== null],
  () => screen.value && void store.show(screen.value.needs, fieldsOf(screen.value)),
  { immediate: true },
);
const ready = computed(() => stations.value.length > 0 && (!screen.value || store.ready(screen.value.needs, fieldsOf(screen.value))));
const place = computed(() => (current.value ? title(current.value) : String(route.meta.title ?? "")));
watch(
  [place, () => store.plan?.name],
  ([at, car]) => {
    if (at && car) document.title = `${at} · ${car} · Uphill Spark`;
  },
  { immediate: true },
);
/** A tab that comes back to the front looks whether the build has moved on elsewhere. */
const words = useWords();
const moved = ref(0);
useEventListener(document, "visibilitychange", async () => {
  if (document.hidden || store.readOnly || !store.plan) return;
  moved.value = await store.refresh();
});
/** All stations at hand once the first is drawn: the store may be away when the next is wanted. Not where the browser is told to save data: each comes when it is gone to. */
const { saveData } = useNetwork();
const AT_EASE = 4000; // ms
watch(
  () => store.plan !== null,
  (here) => here && setTimeout(() => void ahead(), AT_EASE),
  { immediate: true },
);
async function ahead(): Promise<void> {
  const card = await wordCard().catch(() => null);
  if (card) await words.load(); // a word that can be pressed has its card
  if (saveData.value) return;
  await store.fetchAhead(SCREENS.flatMap((s) => s.needs));
  for (const load of [...SCREENS.map((s) => s.view), () => import("./RippleBar.vue"), () => import("@/parts/QuestionList.vue")])
    await load().catch(() => undefined);
}
/** On arrival at another screen the keyboard goes to its heading, unless the address names a field. */
const arrived = ref(route.path);
watch(
  [() => route.path, ready],
  async ([path, drawn]) => {
    if (!drawn || path === arrived.value) return;
    arrived.value = path;
    if (route.hash) return;
    await nextTick();
    requestAnimationFrame(() => {
      const at = document.activeElement;
      if (!at || at === document.body || at.closest("nav, header, [data-testid=next]"))
        document.querySelector<HTMLElement>("main h1")?.focus({ preventScroll: true });
    });
  },
  { flush: "post" },
);
const here = computed(() => store.plan?.stations.find((s) => s.key === current.value));
const go = (key: string) => router.push({ path: `/b/${buildId.value}/${key}`, query: route.query });
const neighbour = (by: number) => SCREENS[SCREENS.findIndex((s) => s.key === current.value) + by];

useEventListener("keydown", (event: KeyboardEvent) => {
  const typing = (event.target as HTMLElement).closest(
    "input, textarea, select, [contenteditable], [role=dialog], [role=listbox], [role=menu], [role=option]",
  );
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "k") {
    event.preventDefault();
    palette.value = true;
  } else if (typing || event.altKey) return;
  else if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
    event.preventDefault();
    void (event.shiftKey ? store.redo() : store.undo());
  } else if (event.ctrlKey || event.metaKey || !settings.letterKeys) return;
  else if (/^\d$/.test(event.key)) void go(SCREENS[(+event.key + 9) % 10]!.key);
  else if (event.key === "/") {
    event.preventDefault();
    palette.value = true;
  } else if (event.key === "s") snags.value = true;
  else if (event.key === "w") void go("work");
  else if (event.key === "?") keys.value = true;
});
</script>

<template>
  <div class="flex min-h-screen flex-col pb-16 print:pb-0">
    <a href="#main" class="btn sr-only focus:not-sr-only focus:absolute focus:z-50 focus:m-2">To the station</a>
    <ShellHeader :build-id="buildId" @find="palette = true" @snags="snags = true" @keys="keys = true" />

    <div v-if="store.away" class="border-y-2 border-spark bg-wash px-4 py-2 text-[0.95rem] print:hidden" role="status">
      The store does not answer. What you type is kept in this browser and stored when it is back<template v-if="store.mine.length"
        >: {{ store.mine.length }} {{ store.mine.length === 1 ? "change waits" : "changes wait" }}</template
      >.
    </div>
    <div v-if="moved" class="flex flex-wrap items-center gap-3 border-y-2 border-info bg-wash px-4 py-1.5 print:hidden" role="status">
      <span
        >The build has moved on elsewhere by {{ moved }} {{ moved === 1 ? "revision" : "revisions" }}; it is shown as it stands now.</span
      >
      <RouterLink :to="`/b/${buildId}/revisions`" class="btn btn-small">What changed</RouterLink>
      <button type="button" class="btn btn-small" @click="moved = 0">Seen</button>
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
      <RidgeLine :stations="store.plan.stations.filter((s) => !s.beside)" :build-id="buildId" :current="current" :lit="lit" />
      <nav
        v-if="here"
        class="flex items-center justify-between border-b border-line px-2 md:hidden print:hidden"
        aria-label="Station before, next station"
      >
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
      </nav>
      <NextLine v-if="!store.readOnly" :acts="store.plan.next" :build-id="buildId" />
      <main id="main" class="flex-1">
        <RouterView v-if="ready" />
        <p v-else class="p-8 text-center text-soft" role="status">Drawing it…</p>
      </main>
      <WordCard v-if="words.known" />
      <!-- There from the first, so that a reader of the screen hears the first change too. -->
      <p class="sr-only" aria-live="polite" data-testid="spoken">{{ store.ripple?.sentence }}</p>
      <RippleBar v-if="store.ripple" @light="(s) => (lit = s)" />
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

    <SnagsDrawer v-if="once(snags, 'snags')" :open="snags" @close="snags = false" @overrule="(f) => (overruling = f)" />
    <PaletteDialog v-if="once(palette, 'palette')" :open="palette" @close="palette = false" />
    <OverruleDialog v-if="once(overruling !== null, 'overrule')" :finding="overruling" @close="overruling = null" />
    <KeysDialog v-if="once(keys, 'keys')" :open="keys" @close="keys = false" />
    <ClashDialog v-if="store.clashing" />
  </div>
</template>
