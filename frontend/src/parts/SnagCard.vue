<script setup lang="ts">
// One finding: figure against limit, why, what to do, where, and for a Stop the way to go on over it.
import { IconArrowRight } from "@tabler/icons-vue";
import { useQuery } from "@pinia/colada";
import { computed, ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import { api } from "@/api/client";
import type { Finding } from "@/api/types";
import { SEVERITY } from "@/figures/severity";
import { useBuild } from "@/stores/build";
import { useCatalogue } from "@/stores/catalogue";
import LimitScale from "./LimitScale.vue";
import SeverityMark from "./SeverityMark.vue";
import Told from "./Told.vue";

const props = defineProps<{ finding: Finding; compact?: boolean; turns?: string[] | null }>();
const emit = defineEmits<{ go: []; overrule: [Finding] }>();
const store = useBuild();
const { benchOf, word } = useCatalogue();
const route = useRoute();
const router = useRouter();
/** Where the rule comes from, fetched once somebody asks. */
const asked = ref(false);
const { data: sources } = useQuery({ key: ["figures"], query: api.figures, staleTime: Infinity, enabled: () => asked.value });
const look = computed(() => SEVERITY[props.finding.severity]);
const hasScale = computed(
  () => props.finding.value != null && props.finding.limit != null && props.finding.limit !== 0 && props.finding.severity !== "note",
);

/** Names of places, each once, the first few. */
function names(places: string[]): string {
  const all = [...new Set(places.map((p) => store.label(p)))];
  return all.slice(0, 5).join(", ") + (all.length > 5 ? ` and ${all.length - 5} more` : "");
}
function take(): void {
  const { station, bench } = benchOf(props.finding.at);
  void router.push({
    path: `/b/${String(route.params.id)}/${station}/${bench}`,
    query: route.query,
    hash: `#f${props.finding.at}`,
  });
  emit("go");
}
function settle(): void {
  const index = (store.build?.start?.overrules ?? []).findIndex((o) => o.code === props.finding.code && o.at === props.finding.at);
  if (index >= 0) void store.edit([{ op: "remove", path: `/start/overrules/${index}` }], "Reason withdrawn");
}
</script>

<template>
  <article
    class="break-inside-avoid border-l-4 bg-sheet py-1.5 pr-3 pl-3"
    :style="{ borderColor: look.colour }"
    :aria-label="`${word(finding.severity)}: ${finding.title}`"
  >
    <header class="flex flex-wrap items-center gap-x-2.5 gap-y-0.5">
      <SeverityMark :severity="finding.severity" word />
      <h3 class="font-sans font-semibold tracking-normal">{{ finding.title }}</h3>
      <span class="num ml-auto text-[0.8rem] text-soft">{{ finding.code }}</span>
    </header>
    <LimitScale
      v-if="hasScale"
      :value="finding.value!"
      :limit="finding.limit!"
      :shown="finding.shown ?? ''"
      :shown-limit="finding.shown_limit ?? ''"
      :colour="look.colour"
      class="my-1"
    />
    <p class="text-[0.95rem]"><Told :text="finding.why" /></p>
    <p v-if="finding.severity === 'stop' && finding.bars !== 'start'" class="text-[0.95rem] font-semibold">
      {{ finding.bars === "move" ? "Bars moving, not starting." : "Bars the road, not starting." }}
    </p>
    <p v-if="finding.do" class="text-[0.95rem]"><b>Do:</b> <Told :text="finding.do" /></p>
    <p v-if="finding.settle" class="text-[0.9rem] text-info">Settled by: <Told :text="finding.settle" />.</p>
    <template v-if="finding.severity === 'sound_if'">
      <p class="text-[0.9rem]"><i>In pencil under it:</i> {{ names(finding.rests_on) }}.</p>
      <p v-if="turns" class="text-[0.9rem]">
        <template v-if="turns.length"><b>Could turn it:</b> {{ names(turns) }}.</template>
        <template v-else>None of that, off by its usual doubt, would turn it.</template>
      </p>
    </template>
    <p v-if="finding.overruled" class="mt-1 border border-spark px-2 py-1 text-[0.9rem]">
      <b>Going on over it:</b> {{ finding.overruled }}
    </p>
    <footer v-if="!compact" class="no-print mt-1 flex flex-wrap items-center gap-2">
      <button v-if="!finding.severity.startsWith('sound')" type="button" class="btn btn-small" @click="take">
        Take me there <IconArrowRight :size="15" aria-hidden="true" />
      </button>
      <template v-if="(finding.holds || finding.severity === 'stop') && !store.readOnly">
        <button v-if="!finding.overruled" type="button" class="btn btn-small btn-plain underline" @click="emit('overrule', finding)">
          Go on anyway, because…
        </button>
        <button v-else type="button" class="btn btn-small btn-plain underline" @click="settle">Withdraw the reason</button>
      </template>
      <button type="button" class="btn btn-small btn-plain" :aria-expanded="asked" @click="asked = !asked">Where from</button>
      <span v-if="asked" class="text-[0.8rem] text-soft" role="status"
        >{{ sources?.checks[finding.code] }}<template v-if="finding.figure">; {{ finding.figure }} = {{ finding.shown }}</template></span
      >
    </footer>
  </article>
</template>
