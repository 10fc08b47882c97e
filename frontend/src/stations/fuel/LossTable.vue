<script setup lang="ts">
// Where the pressure goes, part by part, in the order in which fuel meets them.
import { computed } from "vue";
import { partWord, pointOf, wordOf, type FuelResult, type StateName } from "./states";
import { useScales } from "@/figures/owners";

const props = defineProps<{ fuel: FuelResult; state: StateName }>();
const own = useScales();
const losses = computed(() => props.fuel.grades[props.state]!.losses);
const most = computed(() => Math.max(...losses.value.map((l) => l.loss_pa), 1));
const point = computed(() => pointOf(props.fuel, props.state));
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
        <th class="px-2 text-right font-normal">{{ own.flow.unit }}</th>
        <th class="px-2 text-right font-normal">{{ own.velocity.unit }}</th>
        <th class="px-2 text-right font-normal">lost {{ own.loss.unit }}</th>
        <th class="px-2 text-right font-normal">height {{ own.loss.unit }}</th>
        <th class="w-1/4 max-sm:hidden"><span class="sr-only">Share</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="l in losses" :key="l.part" class="border-b border-hair">
        <td class="py-0.5">{{ partWord(l.part) }}</td>
        <td class="num px-2 text-right">{{ own.flow.bare(l.flow_m3_s) }}</td>
        <td class="num px-2 text-right">{{ l.velocity_m_s == null ? "" : own.velocity.bare(l.velocity_m_s, 1) }}</td>
        <td class="num px-2 text-right font-semibold">{{ own.loss.bare(l.loss_pa) }}</td>
        <td class="num px-2 text-right">{{ l.kind === "run" ? own.loss.bare(l.lift_pa) : "" }}</td>
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
          {{ own.flow.tell(point.capacity_m3_s) }} could be had at the pressure wanted, {{ own.flow.bare(point.demand_m3_s) }} are taken;
          {{ point.volts.toFixed(1) }} V and {{ point.current_a.toFixed(1) }} A at the pump.
        </td>
      </tr>
    </tfoot>
  </table>
</template>
