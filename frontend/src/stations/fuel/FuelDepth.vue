<script setup lang="ts">
// What takes a while and is asked for when it is looked at: how sure the margin is and what to measure first, what would put it right, every state,
// and the chart with the other pumps on it.
import { computed } from "vue";
import { useAsked } from "@/stores/useAsked";
import { useBuild } from "@/stores/build";
import AdviceList from "./AdviceList.vue";
import CaseTable from "./CaseTable.vue";
import DoubtList from "./DoubtList.vue";
import MarginBand from "./MarginBand.vue";

defineProps<{ part: "doubt" | "mend" | "cases" }>();
const store = useBuild();
const { found: depth, stale, trouble } = useAsked("fuel");
const wanted = computed(() => store.si("/fuel/design_margin") ?? 1);
</script>

<template>
  <p v-if="trouble" class="text-spark" role="alert">{{ trouble }}</p>
  <p v-else-if="!depth" class="py-4 text-soft" role="status">Working it out…</p>
  <div v-else :aria-busy="stale" :class="{ 'opacity-60': stale }">
    <template v-if="part === 'doubt'">
      <MarginBand :band="store.plan!.stages.doubt" :shape="depth.shape" :wanted="wanted" />
      <DoubtList :doubts="depth.doubts" />
    </template>
    <AdviceList v-else-if="part === 'mend'" :advice="depth.advice" :stale="stale" />
    <CaseTable v-else :cases="depth.cases" />
  </div>
</template>
