<script setup lang="ts">
// Of what the error is made: one bar, split by cause, and under it each cause with its doubt and its deed.
import { computed } from "vue";
import Drawing from "@/figures/Drawing.vue";
import type { CauseTold, LogSaid } from "./asks";
import CauseRow from "./CauseRow.vue";
import DeedOffer from "./DeedOffer.vue";
import NeedsLog from "./NeedsLog.vue";
import { percent, useRoad } from "./useRoad";

const road = useRoad();
interface Part {
  key: string;
  word: string;
  share: number;
  fill: string;
}
const FILLS = ["var(--ink)", "url(#off-up)", "var(--care)", "url(#off-down)", "var(--info)", "url(#off-dots)"];
const split = computed(() => road.said.value?.split ?? null);
const named = computed<CauseTold[]>(() => split.value?.causes.filter((c) => c.named) ?? []);
const others = computed<CauseTold[]>(() => split.value?.causes.filter((c) => !c.named) ?? []);
const parts = computed<Part[]>(() => {
  const s = split.value;
  if (!s) return [];
  const found: Part[] = named.value.map((c, i) => ({ key: c.key, word: c.name, share: c.share, fill: FILLS[i % FILLS.length]! }));
  if (s.rest_is) found.push({ key: "rest", word: "The table itself", share: s.rest_share, fill: "var(--line)" });
  const gone = found.reduce((sum, p) => sum + p.share, 0);
  return [...found.filter((p) => p.share > 0.004), { key: "chance", word: "chance", share: Math.max(1 - gone, 0), fill: "var(--hair)" }];
});
const laid = (width: number) => {
  let at = 0;
  return parts.value.map((p) => {
    const x = at;
    at += p.share * width;
    return { ...p, x, w: p.share * width };
  });
};
const words = (said: LogSaid) => `${said.split!.words} Shares: ${parts.value.map((p) => `${p.word} ${percent(p.share, 0)}`).join(", ")}.`;
const fill = (key: string) => parts.value.find((p) => p.key === key)?.fill ?? "var(--hair)";
</script>

<template>
  <NeedsLog v-slot="{ said }" :road="road">
    <p v-if="!said.split" class="mt-3 border-l-4 border-spark bg-wash px-3 py-2 leading-snug">{{ said.why_not }}</p>
    <template v-else>
      <p class="mt-3 text-[1.25rem] leading-snug">{{ said.split.words }}</p>
      <Drawing title="Of what the error is made" :height="84" :words="words(said)">
        <template #default="{ width }">
          <defs>
            <pattern id="off-up" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <rect width="7" height="7" fill="var(--sheet)" /><rect width="3" height="7" fill="var(--ink)" />
            </pattern>
            <pattern id="off-down" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
              <rect width="7" height="7" fill="var(--sheet)" /><rect width="3" height="7" fill="var(--spark)" />
            </pattern>
            <pattern id="off-dots" width="6" height="6" patternUnits="userSpaceOnUse">
              <rect width="6" height="6" fill="var(--sheet)" /><circle cx="3" cy="3" r="1.6" fill="var(--ink)" />
            </pattern>
          </defs>
          <g v-for="p in laid(width - 8)" :key="p.key">
            <rect :x="4 + p.x" y="8" :width="Math.max(p.w - 2, 0)" height="40" :fill="p.fill" stroke="var(--ink)" />
            <text v-if="p.w > 70" :x="8 + p.x" y="66" font-size="13" font-weight="600">{{ p.word }}</text>
            <text v-if="p.w > 38" :x="8 + p.x" :y="p.w > 70 ? 80 : 66" font-size="12" class="num">{{ percent(p.share, 0) }}</text>
          </g>
        </template>
      </Drawing>
      <ul class="mt-2">
        <CauseRow v-for="c in named" :key="c.key" :cause="c" :fill="fill(c.key)" :road="road" />
        <li v-if="said.split.rest_is" class="flex gap-3 border-t border-ink py-2">
          <span class="mt-1 size-5 shrink-0 border border-ink" style="background: var(--line)" aria-hidden="true"></span>
          <div>
            <p>
              <b>The table itself:</b> cells are off by {{ percent(said.split.rest) }} (root of the mean square) beyond what any constant
              explains.
            </p>
            <p class="text-soft">
              {{ named.length ? "After the constants. " : "" }}{{ said.correction?.moved ?? 0 }} cells would be corrected where they were
              driven.
              <RouterLink :to="{ path: `/b/${road.store.id}/road/correct`, query: { log: road.id.value } }" class="text-ink underline"
                >Look at them</RouterLink
              >
            </p>
          </div>
        </li>
      </ul>
      <div v-for="a in said.split.alike" :key="a.one + a.other" class="border-l-4 border-care bg-wash px-3 py-2 leading-snug">
        <b>{{ a.words }}</b> {{ a.parts }}
      </div>
      <DeedOffer
        v-if="!road.inBuild.value"
        class="mt-3"
        :road="road"
        :asked="{ causes: [], curves: [], cells: false, fill: true, signed_by: '', signed_why: '' }"
        word="Take the reading into the build"
        says="Its figures, and the snags of this station, then rest on this drive."
      />
      <p v-else class="mt-3 text-soft">This reading is in the build.</p>
      <details class="mt-3">
        <summary class="cursor-pointer py-1">Looked for and not named: {{ others.length }}</summary>
        <ul>
          <li v-for="c in others" :key="c.key" class="border-t border-hair py-1.5 leading-snug">
            <b>{{ c.name }}.</b> {{ c.words }}. <span class="text-soft">Likely by {{ percent(c.likely, 0) }}.</span>
          </li>
        </ul>
      </details>
    </template>
  </NeedsLog>
</template>
