<script setup lang="ts">
// Where the injectors sit, as a section from the side: throttles as plates across their bores, injectors as drops, the engine below.
import { computed } from "vue";

const props = defineProps<{ kit: string }>();
const PORTS = [24, 60, 96, 132];
/** Throttle bores by their middle. */
const throttles = computed(
  () => ({ individual_throttles: PORTS, throttle_body_bank: [42, 114] })[props.kit] ?? (props.kit === "throttle_body" ? [78] : []),
);
/** Injectors: their tips. */
const drops = computed(() => {
  if (props.kit === "throttle_body") return [{ x: 78, y: 10 }];
  if (props.kit === "throttle_body_bank") return [{ x: 42, y: 10 }, { x: 114, y: 10 }]; // prettier-ignore
  return PORTS.map((x) => ({ x: x + 9, y: 56 }));
});
const plenum = computed(() => !["individual_throttles"].includes(props.kit));
</script>

<template>
  <svg viewBox="0 0 156 92" class="h-[5.2rem] w-full" aria-hidden="true" fill="none" stroke="var(--ink)" stroke-width="1.6">
    <rect x="8" y="72" width="140" height="16" fill="var(--well)" />
    <template v-if="plenum">
      <rect v-if="kit === 'port_plenum'" x="10" y="18" width="136" height="22" rx="3" fill="var(--sheet)" />
      <path v-else-if="kit === 'throttle_body'" d="M66 34L14 60V72M90 34L142 60V72M24 72L66 52M132 72L90 52M50 72L72 56M106 72L84 56" />
      <path v-else d="M32 34L14 60V72M52 34L70 60V72M104 34L88 60V72M124 34L142 60V72M30 72L42 54L54 72M102 72L114 54L126 72" />
    </template>
    <template v-if="kit === 'port_plenum' || kit === 'individual_throttles'">
      <path
        v-for="x in PORTS"
        :key="x"
        :d="`M${x - 6} ${kit === 'port_plenum' ? 40 : 14}V72M${x + 6} ${kit === 'port_plenum' ? 40 : 14}V72`"
      />
    </template>
    <g v-for="x in throttles" :key="x">
      <path v-if="kit !== 'individual_throttles'" :d="`M${x - 11} 14V34M${x + 11} 14V34`" />
      <path :d="kit === 'individual_throttles' ? `M${x - 5} 34L${x + 5} 26` : `M${x - 9} 30L${x + 9} 22`" stroke-width="2.4" />
    </g>
    <path v-if="kit === 'port_plenum'" d="M10 23H0M10 35H0M2 34L7 24" stroke-width="2" />
    <path
      v-for="d in drops"
      :key="d.x"
      :d="`M${d.x} ${d.y}l-3.4 -8h6.8Z`"
      fill="var(--spark)"
      stroke="var(--spark)"
      stroke-width="1"
      :transform="kit === 'port_plenum' || kit === 'individual_throttles' ? `rotate(55 ${d.x} ${d.y})` : undefined"
    />
  </svg>
</template>
