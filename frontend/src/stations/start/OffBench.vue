<script setup lang="ts">
// It does not run as it should: what was seen, the likely causes, the look that parts them best, the mend, and back to the step.
import { useSessionStorage } from "@vueuse/core";
import { computed, onScopeDispose, ref, shallowRef, watch } from "vue";
import { RouterLink } from "vue-router";
import { ApiError } from "@/api/client";
import { useBuild } from "@/stores/build";
import { startApi, type Diagnosed } from "./asks";
import CauseList from "./CauseList.vue";
import LookList from "./LookList.vue";
import LookTaken from "./LookTaken.vue";

const store = useBuild();
const kept = useSessionStorage<Record<string, { look: string; shown: string | null }[]>>("uphill-spark.seen", {});
const seen = computed(() => kept.value[store.id] ?? []);
const found = shallowRef<Diagnosed | null>(null);
const trouble = ref("");
const AGAIN = 700; // ms until what is still worked out is asked for again
let timer: ReturnType<typeof setTimeout> | undefined;
let asked = 0;
async function ask(): Promise<void> {
  clearTimeout(timer);
  const mine = ++asked;
  try {
    const said = await startApi.diagnosis(store.id, seen.value, true);
    if (mine !== asked) return;
    found.value = said;
    trouble.value = said.state === "failed" ? (said.why ?? "") : "";
    if (said.state === "running") timer = setTimeout(() => void ask(), AGAIN);
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    if (mine !== asked) return;
    trouble.value = error.body.problems[0] ? `${error.body.problems[0].given}: write ${error.body.problems[0].wants}.` : error.message;
  }
}
watch([() => store.id, () => store.revision, seen], () => void ask(), { immediate: true });
onScopeDispose(() => clearTimeout(timer));
function put(look: string, shown: string | null): void {
  kept.value = { ...kept.value, [store.id]: [...seen.value.filter((s) => s.look !== look), { look, shown }] };
}
function take(look: string): void {
  kept.value = { ...kept.value, [store.id]: seen.value.filter((s) => s.look !== look) };
}
const looks = computed(() => new Map((found.value?.looks ?? []).map((l) => [l.key, l])));
const next = computed(() => {
  const told = found.value?.diagnosis?.next;
  const look = told && looks.value.get(told.look);
  return told && look ? { told, look } : null;
});
/** Readings of the steps count as seen, but are changed at their steps. */
const fromSteps = computed(() => (found.value?.evidence ?? []).filter((e) => !seen.value.some((s) => s.look === e.look)));
const open = computed(() => store.plan!.stages.start.steps.find((s) => !s.done) ?? store.plan!.stages.start.steps[0]!);
</script>

<template>
  <section class="min-h-64" aria-label="It is off">
    <p class="text-[0.92rem] text-soft">
      Say what you see. A hundred causes are held against it, each worked out on this car's own models, taken as in order but for that one
      cause; then the look that tells most for its minutes.
    </p>
    <p v-if="found?.state === 'running'" role="status" class="mt-3">
      What each fault looks like on this car is being worked out{{ found.progress ? `: ${Math.round(found.progress * 100)} %` : "" }} …
    </p>
    <p v-if="trouble" role="alert" class="mt-3 font-semibold">{{ trouble }}</p>
    <div v-if="found?.diagnosis" class="mt-2 grid gap-x-8 gap-y-3 lg:grid-cols-2">
      <div>
        <section v-if="next" class="border-2 border-ink p-3" aria-label="Look at this next">
          <h2 class="text-[1.05rem]">Look at this next</h2>
          <LookTaken :key="next.look.key" :look="next.look" :shown="undefined" @put="(shown) => put(next!.look.key, shown)" />
          <p v-if="next.told.shows.length > 1" class="mt-1 text-[0.9rem] text-soft">
            <template v-for="(s, k) in next.told.shows" :key="k">{{ k ? "; " : "" }}{{ s[0] }}: {{ s[1] }}</template
            >.
          </p>
        </section>
        <h2 class="mt-4 text-[1.05rem]">What you saw</h2>
        <p v-if="!seen.length && !fromSteps.length" class="text-soft">Nothing yet. Begin with what it does when started.</p>
        <ul>
          <li v-for="s in seen" :key="s.look" class="flex items-start gap-3 border-b border-hair py-1.5">
            <LookTaken
              v-if="looks.get(s.look)"
              class="flex-1"
              :look="looks.get(s.look)!"
              :shown="s.shown"
              brief
              @put="(shown) => put(s.look, shown)"
            />
            <button type="button" class="btn btn-small" :aria-label="`Strike: ${looks.get(s.look)?.words}`" @click="take(s.look)">
              Strike
            </button>
          </li>
          <li v-for="e in fromSteps" :key="e.look" class="border-b border-hair py-1.5 text-[0.95rem]">
            {{ looks.get(e.look)?.words }}: <b>{{ e.shown }} {{ looks.get(e.look)?.unit }}</b>
            <span class="text-soft">read at its step</span>
          </li>
        </ul>
        <LookList :looks="found.looks!" :done="seen.map((s) => s.look)" @put="put" />
      </div>
      <div>
        <CauseList :diagnosis="found.diagnosis" :looks="looks" />
        <p class="mt-4">
          <RouterLink :to="{ path: `/b/${store.id}/start/car` }" class="btn"
            >Mended: back to step {{ open.number }}, {{ open.title.toLowerCase() }}</RouterLink
          >
        </p>
      </div>
    </div>
  </section>
</template>
