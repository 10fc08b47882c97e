<script setup lang="ts">
// The box in order, best first, with what stands against each. One press fits the figures of one.
import { IconCheck } from "@tabler/icons-vue";
import { computed } from "vue";
import type { Operation, Stages } from "@/api/types";
import SeverityMark from "@/parts/SeverityMark.vue";
import { useBuild } from "@/stores/build";
import { useScales } from "@/figures/owners";

const props = defineProps<{ box: Stages["injectors"]["box"] }>();
const own = useScales();
const store = useBuild();
const SHOWN = 8;
const rows = computed(() => props.box.slice(0, SHOWN));
const fitted = computed(() => store.build!.injectors);
const isFitted = (index: number) => {
  const one = fitted.value.box?.[index];
  return !!one && one.name === fitted.value.name && one.flow === fitted.value.flow;
};
/** The figures of one from the box become those of the set that is fitted. */
function fit(index: number, name: string): void {
  const one = fitted.value.box![index]! as unknown as Record<string, unknown>;
  const patch: Operation[] = ["name", "flow", "rated_at", "fluid", "resistance", "dead_time", "connector"].flatMap((key): Operation[] => {
    const value = one[key] ?? (key === "dead_time" ? [] : key === "fluid" ? "n_heptane" : undefined);
    const at = `/injectors/${key}`;
    if (value !== undefined) return [{ op: "add", path: at, value }];
    return store.at(at) === undefined ? [] : [{ op: "remove", path: at }];
  });
  void store.edit(patch, `Fitted from the box: ${name}`);
}
</script>

<template>
  <section v-if="box.length" class="mt-5 break-inside-avoid" aria-label="The box, best first">
    <h2 class="text-[1.1rem]">Which to fit</h2>
    <ol class="mt-1">
      <li v-for="c in rows" :key="c.index" class="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 border-t border-hair py-1.5">
        <div class="leading-tight">
          <p class="flex flex-wrap items-center gap-x-2">
            <SeverityMark :severity="c.fails.length ? 'stop' : c.costs.length ? 'watch' : 'sound'" :size="15" />
            <b>{{ c.rank }}. {{ c.name }}</b>
            <span class="num text-[0.88rem] text-soft"
              >{{ own.injector.tell(c.flow_kg_s) }}, {{ Math.round(c.duty_full * 100) }} % open, {{ (c.pulse_idle_s * 1e3).toFixed(2) }} ms
              at idle</span
            >
          </p>
          <p v-if="c.fails.length" class="text-[0.9rem] text-spark">Loses: {{ c.fails.join("; ") }}.</p>
          <p v-if="c.costs.length" class="text-[0.9rem] text-soft">To adapt: {{ c.costs.join("; ") }}.</p>
          <p v-if="!c.fails.length && !c.costs.length" class="text-[0.9rem] text-soft">Passes both ends, driver and plug as they are.</p>
        </div>
        <span v-if="isFitted(c.index)" class="text-[0.9rem]">fitted</span>
        <button
          v-else
          type="button"
          class="btn btn-small no-print"
          :disabled="store.readOnly"
          :aria-label="`Fit these: ${c.name}`"
          @click="fit(c.index, c.name)"
        >
          <IconCheck :size="16" aria-hidden="true" /> Fit these
        </button>
      </li>
    </ol>
    <p v-if="box.length > SHOWN" class="text-[0.9rem] text-soft">And {{ box.length - SHOWN }} that lose by more.</p>
  </section>
</template>
