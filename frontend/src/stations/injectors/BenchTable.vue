<script setup lang="ts">
// Every injector that was tested: its flow at the rating, what cleaning gained, its place and trim; two of them side by side on asking.
import { computed, ref } from "vue";
import type { Stages } from "@/api/types";
import { useScales } from "@/figures/owners";

const props = defineProps<{ bench: Stages["injectors"]["bench"] }>();
const own = useScales();
const picked = ref<string[]>([]);
function pick(mark: string): void {
  picked.value = picked.value.includes(mark) ? picked.value.filter((m) => m !== mark) : [...picked.value.slice(-1), mark];
}
const percent = (d: number | null | undefined) => (d == null ? "" : `${d >= 0 ? "+" : "−"}${Math.abs(d * 100).toFixed(1)} %`);
const pair = computed(() => picked.value.map((m) => props.bench.rows.find((r) => r.mark === m)).filter((r) => r !== undefined));
const said = computed(() => {
  const [a, b] = pair.value;
  if (!a || !b) return "";
  const more = a.flow_kg_s >= b.flow_kg_s ? a : b;
  const less = more === a ? b : a;
  const share = more.flow_kg_s / less.flow_kg_s - 1;
  const rich = `Side by side ${more.mark} gives ${percent(share).slice(1)} more: one of the two cylinders runs that much off.`;
  const drips = [a, b].filter((r) => r.drops).map((r) => `${r.mark} drips`).join(", "); // prettier-ignore
  return `${rich} ${share <= props.bench.spread_sound ? "They go together." : share <= props.bench.spread_most ? "With trims they go together." : "They do not go together."}${drips ? ` ${drips}.` : ""}`;
});
</script>

<template>
  <section v-if="bench.rows.length" class="mt-4" aria-label="Tested on the bench">
    <div class="relative overflow-x-auto" tabindex="0" role="region" aria-label="Flow tests">
      <table class="w-full text-[0.88rem]">
        <caption class="pb-1 text-left text-[0.95rem] font-semibold">
          Tested, at the rated pressure on the rating fluid
        </caption>
        <thead class="border-b border-ink text-left text-[0.8rem] text-soft">
          <tr>
            <th class="py-1 font-normal">Mark</th>
            <th class="px-2 font-normal">fit to</th>
            <th class="px-2 text-right font-normal">{{ own.injector.unit }}</th>
            <th class="px-2 text-right font-normal">against the set</th>
            <th class="px-2 text-right font-normal">trim</th>
            <th class="px-2 text-right font-normal">by cleaning</th>
            <th class="px-2 text-right font-normal">drops</th>
            <th class="px-2 font-normal">spray</th>
            <th class="no-print px-2 font-normal">compare</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in bench.rows" :key="r.mark" class="border-b border-hair" :class="{ 'text-soft': !r.cylinder }">
            <td class="py-0.5 font-semibold">{{ r.mark }}</td>
            <td class="px-2">{{ r.cylinder ? `cylinder ${r.cylinder}` : "left out" }}</td>
            <td class="num px-2 text-right">{{ own.injector.bare(r.flow_kg_s, 1) }}</td>
            <td class="num px-2 text-right">{{ percent(r.deviation) }}</td>
            <td class="num px-2 text-right font-semibold">{{ r.trim == null ? "" : r.trim.toFixed(3) }}</td>
            <td class="num px-2 text-right">{{ percent(r.gain) }}</td>
            <td class="num px-2 text-right" :class="{ 'text-spark': r.drops }">{{ r.drops ?? "" }}</td>
            <td class="px-2">{{ r.spray.replace(/_/g, " ") }}</td>
            <td class="no-print px-2">
              <label class="flex min-h-8 items-center"
                ><input type="checkbox" class="h-5 w-5" :checked="picked.includes(r.mark)" @change="pick(r.mark)" /><span class="sr-only"
                  >Compare {{ r.mark }}</span
                ></label
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="said" class="mt-1 text-[0.92rem]" role="status">{{ said }}</p>
    <p v-else class="mt-1 text-[0.85rem] text-soft">Tick two to hold them side by side.</p>
  </section>
</template>
