<script setup lang="ts">
// Causes, likeliest first: how likely, what speaks for and against, the mend with its minutes.
import type { components } from "@/api/schema";
import type { Look } from "./asks";

defineProps<{ diagnosis: components["schemas"]["Diagnosis"]; looks: Map<string, Look> }>();
const percent = (share: number) => (share < 0.01 ? "under 1 %" : `${Math.round(share * 100)} %`);
</script>

<template>
  <section aria-label="Likely causes">
    <h2 class="text-[1.05rem]">{{ diagnosis.sure ? "That is it, as good as sure" : "Likely causes" }}</h2>
    <p v-if="diagnosis.unexplained" class="border-l-[6px] border-spark bg-wash px-3 py-1.5" role="alert">
      Nothing in the list explains all of it: two faults at once, or a look misread.
    </p>
    <ol>
      <li v-for="(c, k) in diagnosis.causes" :key="c.key" class="border-b border-hair py-2">
        <div class="flex items-baseline justify-between gap-3">
          <span class="leading-tight" :class="{ 'text-[1.1rem] font-semibold': k === 0 }">{{ c.words }}</span>
          <span class="num whitespace-nowrap">{{ percent(c.chance) }}</span>
        </div>
        <span class="mt-1 block h-2 bg-[var(--ink)]" :style="{ width: `${Math.max(c.chance * 100, 1)}%` }" aria-hidden="true"></span>
        <p v-if="c.contradicts.length" class="mt-1 text-[0.9rem] text-soft">
          Against it: {{ c.contradicts.map((l) => looks.get(l)?.words.toLowerCase()).join("; ") }}.
        </p>
        <p v-if="k === 0 || diagnosis.causes.length < 3" class="mt-1 text-[0.95rem]">
          <b>Mend:</b> {{ c.mend }} About {{ c.minutes }} min<template v-if="c.money">, {{ c.money }} for parts</template>.
          <template v-if="!diagnosis.sure && looks.get(c.settles)"
            ><b>Settled by:</b> {{ looks.get(c.settles)!.words.toLowerCase() }}.</template
          >
        </p>
      </li>
    </ol>
  </section>
</template>
