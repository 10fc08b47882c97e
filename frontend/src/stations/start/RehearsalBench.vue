<script setup lang="ts">
// The first start rehearsed without a person: how many of many starts catch and idle, by cold and battery; what it hangs on; what would help, tried.
import { computed, ref } from "vue";
import { useScales } from "@/figures/owners";
import WorkedOut from "@/parts/WorkedOut.vue";
import { useAsked } from "@/stores/useAsked";
import { useBuild } from "@/stores/build";
import StartsChart from "./StartsChart.vue";
import { now } from "./taken";

const here = ref<HTMLElement | null>(null);
const asked = useAsked("rehearsal", here);
const { found } = asked;
const own = useScales();
const store = useBuild();
const stops = computed(() => (store.plan?.findings ?? []).filter((f) => f.holds && !f.overruled && f.severity === "stop").length);
const kept = computed(() => store.build?.start?.rehearsed ?? null);
function keep(): void {
  const { runs, catch: caught, idle } = found.value!;
  const value = { runs, catch: caught, idle, when: now() };
  void store.edit([{ op: "add", path: "/start/rehearsed", value }]);
}
const same = computed(() => kept.value?.catch === found.value?.catch && kept.value?.idle === found.value?.idle);
const percent = (share: number) => `${Math.round(share * 100)} %`;
const celsius = (c: number) => own.value.temperature.tell(c + 273.15);
const coldest = computed(() => Math.min(...(found.value?.chart ?? []).map((s) => s.cold)));
const helps = computed(() => (found.value?.tried ?? []).filter((t) => t.good > found.value!.idle + 0.01));
</script>

<template>
  <section ref="here" class="min-h-64" aria-label="Rehearsal">
    <p class="text-[0.92rem] text-soft">
      This car's own tables and harness, from key to idle, on a model of its engine: each time with other injectors, filling, dead time,
      cold, battery and sender, each within what it may be off. A model: it says what to look at, not that it will start.
    </p>
    <p v-if="stops" class="mt-2 border-l-[6px] border-spark bg-wash px-3 py-2">
      <b>{{ stops }} {{ stops === 1 ? "Stop holds" : "Stops hold" }} the first start.</b> The rehearsal knows of fuel, volts, outputs, edge,
      trigger angle, order, limit and tables; what else the Stops name it does not feel.
      <RouterLink :to="`/b/${store.id}/start`" class="underline">To the Stops</RouterLink>
    </p>
    <WorkedOut what="The rehearsal" :asked="asked" />
    <template v-if="found">
      <p v-if="found.blocked" class="mt-3 border-l-[6px] border-spark bg-wash px-3 py-2 font-semibold" role="alert">{{ found.blocked }}</p>
      <div class="mt-3 grid grid-cols-2 gap-4 sm:grid-cols-4">
        <p>
          <span class="block text-[0.85rem] text-soft">Catches</span
          ><b class="num text-[2rem] leading-none" data-testid="catch">{{ percent(found.catch) }}</b>
        </p>
        <p>
          <span class="block text-[0.85rem] text-soft">Idles in bounds</span
          ><b class="num text-[2rem] leading-none">{{ percent(found.idle) }}</b>
        </p>
        <p>
          <span class="block text-[0.85rem] text-soft">The coldest third</span
          ><b class="num text-[2rem] leading-none">{{ percent(found.cold_idle) }}</b>
        </p>
        <p v-if="found.seconds != null">
          <span class="block text-[0.85rem] text-soft">Catches after</span
          ><b class="num text-[2rem] leading-none">{{ found.seconds.toFixed(1) }} s</b>
        </p>
      </div>
      <p class="mt-2 text-[0.95rem]">
        {{ found.runs }} starts from {{ celsius(coldest) }} up.
        <template v-if="found.troubles.length"
          >Where it went wrong:
          <template v-for="(t, k) in found.troubles" :key="t[0]">{{ k ? "; " : "" }}{{ t[0] }} ({{ percent(t[1]) }})</template>.</template
        >
        {{ found.closest }}
      </p>
      <p class="no-print mt-1 flex flex-wrap items-center gap-3 text-[0.92rem]">
        <span v-if="kept" class="text-soft"
          >Kept {{ kept.when }}: {{ percent(kept.catch) }} caught, {{ percent(kept.idle) }} idled of {{ kept.runs }}.</span
        >
        <button v-if="!same" type="button" class="btn btn-small" :disabled="store.readOnly || asked.stale.value" @click="keep">
          {{ kept ? "Keep this one instead" : "Keep it with the build" }}
        </button>
      </p>
      <div class="mt-2 grid grid-cols-1 gap-x-8 lg:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
        <StartsChart :squares="found.chart" />
        <div>
          <section class="mt-3" aria-label="What it hangs on">
            <h2 class="text-[1.05rem]">What it hangs on</h2>
            <table class="w-full text-[0.92rem]">
              <tbody>
                <tr v-for="h in found.hangs" :key="h.key" class="border-t border-hair">
                  <th scope="row" class="py-1 text-left font-normal">{{ h.word }}</th>
                  <td class="w-28 py-1">
                    <span class="block h-2.5 bg-[var(--ink)]" :style="{ width: `${Math.max(h.share * 100, 1)}%` }"></span>
                  </td>
                  <td class="py-1 pl-2 text-soft">{{ h.share < 0.08 ? "hardly" : h.helps ? "more helps" : "more harms" }}</td>
                </tr>
              </tbody>
            </table>
          </section>
          <section class="mt-4" aria-label="Tried">
            <h2 class="text-[1.05rem]">Tried</h2>
            <p v-if="!helps.length" class="text-[0.92rem] text-soft">Nothing that was tried makes it better.</p>
            <table class="w-full text-[0.92rem]">
              <tbody>
                <tr v-for="t in found.tried" :key="t.key" class="border-t border-hair">
                  <th scope="row" class="py-1 text-left font-normal">{{ t.word }}</th>
                  <td class="num py-1 text-right whitespace-nowrap" :class="{ 'font-bold': t.good > found.idle + 0.01 }">
                    {{ percent(found.idle) }} → {{ percent(t.good) }}
                  </td>
                  <td class="num py-1 pl-3 text-right whitespace-nowrap text-soft">cold {{ percent(t.cold) }}</td>
                </tr>
              </tbody>
            </table>
          </section>
        </div>
      </div>
    </template>
  </section>
</template>
