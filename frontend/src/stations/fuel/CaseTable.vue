<script setup lang="ts">
// Every state solved, with a clean and a due filter, on a tired, a resting and a charging battery.
import type { FuelDepth } from "@/api/types";
import { wordOf } from "./states";
import { useScales } from "@/figures/owners";

defineProps<{ cases: FuelDepth["cases"] }>();
const own = useScales();
</script>

<template>
  <div class="mt-3">
    <p class="mb-1 text-[0.95rem] font-semibold">Every state: battery, filter, flow, pressure</p>
    <div class="max-h-[60vh] overflow-auto border border-line bg-sheet" tabindex="0" role="region" aria-label="Every state">
      <table class="w-full text-[0.86rem]">
        <thead class="border-b border-ink text-left text-[0.8rem] text-soft">
          <tr>
            <th class="px-2 py-1 font-normal">State</th>
            <th class="px-2 text-right font-normal">battery V</th>
            <th class="px-2 font-normal">filter</th>
            <th class="px-2 text-right font-normal">pump {{ own.flow.unit }}</th>
            <th class="px-2 text-right font-normal">at pump {{ own.pressure.unit }}</th>
            <th class="px-2 text-right font-normal">rail {{ own.pressure.unit }}</th>
            <th class="px-2 text-right font-normal">across injector {{ own.pressure.unit }}</th>
            <th class="px-2 text-right font-normal">A</th>
            <th class="px-2 text-right font-normal">V at pump</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="c in cases"
            :key="`${c.state}${c.volts}${c.filter_due}`"
            class="border-b border-hair"
            :class="{ 'text-spark': !c.holds }"
          >
            <td class="px-2 py-0.5">{{ wordOf(c.state) }}<b v-if="!c.holds"> falls short</b></td>
            <td class="num px-2 text-right">{{ c.volts }}</td>
            <td class="px-2">{{ c.filter_due ? "due" : "clean" }}</td>
            <td class="num px-2 text-right">{{ own.flow.bare(c.flow_m3_s) }}</td>
            <td class="num px-2 text-right">{{ own.pressure.bare(c.pump_pressure_pa) }}</td>
            <td class="num px-2 text-right">{{ own.pressure.bare(c.rail_pressure_pa) }}</td>
            <td class="num px-2 text-right">{{ own.pressure.bare(c.across_pa) }}</td>
            <td class="num px-2 text-right">{{ c.current_a.toFixed(1) }}</td>
            <td class="num px-2 text-right">{{ c.pump_volts.toFixed(1) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>
