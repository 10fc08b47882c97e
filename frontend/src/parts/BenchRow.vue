<script setup lang="ts">
// The benches of a station as a thin line under the ridge: name, state, ruling figure. [ and ] walk along it, and on to the next station.
import { useEventListener } from "@vueuse/core";
import { computed, nextTick, onMounted, useTemplateRef, watch } from "vue";
import { RouterLink, useRoute, useRouter } from "vue-router";
import type { Bench, StationKey } from "@/api/types";
import { SCREENS } from "@/shell/stations";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import SeverityMark from "./SeverityMark.vue";

const props = defineProps<{ station: StationKey; row: Bench[]; bench: string }>();
const store = useBuild();
const route = useRoute();
const router = useRouter();
const { severities } = useCatalogue();
const line = useTemplateRef<HTMLElement>("line");
const base = computed(() => `/b/${String(route.params.id)}/${props.station}`);
/** The worst that is said on each bench; of the whole station on its overview. */
const worst = computed(() => {
  const found = store.findings(props.station);
  return props.row.map((b, i) =>
    severities.value.find((s) => s !== "note" && found.some((f) => f.severity === s && (i === 0 || f.bench === b.key))),
  );
});
const at = computed(() => props.row.findIndex((b) => b.key === props.bench));
function walk(by: -1 | 1): void {
  const next = props.row[at.value + by];
  const beside = SCREENS[SCREENS.findIndex((s) => s.key === props.station) + by];
  if (next) void router.push({ path: `${base.value}/${next.key}`, query: route.query });
  else if (beside) void router.push({ path: `/b/${String(route.params.id)}/${beside.key}`, query: route.query });
}
useEventListener("keydown", (event: KeyboardEvent) => {
  const typing = (event.target as HTMLElement).closest("input, textarea, select, [role=dialog], [role=listbox], [role=menu]");
  if (typing || event.ctrlKey || event.metaKey || event.altKey || !["[", "]"].includes(event.key)) return;
  walk(event.key === "]" ? 1 : -1);
});
/** On a narrow screen the line scrolls: the bench that is open stands in view. */
async function inView(): Promise<void> {
  await nextTick();
  const open = line.value?.querySelector<HTMLElement>("[aria-current]");
  if (line.value && open) line.value.scrollLeft = open.offsetLeft - line.value.clientWidth / 2 + open.clientWidth / 2;
}
onMounted(inView);
watch(at, inView);
</script>

<template>
  <nav v-if="row.length > 1" aria-label="Benches" class="border-b border-line bg-ground print:hidden">
    <ol ref="line" class="relative flex overflow-x-auto px-2 lg:flex-wrap lg:px-3.5">
      <li v-for="(b, i) in row" :key="b.key" class="shrink-0">
        <RouterLink
          :to="{ path: `${base}/${b.key}`, query: route.query }"
          :aria-current="b.key === bench ? 'location' : undefined"
          class="flex min-h-11 items-center gap-1.5 border-b-[3px] lg:min-h-9 px-2 text-[0.92rem] leading-tight hover:bg-wash"
          :class="b.key === bench ? 'border-ink font-semibold' : 'border-transparent'"
        >
          <SeverityMark v-if="worst[i]" :severity="worst[i]!" :size="13" />
          <span>{{ b.title }}</span>
          <span v-if="i && b.figure && store.plan?.figures[b.figure]?.value != null" class="num text-[0.82rem] font-normal text-soft">{{
            store.plan.figures[b.figure]!.shown
          }}</span>
        </RouterLink>
      </li>
    </ol>
  </nav>
</template>
