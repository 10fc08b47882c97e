<script setup lang="ts">
// A station: a row of benches, each one question with its few fields beside the drawing that they move, and the snags that live there.
import { IconArrowUp } from "@tabler/icons-vue";
import { useEventListener } from "@vueuse/core";
import { computed, defineAsyncComponent, inject, nextTick, onMounted, ref, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import type { StationKey } from "@/api/types";
import { OVERRULE } from "@/shell/keys";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import { useWords } from "@/stores/words";
import BenchPencil from "./BenchPencil.vue";
import BenchRow from "./BenchRow.vue";
import BenchSnags from "./BenchSnags.vue";

/** Each bench has a slot of its key for its drawing, and one of its key and "-fields" for what is entered there. `without`: benches that this build has not. */
const props = defineProps<{ station: StationKey; without?: string[] }>();
const slots = defineSlots<Record<string, () => unknown>>();
const BenchWords = defineAsyncComponent(() => import("./BenchWords.vue"));
const store = useBuild();
const words = useWords();
const route = useRoute();
const router = useRouter();
const { benches, standsAt } = useCatalogue();
const overrule = inject(OVERRULE, () => undefined);
const row = computed(() => benches(props.station).filter((b) => !props.without?.includes(b.key)));
const bench = computed(() => row.value.find((b) => b.key === route.params.bench) ?? row.value[0]!);
const overview = computed(() => bench.value === row.value[0]);
const fields = computed(() => `${bench.value.key}-fields` in slots);
const findings = computed(() => store.findings(props.station));
/** Those of the bench; on the overview all of the station. */
const here = computed(() => (overview.value ? findings.value : findings.value.filter((f) => f.bench === bench.value.key)));
/** Every other station says so where the engine cannot bear what is planned on it. */
const unfit = computed(() => props.station !== "engine" && ["not_fit", "mend_first"].includes(store.plan?.fitness.word ?? ""));

/** While a field is typed in, the drawing is a strip on a phone. It stays one for a moment after: a button that moves away from under a finger is never pressed. */
const typing = ref(false);
let left: ReturnType<typeof setTimeout> | undefined;
const LINGERS = 400; // ms
function begin(event: FocusEvent): void {
  clearTimeout(left);
  if ((event.target as HTMLElement).matches("input, textarea")) typing.value = true;
  else leave();
}
const leave = () => (left = setTimeout(() => (typing.value = false), LINGERS));

/** Bring the place named in the address into view, on the bench where it stands, and put the keyboard there. */
async function toPlace(): Promise<void> {
  if (!route.hash) return;
  let wanted = decodeURIComponent(route.hash.slice(1));
  const at = standsAt(props.station, wanted);
  if (at && (at.station !== props.station || at.bench !== bench.value.key)) {
    const there = at.station !== props.station || row.value.some((b) => b.key === at.bench);
    if (there)
      return void router.replace({ path: `/b/${String(route.params.id)}/${at.station}/${at.bench}`, query: route.query, hash: route.hash });
  }
  await nextTick();
  const exact = wanted;
  const hash = route.hash;
  while (wanted.length > 1 && !document.getElementById(wanted)) wanted = wanted.slice(0, wanted.lastIndexOf("/"));
  put(document.getElementById(wanted));
  if (wanted === exact) return;
  const stood = document.activeElement;
  const found = await comes(exact);
  if (found && route.hash === hash && document.activeElement === stood) put(found);
}
/** Fields of a bench that is fetched when it is shown come a moment later. */
const COMES = 5000; // ms
async function comes(id: string): Promise<HTMLElement | null> {
  const until = performance.now() + COMES;
  while (!document.getElementById(id) && performance.now() < until) await new Promise(requestAnimationFrame);
  return document.getElementById(id);
}
function put(found: HTMLElement | null): void {
  for (let above = found?.closest("details"); above; above = above.parentElement?.closest("details")) above.open = true;
  found?.scrollIntoView({ block: "center" });
  (found?.matches("input,button") ? found : (found?.querySelector<HTMLElement>("input,button") ?? found))?.focus({ preventScroll: true });
}
/** On a telephone, far down a bench, one press leads back to its question and its row. */
const question = ref<HTMLElement | null>(null);
const FAR = 900; // px
const far = ref(false);
useEventListener(window, "scroll", () => (far.value = window.scrollY > FAR), { passive: true });
function toBench(): void {
  window.scrollTo({ top: 0 });
  question.value?.focus({ preventScroll: true });
}
onMounted(toPlace);
watch(() => route.hash + String(route.params.bench), toPlace);
</script>

<template>
  <div class="mx-auto w-full max-w-[100rem]">
    <BenchRow :station="station" :row="row" :bench="bench.key" />
    <div class="bench px-4 pb-3 lg:px-6" :class="{ 'bench-paired': fields, 'bench-typing': typing }">
      <div class="pb-2 [grid-area:head]">
        <h1 ref="question" class="pt-3 text-[1.45rem]" tabindex="-1">{{ bench.asks }}</h1>
        <p v-if="unfit" class="mt-1 border-l-4 border-spark bg-wash px-3 py-2 leading-snug">
          <b>The engine is not fit yet.</b> {{ store.plan!.fitness.reason }} What is worked out here holds for an engine that is.
          <RouterLink :to="`/b/${store.id}/engine`" class="underline">To the engine</RouterLink>
        </p>
      </div>
      <section
        v-if="fields"
        class="bench-fields [grid-area:fields]"
        :aria-label="`${bench.title}: fields`"
        @focusin="begin"
        @focusout="leave"
      >
        <BenchPencil v-if="!overview" :station="station" :bench="bench.key" />
        <slot :name="`${bench.key}-fields`" />
      </section>
      <div class="bench-right">
        <section v-if="bench.key in slots" class="bench-drawing min-w-0" :aria-label="`${bench.title}: drawing`">
          <slot :name="bench.key" />
        </section>
        <div class="bench-snags min-w-0">
          <BenchSnags :key="bench.key" :findings="here" :whole="overview" @overrule="overrule" />
          <BenchWords
            v-if="words.known"
            :key="`${bench.key}-words`"
            :station="station"
            :bench="bench.key"
            :asks="bench.asks"
            :figure="bench.figure"
            :findings="here"
          />
        </div>
      </div>
    </div>
    <button v-if="far" type="button" class="to-bench btn no-print sm:hidden" @click="toBench">
      <IconArrowUp :size="18" aria-hidden="true" /> To the bench
    </button>
  </div>
</template>
