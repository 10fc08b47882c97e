<script setup lang="ts">
// Figure against limit on a small scale: the limit is a gate, the figure a peg.
import { computed } from "vue";

const props = defineProps<{ value: number; limit: number; shown: string; shownLimit: string; colour: string }>();
const W = 260;
const most = computed(() => Math.max(props.value, props.limit, 1e-9) * 1.25);
const x = (v: number) => 4 + (Math.max(v, 0) / most.value) * (W - 8);
const end = (v: number) => (x(v) > W - 60 ? "end" : x(v) < 60 ? "start" : "middle");
</script>

<template>
  <svg
    :viewBox="`0 0 ${W} 46`"
    class="h-11 w-full max-w-80"
    preserveAspectRatio="xMinYMid meet"
    role="img"
    :aria-label="`${shown} against a limit of ${shownLimit}`"
  >
    <path :d="`M4 22H${W - 4}`" stroke="var(--line)" stroke-width="1.5" />
    <path :d="`M${x(limit)} 13V31`" stroke="var(--ink)" stroke-width="2" />
    <text :x="x(limit)" y="41" font-size="12" :text-anchor="end(limit)">limit {{ shownLimit }}</text>
    <circle :cx="x(value)" cy="22" r="5" :fill="colour" />
    <text :x="x(value)" y="11" font-size="12" font-weight="600" :text-anchor="end(value)" class="num">{{ shown }}</text>
  </svg>
</template>
