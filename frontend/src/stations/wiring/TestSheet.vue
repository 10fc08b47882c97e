<script setup lang="ts">
// Every wire with what should be read of it; pressed, its readings are typed beside it and judged at once.
import { computed } from "vue";
import type { Stages } from "@/api/types";

type Row = Stages["wiring"]["tests"][number];
const props = defineProps<{ rows: Row[]; readIn: string[]; chosen: string | null }>();
const emit = defineEmits<{ choose: [string] }>();
const MARK = { pass: "passes", fail: "fails", open: "" };
const done = computed(() => props.rows.filter((r) => r.verdict === "pass").length);
const failed = computed(() => props.rows.filter((r) => r.verdict === "fail").length);
const volts = (r: Row, state: string) => r.expected_v[props.readIn.indexOf(state)];
const told = (v: number | undefined) => (v === undefined ? "" : v.toFixed(Math.abs(v) < 1 ? 2 : 1));
</script>

<template>
  <section class="mt-3" aria-label="Test sheet">
    <p class="text-[0.95rem] font-semibold">
      {{ done }} of {{ rows.length }} pass<template v-if="failed"
        ><span class="text-spark">, {{ failed }} fail</span></template
      >
    </p>
    <div class="mt-1 h-2 w-full bg-well" aria-hidden="true">
      <div class="h-2 bg-good" :style="{ width: `${(done / Math.max(rows.length, 1)) * 100}%` }"></div>
    </div>
    <div class="mt-2 max-h-[26rem] overflow-auto border border-line bg-sheet" tabindex="0" role="region" aria-label="Wires to test">
      <table class="w-full text-[0.88rem]">
        <thead class="sticky top-0 bg-well">
          <tr>
            <th scope="col" class="px-2 py-1 text-left font-normal">wire</th>
            <th scope="col" class="px-1 text-right font-normal">off</th>
            <th scope="col" class="px-1 text-right font-normal">run</th>
            <th scope="col" class="px-1 text-right font-normal">prime</th>
            <th scope="col" class="px-1 text-right font-normal">crank</th>
            <th scope="col" class="px-2 text-left font-normal"><span class="sr-only">verdict</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r.wire" class="border-t border-hair" :class="{ 'bg-wash': r.wire === chosen }">
            <th scope="row" class="px-2 text-left font-normal">
              <button
                type="button"
                class="min-h-9 w-full text-left leading-tight underline-offset-2 hover:underline"
                :aria-pressed="r.wire === chosen"
                @click="emit('choose', r.wire)"
              >
                {{ r.label }}
              </button>
            </th>
            <td v-for="s in ['off', 'run', 'prime', 'crank']" :key="s" class="num px-1 text-right">{{ told(volts(r, s)) }}</td>
            <td class="px-2" :class="{ 'font-semibold text-spark': r.verdict === 'fail' || r.covered, 'text-good': r.verdict === 'pass' }">
              {{ r.covered && r.verdict !== "fail" ? "covered untested" : MARK[r.verdict] }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="mt-1 text-[0.82rem] text-soft">Volts against battery minus at the wire's far end, from the solve of the whole harness.</p>
  </section>
</template>
