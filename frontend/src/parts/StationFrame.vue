<script setup lang="ts">
// A station: bench on the left, reckoning on the right. On a phone the reckoning comes first: the answer before the question.
import { computed, inject, nextTick, onMounted, watch } from "vue";
import { useRoute } from "vue-router";
import type { StationKey } from "@/api/types";
import { OVERRULE } from "@/shell/keys";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import PencilSound from "./PencilSound.vue";
import SnagCard from "./SnagCard.vue";

const props = defineProps<{ station: StationKey }>();
const store = useBuild();
const route = useRoute();
const { stations, severities } = useCatalogue();
const entry = computed(() => stations.value.find((s) => s.key === props.station)!);
const overrule = inject(OVERRULE, () => undefined);
/** Every other station says so where the engine cannot bear what is planned on it. */
const unfit = computed(() => props.station !== "engine" && ["not_fit", "mend_first"].includes(store.plan?.fitness.word ?? ""));
const snags = computed(() =>
  [...store.findings(props.station)].sort((a, b) => severities.value.indexOf(a.severity) - severities.value.indexOf(b.severity)),
);
const open = computed(() => snags.value.filter((f) => !f.severity.startsWith("sound")));
const pencilled = computed(() => snags.value.filter((f) => f.severity === "sound_if"));
const sound = computed(() => snags.value.filter((f) => f.severity === "sound"));

/** Bring the place named in the address into view and put the keyboard there. */
async function toPlace(): Promise<void> {
  if (!route.hash) return;
  await nextTick();
  let wanted = decodeURIComponent(route.hash.slice(1));
  while (wanted.length > 1 && !document.getElementById(wanted)) wanted = wanted.slice(0, wanted.lastIndexOf("/"));
  const found = document.getElementById(wanted);
  found?.scrollIntoView({ block: "center" });
  (found?.matches("input,button") ? found : (found?.querySelector<HTMLElement>("input,button") ?? found))?.focus({ preventScroll: true });
}
onMounted(toPlace);
watch(() => route.hash, toPlace);
</script>

<template>
  <div class="mx-auto grid w-full max-w-[100rem] grid-cols-1 lg:grid-cols-[minmax(23rem,29rem)_minmax(0,1fr)]">
    <section class="order-2 px-4 pb-6 lg:order-1 lg:border-r lg:border-line" :aria-label="`${entry.title}: the bench`">
      <h2 class="pt-3 pb-2 text-[1.05rem] text-soft">On the bench</h2>
      <slot name="bench" />
    </section>
    <section class="order-1 min-w-0 px-4 pb-6 lg:order-2 lg:px-6" :aria-label="`${entry.title}: the reckoning`">
      <h1 class="pt-3 text-[1.45rem]">{{ entry.asks }}</h1>
      <p v-if="unfit" class="mt-1 border-l-4 border-spark bg-wash px-3 py-2 leading-snug">
        <b>The engine is not fit yet.</b> {{ store.plan!.fitness.reason }} What is worked out here holds for an engine that is.
        <RouterLink :to="`/b/${store.id}/engine`" class="underline">To the engine</RouterLink>
      </p>
      <slot name="reckoning" />
      <div v-if="snags.length" class="mt-5">
        <h2 class="mb-2 text-[1.1rem]">Snags here</h2>
        <div class="flex flex-col gap-2.5">
          <SnagCard v-for="f in open" :key="f.code + f.at" :finding="f" @overrule="overrule" />
          <PencilSound v-if="pencilled.length" :findings="pencilled" />
          <details v-if="sound.length">
            <summary class="min-h-9 cursor-pointer py-1 text-[0.95rem]">
              {{ sound.length }} sound: {{ sound.map((f) => f.title.toLowerCase()).join(", ") }}
            </summary>
            <div class="mt-1 flex flex-col gap-2"><SnagCard v-for="f in sound" :key="f.code + f.at" :finding="f" compact /></div>
          </details>
        </div>
      </div>
    </section>
  </div>
</template>
