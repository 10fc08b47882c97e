<script setup lang="ts">
// The engine worked from its measures, once the person pauses: power and torque with their band, the valves, and which measure would make it surer.
import { computed, ref } from "vue";
import { useScales } from "@/figures/owners";
import { useBuild } from "@/stores/build";
import WorkedOut from "@/parts/WorkedOut.vue";
import { useAsked } from "@/stores/useAsked";
import ValveLifts from "./ValveLifts.vue";
import WorkedCurve from "./WorkedCurve.vue";

const store = useBuild();
const own = useScales();
const here = ref<HTMLElement | null>(null);
const asked = useAsked("cycle", here);
const { found } = asked;
const limit = computed(() => Math.max(...(found.value?.curve.rpm ?? [0])));
const percent = (share: number) => `${(share * 100).toFixed(share < 0.095 ? 1 : 0)} %`;
const apart = computed(() => (found.value ? found.value.power_w / found.value.target_w - 1 : 0));
/** Where a measure is entered. */
const at = (place: string) => `/b/${store.id}/engine/itself#f${place}`;
</script>

<template>
  <section ref="here" class="mt-2 min-h-64" aria-label="Worked from its measures">
    <WorkedOut what="The engine" :asked="asked" />
    <template v-if="found">
      <p class="num text-[1.6rem] leading-tight font-semibold" data-testid="worked">
        {{ own.power.tell(found.power_w) }}
        <span class="text-[1rem] font-normal">at {{ Math.round(found.power_rpm / 10) * 10 }} rpm, ± {{ percent(found.doubt) }}</span>
      </p>
      <p class="text-[0.95rem]">
        <template v-if="Math.abs(apart) <= found.doubt">What is aimed at lies within that.</template>
        <template v-else-if="apart < 0"
          >{{ percent(-apart) }} less than is aimed at, more than the doubt explains: a measure is other than it is taken for, or the aim is
          too high.</template
        >
        <template v-else>{{ percent(apart) }} more than is aimed at: the engine has some in hand.</template>
      </p>
      <WorkedCurve :found="found" :limit-rpm="limit" />
      <section class="mt-4" aria-label="What would make it surer">
        <h2 class="text-[1.1rem]">What would make it surer</h2>
        <p v-if="!found.sharpens.length" class="text-soft">Every measure is told. What is left is the model's own doubt.</p>
        <table v-else class="mt-1 w-full text-[0.9rem]">
          <thead class="text-left text-soft">
            <tr>
              <th scope="col" class="font-normal">not measured</th>
              <th scope="col" class="text-right font-normal">full load</th>
              <th scope="col" class="text-right font-normal">driven</th>
              <th scope="col" class="text-right font-normal">power</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in found.sharpens" :key="s.place" class="border-t border-hair">
              <th scope="row" class="py-1.5 text-left font-normal">
                <RouterLink :to="at(s.place)" class="underline">{{ s.label }}</RouterLink>
              </th>
              <td class="num text-right">± {{ percent(s.full) }}</td>
              <td class="num text-right">± {{ percent(s.driven) }}</td>
              <td class="num text-right">± {{ percent(s.power) }}</td>
            </tr>
          </tbody>
        </table>
        <p class="mt-1 text-[0.82rem] text-soft">
          By how much filling and power may be other than told, because this was guessed from engines of its class.
        </p>
      </section>
      <ValveLifts :valves="found.valves" />
    </template>
  </section>
</template>
