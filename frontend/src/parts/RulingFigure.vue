<script setup lang="ts">
// The figure that rules a station, readable from a metre away.
import { useQuery } from "@pinia/colada";
import { computed, ref } from "vue";
import { api } from "@/api/client";
import type { Severity } from "@/api/types";
import { split } from "@/figures/format";
import { useBuild } from "@/stores/build";
import SeverityMark from "./SeverityMark.vue";
import Told from "./Told.vue";

const props = defineProps<{ figure: string; label?: string; severity?: Severity | null; suffix?: string; live?: string | null }>();
const store = useBuild();
const f = computed(() => store.plan?.figures[props.figure]);
/** Where figures come from, asked for once somebody points at one. */
const pointed = ref(false);
const { data: sources } = useQuery({ key: ["figures"], query: api.figures, staleTime: Infinity, enabled: () => pointed.value });
const told = computed(() => {
  const from = sources.value?.figures[props.figure];
  return from ? `${from.source}. Rests on ${from.uses.join(", ")}` : undefined;
});
/** What it rests on that nobody measured, by name. */
const resting = computed(() => [...new Set((f.value?.assumed ?? []).map((p) => store.label(p).toLowerCase()))]);
const parts = computed(() => split(props.live ?? f.value?.shown ?? ""));
</script>

<template>
  <div :id="`g-${figure}`" class="min-w-0" :title="told" @pointerenter="pointed = true">
    <p class="eyebrow leading-tight"><Told :text="label ?? f?.label ?? ''" /></p>
    <p class="flex flex-wrap items-baseline gap-x-2">
      <span class="num text-[2.1rem] leading-none font-semibold" :class="{ 'text-info italic': f?.assumed?.length }">{{
        parts.number
      }}</span>
      <span class="text-lg">{{ suffix ?? parts.unit }}</span>
      <span v-if="f?.also && !live" class="num text-[0.9rem] text-soft">{{ f.also }}</span>
      <SeverityMark v-if="severity" :severity="severity" :size="18" word class="self-center" />
    </p>
    <p v-if="f?.assumed?.length" class="text-[0.78rem] text-info italic">
      <Told text="in pencil" /> under it: {{ resting.slice(0, 2).join(", ")
      }}{{ resting.length > 2 ? ` and ${resting.length - 2} more` : "" }}
    </p>
  </div>
</template>
