<script setup lang="ts">
// Consumers on the left, ports on the right: where each hose goes, where it should go, and which ports want a cap.
import { computed } from "vue";
import type { Stages } from "@/api/types";
import Drawing from "@/figures/Drawing.vue";
import { CONSUMERS, SOURCES, type Port } from "./ports";

const props = defineProps<{ air: Stages["air"]; ports: Record<string, Port> }>();
const ROW = 34;
const names = computed(() => Object.keys(props.ports));
const H = computed(() => Math.max(props.air.hoses.length, names.value.length) * ROW + 52);
const left = (width: number) => Math.min(width * 0.44, 220);
const right = (width: number) => Math.max(width * 0.6, width - 220);
const yOf = (i: number) => 44 + i * ROW;
const portY = (name: string) => yOf(names.value.indexOf(name));
const path = (width: number, i: number, name: string) =>
  `M${left(width)} ${yOf(i)}C${(left(width) + right(width)) / 2} ${yOf(i)} ${(left(width) + right(width)) / 2} ${portY(name)} ${right(width)} ${portY(name)}`;
const words = computed(
  () =>
    props.air.hoses
      .map(
        (h) =>
          `${CONSUMERS[h.kind]} ${h.now ? `goes to ${h.now}` : "is left off"}${h.wrong ? `, wrong: ${h.wrong}` : ""}${h.proposed && h.proposed !== h.now ? `, belongs on ${h.proposed}` : ""}`,
      )
      .join("; ") + (props.air.open_ports.length ? `. Open: ${props.air.open_ports.join(", ")}.` : "."),
);
</script>

<template>
  <Drawing title="Which hose on which port" :height="H" :words="words">
    <template #default="{ width }">
      <text x="14" y="20" font-size="12" style="fill: var(--soft)">draws</text>
      <text :x="width - 14" y="20" font-size="12" text-anchor="end" style="fill: var(--soft)">gives</text>
      <g v-for="(h, i) in air.hoses" :key="h.kind">
        <path
          v-if="h.proposed && h.proposed !== h.now"
          :d="path(width, i, h.proposed)"
          fill="none"
          stroke="var(--good)"
          stroke-width="2"
          stroke-dasharray="6 4"
        />
        <path
          v-if="h.now && names.includes(h.now)"
          :d="path(width, i, h.now)"
          fill="none"
          :stroke="h.wrong ? 'var(--spark)' : 'var(--ink)'"
          :stroke-width="h.wrong ? 2.6 : 2.2"
        />
        <circle
          :cx="left(width)"
          :cy="yOf(i)"
          r="5"
          :fill="h.now ? (h.wrong ? 'var(--spark)' : 'var(--ink)') : 'var(--sheet)'"
          stroke="var(--ink)"
          stroke-width="1.6"
        />
        <text
          :x="left(width) - 11"
          :y="yOf(i) + 4"
          text-anchor="end"
          font-size="12.5"
          :font-weight="h.wrong ? 700 : 400"
          :style="{ fill: h.wrong ? 'var(--spark)' : undefined }"
          >{{ CONSUMERS[h.kind]!.split(",")[0] }}</text
        >
      </g>
      <g v-for="(name, j) in names" :key="name">
        <rect
          :x="right(width) - 5"
          :y="yOf(j) - 5"
          width="10"
          height="10"
          :fill="ports[name]!.capped ? 'var(--ink)' : 'var(--sheet)'"
          :stroke="air.open_ports.includes(name) ? 'var(--spark)' : 'var(--ink)'"
          stroke-width="1.8"
        />
        <text
          :x="right(width) + 11"
          :y="yOf(j)"
          font-size="12.5"
          :style="{ fill: air.open_ports.includes(name) ? 'var(--spark)' : undefined }"
          :font-weight="air.open_ports.includes(name) ? 700 : 400"
          >{{ name }}{{ ports[name]!.capped ? ", capped" : air.open_ports.includes(name) ? ", open" : "" }}</text
        >
        <text :x="right(width) + 11" :y="yOf(j) + 13" font-size="12" style="fill: var(--soft)"
          >{{ SOURCES[ports[name]!.source ?? ""]?.split(",")[0] ?? "not noted" }}, {{ ports[name]!.bore ?? "not measured" }}</text
        >
      </g>
    </template>
  </Drawing>
</template>
