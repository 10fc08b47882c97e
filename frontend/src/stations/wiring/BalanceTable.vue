<script setup lang="ts">
// What is drawn and what charges in each position; how far the block sits up.
import type { Stages } from "@/api/types";

defineProps<{ rows: Stages["wiring"]["states"] }>();
const amps = (v: number | null) => (v === null ? "not entered" : `${v.toFixed(1)} A`);
</script>

<template>
  <div class="mt-3 overflow-x-auto" tabindex="0" role="region" aria-label="Amps by position of the key">
    <table class="w-full text-[0.88rem]">
      <thead class="text-soft">
        <tr>
          <th class="text-left font-normal" scope="col">key and engine</th>
          <th class="text-right font-normal" scope="col">posts</th>
          <th class="text-right font-normal" scope="col">drawn</th>
          <th class="text-right font-normal" scope="col">alternator</th>
          <th class="text-right font-normal" scope="col">left over</th>
          <th class="text-right font-normal" scope="col">block up</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.key" class="border-t border-hair">
          <th class="py-0.5 text-left font-normal" scope="row">{{ r.word }}</th>
          <td class="num text-right">{{ r.posts_v.toFixed(2) }} V</td>
          <td class="num text-right">{{ r.drawn_a.toFixed(1) }} A</td>
          <td class="num text-right">{{ amps(r.charges_a) }}</td>
          <td class="num text-right font-semibold" :class="{ 'text-spark': (r.balance_a ?? 0) < 0 && r.charges_a !== 0 }">
            {{ r.charges_a === 0 ? "–" : amps(r.balance_a) }}
          </td>
          <td class="num text-right">{{ (r.rise_v * 1e3).toFixed(0) }} mV</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
