<script setup lang="ts">
// The engine worked from its measures, once the person pauses: power and torque with their band, the valves, and which measure would make it surer.
import { computed, ref } from "vue";
import { doubtful } from "@/figures/format";
import { useScales } from "@/figures/owners";
import WorkedOut from "@/parts/WorkedOut.vue";
import { useAsked } from "@/stores/useAsked";
import SharpensTable from "./SharpensTable.vue";
import ValveLifts from "./ValveLifts.vue";
import WorkedCurve from "./WorkedCurve.vue";

const own = useScales();
const here = ref<HTMLElement | null>(null);
const asked = useAsked("cycle", here);
const { found } = asked;
const limit = computed(() => Math.max(...(found.value?.curve.rpm ?? [0])));
const apart = computed(() => (found.value ? found.value.power_w / found.value.target_w - 1 : 0));
</script>

<template>
  <section ref="here" class="mt-2 min-h-64" aria-label="Worked from its measures">
    <WorkedOut what="The engine" :asked="asked" />
    <template v-if="found">
      <p class="num text-[1.6rem] leading-tight font-semibold" data-testid="worked">
        {{ own.power.tell(found.power_w) }}
        <span class="text-[1rem] font-normal">at {{ Math.round(found.power_rpm / 10) * 10 }} rpm, ± {{ doubtful(found.doubt) }}</span>
      </p>
      <p class="text-[0.95rem]">
        <template v-if="Math.abs(apart) <= found.doubt">What is aimed at lies within that.</template>
        <template v-else-if="apart < 0"
          >{{ doubtful(-apart) }} less than is aimed at, more than the doubt explains: a measure is other than it is taken for, or the aim
          is too high.</template
        >
        <template v-else>{{ doubtful(apart) }} more than is aimed at: the engine has some in hand.</template>
      </p>
      <WorkedCurve :found="found" :limit-rpm="limit" />
      <SharpensTable :found="found" />
      <ValveLifts :valves="found.valves" />
    </template>
  </section>
</template>
