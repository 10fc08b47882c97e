<script setup lang="ts">
// Where the fuel enters: an injector over or under the throttle plate, what it sprays into, what the regulator's spring side sees, and what is left across it.
import { computed } from "vue";
import { useBuild } from "@/stores/build";

const store = useBuild();
const above = computed(() => store.build!.injectors.enters === "above_plates");
const sees = computed(() => store.build!.fuel.regulator.reference);
const shown = (state: string) => store.plan?.figures[`fuel.injector.pressure.${state}`]?.shown ?? "not known";
const y = computed(() => (above.value ? 46 : 150));
const into = computed(() => (above.value ? "the open air" : "the manifold"));
const SEES: Record<string, string> = { manifold: "hose to the manifold", open_air: "open to the air", duct: "hose to the duct" };
const says = computed(
  () => `Injectors spray ${above.value ? "above" : "below"} the plate into ${into.value}; the regulator: ${SEES[sees.value]}. Across them ${shown("idle")} at idle, ${shown("full")} at full power.`,
); // prettier-ignore
</script>

<template>
  <figure class="mt-3 border border-line bg-sheet p-2">
    <figcaption class="text-[0.95rem] font-semibold">What they spray into</figcaption>
    <svg viewBox="0 0 340 206" class="w-full max-w-[34rem]" role="img" :aria-label="says">
      <g fill="none" stroke="var(--ink)" stroke-width="1.6">
        <path d="M150 14 V196 M250 14 V196" />
        <path d="M156 116 L244 92" stroke-width="4" />
        <circle cx="200" cy="104" r="5" fill="var(--sheet)" />
      </g>
      <g font-size="12" fill="var(--soft)">
        <text x="262" y="30">open air</text>
        <text x="262" y="190">manifold</text>
        <text x="262" y="108">plate</text>
      </g>
      <g :transform="`translate(0 ${y})`">
        <path d="M150 -9 H112 V9 H150 Z" fill="var(--pine)" stroke="var(--ink)" stroke-width="1.2" />
        <path d="M150 0 L196 -12 M150 0 L200 0 M150 0 L196 12" stroke="var(--slate)" stroke-width="2" fill="none" />
        <path d="M112 0 H70" stroke="var(--ink)" stroke-width="3" />
        <text x="66" y="-12" font-size="12" text-anchor="end" fill="var(--ink)">rail</text>
      </g>
      <g :stroke="'var(--ink)'" fill="none" stroke-width="1.2">
        <rect x="24" y="88" width="44" height="32" fill="var(--well)" />
        <path :d="`M46 ${y < 100 ? y : 120} V${y < 100 ? 88 : y} M46 ${y} H70`" stroke-width="3" />
        <path v-if="sees === 'manifold'" d="M68 104 H104 V178 H150" stroke-dasharray="5 4" />
        <path v-else-if="sees === 'duct'" d="M68 104 H104 V24 H150" stroke-dasharray="5 4" />
        <path v-else d="M68 104 H88 l-6 -4 m6 4 l-6 4" />
      </g>
      <text x="18" y="136" font-size="12" fill="var(--ink)">regulator</text>
    </svg>
    <p class="text-[0.95rem]">
      Left across the injector: <b class="num">{{ shown("full") }}</b> at full power, <b class="num">{{ shown("idle") }}</b> at idle.
    </p>
  </figure>
</template>
