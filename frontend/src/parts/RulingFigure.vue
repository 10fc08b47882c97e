<script setup lang="ts">
// The figure that rules a station, readable from a metre away.
import { computed } from "vue";
import type { Severity } from "@/api/types";
import { split } from "@/figures/format";
import { useBuild } from "@/stores/build";
import SeverityMark from "./SeverityMark.vue";

const props = defineProps<{ figure: string; label?: string; severity?: Severity | null; suffix?: string; live?: string | null }>();
const store = useBuild();
const f = computed(() => store.plan?.figures[props.figure]);
const parts = computed(() => split(props.live ?? f.value?.shown ?? ""));
</script>

<template>
  <div :id="`g-${figure}`" class="min-w-0" :title="f ? `${f.source}. Rests on ${f.uses.join(', ')}` : ''">
    <p class="eyebrow leading-tight">{{ label ?? f?.label }}</p>
    <p class="flex flex-wrap items-baseline gap-x-2">
      <span class="num text-[2.1rem] leading-none font-semibold" :class="{ 'text-info italic': f?.assumed.length }">{{
        parts.number
      }}</span>
      <span class="text-lg">{{ suffix ?? parts.unit }}</span>
      <SeverityMark v-if="severity" :severity="severity" :size="18" word class="self-center" />
    </p>
    <p v-if="f?.assumed.length" class="text-[0.78rem] text-info italic">
      rests on {{ f.assumed.length }} assumed {{ f.assumed.length === 1 ? "value" : "values" }}
    </p>
  </div>
</template>
