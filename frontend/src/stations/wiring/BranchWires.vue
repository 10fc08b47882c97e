<script setup lang="ts">
// What runs in a branch: each wire with its colour, size and the most that it carries, thickest first.
import { computed } from "vue";
import type { Stages } from "@/api/types";
import { useScales } from "@/figures/owners";
import { useBuild } from "@/stores/build";
import ColourStripe from "./ColourStripe.vue";

const props = defineProps<{ wiring: Stages["wiring"]; branch: string }>();
const own = useScales();
const store = useBuild();
const row = computed(() => props.wiring.branches.find((b) => b.key === props.branch));
const name = (key: string) => props.wiring.nodes.find((n) => n.key === key)?.name ?? key;
const wires = computed(() => props.wiring.wires.filter((w) => w.path.includes(props.branch)).sort((a, b) => b.area_m2 - a.area_m2));
/** How far a wire is: tested, or laid, hidden, wrapped without. */
function stands(key: string): string {
  const t = props.wiring.tests.find((r) => r.wire === key);
  if (!t || (t.stage === "planned" && t.verdict === "open")) return "";
  return t.verdict === "pass" ? "tested" : t.verdict === "fail" ? "fails" : t.covered ? `${t.stage}, not tested` : t.stage;
}
const loud = computed(() => wires.value.filter((w) => w.noise === "B").length);
const deaf = computed(() => wires.value.filter((w) => "DE".includes(w.noise)).length);
</script>

<template>
  <section v-if="row" class="mt-3" :aria-label="`In ${name(row.start)} to ${name(row.end)}`">
    <h2 class="text-[1.05rem] first-letter:uppercase">
      {{ name(row.start) }} to {{ name(row.end) }}: {{ wires.length }} wires, {{ own.length.tell(row.diameter_m) }}
    </h2>
    <p class="text-[0.88rem] text-soft">{{ loud }} that make noise, {{ deaf }} that hear it.</p>
    <ul class="mt-1 max-h-64 columns-1 overflow-y-auto text-[0.88rem] sm:columns-2" tabindex="0" aria-label="Wires in it">
      <li v-for="w in wires" :key="w.key" class="flex min-h-8 items-center gap-2 border-t border-hair">
        <ColourStripe :colour="w.colour" />
        <RouterLink :to="`/b/${store.id}/wiring/wires#w-${w.key}`" class="min-w-0 flex-1 truncate underline decoration-line">{{
          w.label
        }}</RouterLink>
        <span v-if="stands(w.key)" class="text-[0.82rem] text-soft">{{ stands(w.key) }}</span>
        <span class="num">{{ +(w.area_m2 * 1e6).toPrecision(3) }} mm²</span
        ><span class="num w-16 text-right">{{ w.current_a.toFixed(1) }} A</span>
      </li>
    </ul>
  </section>
</template>
