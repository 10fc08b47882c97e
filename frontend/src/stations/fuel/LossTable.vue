<script setup lang="ts">
// Where the pressure goes, part by part, in the order in which fuel meets them.
import { computed } from "vue";
import { partWord, pointOf, wordOf, type FuelResult, type StateName } from "./states";

const props = defineProps<{ fuel: FuelResult; state: StateName }>();
const losses = computed(() => props.fuel.grades[props.state]!.losses);
const most = computed(() => Math.max(...losses.value.map((l) => l.loss_pa), 1));
const point = computed(() => pointOf(props.fuel, props.state));
const one = (n: number) => n.toFixed(1);
</script>

<template>
  <table class="mt-2 w-full text-[0.88rem]">
    <caption class="pb-1 text-left text-[0.95rem] font-semibold">
      Where the pressure goes,
      {{
        wordOf(state)
      }}
    </caption>
    <thead class="border-b border-ink text-left text-[0.8rem] text-soft">
      <tr>
        <th class="py-1 font-normal">Part</th>
        <th class="px-2 text-right font-normal">L/h</th>
        <th class="px-2 text-right font-normal">m/s</th>
        <th class="px-2 text-right font-normal">lost kPa</th>
        <th class="px-2 text-right font-normal">height kPa</th>
        <th class="w-1/4 max-sm:hidden"><span class="sr-only">Share</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="l in losses" :key="l.part" class="border-b border-hair">
        <td class="py-0.5">{{ partWord(l.part) }}</td>
        <td class="num px-2 text-right">{{ (l.flow_m3_s * 3.6e6).toFixed(0) }}</td>
        <td class="num px-2 text-right">{{ l.velocity_m_s == null ? "" : l.velocity_m_s.toFixed(2) }}</td>
        <td class="num px-2 text-right font-semibold">{{ one(l.loss_pa / 1e3) }}</td>
        <td class="num px-2 text-right">{{ l.kind === "run" ? one(l.lift_pa / 1e3) : "" }}</td>
        <td class="max-sm:hidden">
          <svg width="100%" height="10" aria-hidden="true">
            <rect :width="`${(100 * l.loss_pa) / most}%`" height="10" fill="var(--good)" opacity="0.55" />
          </svg>
        </td>
      </tr>
    </tbody>
    <tfoot>
      <tr>
        <td colspan="6" class="pt-1 text-[0.82rem] text-soft">
          {{ (point.capacity_m3_s * 3.6e6).toFixed(0) }} L/h could be had at the pressure wanted,
          {{ (point.demand_m3_s * 3.6e6).toFixed(0) }} are taken; {{ point.volts.toFixed(1) }} V and {{ point.current_a.toFixed(1) }} A at
          the pump.
        </td>
      </tr>
    </tfoot>
  </table>
</template>
