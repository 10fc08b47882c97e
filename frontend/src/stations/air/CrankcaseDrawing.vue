<script setup lang="ts">
// The crankcase breathes through two hoses: fumes to the manifold below the throttle, fresh air from the filter before it. People swap them.
import { computed } from "vue";
import type { Stages } from "@/api/types";
import type { Port } from "./ports";
import Drawing from "@/figures/Drawing.vue";

const props = defineProps<{ air: Stages["air"]; ports: Record<string, Port> }>();
const H = 258;
interface Side {
  word: string;
  belongs: "filter" | "manifold";
  at: "filter" | "manifold" | "off";
  wrong: boolean;
}
function side(kind: string, word: string, belongs: Side["belongs"]): Side {
  const hose = props.air.hoses.find((h) => h.kind === kind);
  const source = hose?.now ? props.ports[hose.now]?.source : undefined;
  const at = !source ? "off" : source === "filtered_air" ? "filter" : "manifold";
  return { word, belongs, at, wrong: !hose || !!hose.wrong };
}
const clean = computed(() => side("crankcase_breather", "clean side: breather", "filter"));
const dirty = computed(() => side("crankcase_valve", "dirty side: valve", "manifold"));
const place = { filter: "filtered air", manifold: "the manifold", off: "nothing" };
const words = computed(() =>
  [clean.value, dirty.value].map((s) => `${s.word} is on ${place[s.at]}${s.wrong ? `, it belongs on ${place[s.belongs]}` : ""}`).join("; "),
);
/** Where the ends of the hoses sit, in the drawing's own measure (400 wide). */
const FROM = { clean: { x: 214, y: 138 }, dirty: { x: 306, y: 138 } };
const TO = { filter: { x: 62, y: 66 }, manifold: { x: 268, y: 66 } };
function hose(which: "clean" | "dirty", to: "filter" | "manifold"): string {
  const [a, b] = [FROM[which], TO[to]];
  const off = which === "clean" ? -7 : 7;
  return `M${a.x} ${a.y}C${a.x} ${a.y - 40} ${b.x + off} ${b.y + 52} ${b.x + off} ${b.y}`;
}
</script>

<template>
  <Drawing title="How the crankcase breathes" :height="H" :words="words">
    <template #default="{ width }">
      <g :transform="`translate(${Math.max((width - 430) / 2, 0)} 8)`" fill="none" stroke="var(--ink)" stroke-width="1.6">
        <rect x="18" y="26" width="88" height="40" />
        <path d="M30 26V66M42 26V66M54 26V66M66 26V66" stroke="var(--line)" />
        <path d="M106 34H232M106 58H232" />
        <path d="M160 58L178 34" stroke-width="3" />
        <circle cx="169" cy="46" r="3" fill="var(--ink)" />
        <rect x="232" y="26" width="120" height="40" />
        <path d="M252 66v14M332 66v14" />
        <path d="M196 138h132l10 20v70H186v-70z" />
        <path d="M186 158h152" stroke="var(--line)" />
        <path d="M194 214c24-10 46 10 70 0s46-10 66 0" stroke="var(--soft)" />
        <template v-for="(s, key) in { clean, dirty }" :key="key">
          <path v-if="s.wrong" :d="hose(key, s.belongs)" stroke="var(--good)" stroke-width="2" stroke-dasharray="6 4" />
          <path
            v-if="s.at !== 'off'"
            :d="hose(key, s.at)"
            :stroke="s.wrong ? 'var(--spark)' : 'var(--ink)'"
            :stroke-width="s.wrong ? 5 : 4"
          />
          <circle :cx="FROM[key].x" :cy="FROM[key].y" r="5" :fill="s.wrong ? 'var(--spark)' : 'var(--ink)'" />
        </template>
      </g>
      <g :transform="`translate(${Math.max((width - 430) / 2, 0)} 8)`" font-size="12">
        <text x="18" y="18">air filter</text>
        <text x="146" y="24">throttle</text>
        <text x="236" y="18">manifold, vacuum</text>
        <text x="262" y="196" text-anchor="middle">crankcase</text>
        <text
          x="190"
          y="132"
          text-anchor="end"
          :style="{ fill: clean.wrong ? 'var(--spark)' : undefined }"
          :font-weight="clean.wrong ? 700 : 400"
          >clean side</text
        >
        <text
          :x="Math.min(322, width - 66)"
          y="132"
          :style="{ fill: dirty.wrong ? 'var(--spark)' : undefined }"
          :font-weight="dirty.wrong ? 700 : 400"
          >{{ width < 440 ? "dirty side" : "dirty side, valve" }}</text
        >
        <text v-if="clean.at === 'off'" x="190" y="147" text-anchor="end" style="fill: var(--spark)">left off</text>
        <text v-if="dirty.at === 'off'" x="322" y="147" style="fill: var(--spark)">left off</text>
      </g>
    </template>
  </Drawing>
</template>
