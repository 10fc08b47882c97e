<script setup lang="ts">
// What the sensors allow, from the least to the most; what this build wants; what is left when a signal is lost.
import type { Stages } from "@/api/types";

defineProps<{ rows: Stages["sensors"]["strategy"]; sync: NonNullable<Stages["trigger"]>["sync"] }>();
</script>

<template>
  <section class="relative mt-4 overflow-x-auto" role="region" aria-label="What the sensors allow" tabindex="0">
    <table class="w-full min-w-[36rem] text-[0.92rem]">
      <caption class="text-left text-[0.95rem] font-semibold">
        What the sensors allow
      </caption>
      <thead class="text-soft">
        <tr>
          <th class="py-1 text-left font-normal" scope="col">with</th>
          <th class="text-left font-normal" scope="col">ignition</th>
          <th class="text-left font-normal" scope="col">injection</th>
          <th class="text-left font-normal" scope="col">lost, it falls back to</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.key" class="border-t border-hair align-top" :class="{ 'bg-wash': r.wanted }">
          <th class="py-1 pr-2 text-left" scope="row" :class="r.there ? '' : 'font-normal text-soft'">
            {{ r.have
            }}<span v-if="r.wanted" class="block text-[0.85rem] font-normal">{{ r.there ? "wanted, and there" : "wanted, not there" }}</span
            ><span v-else class="block text-[0.85rem] font-normal text-soft">{{ r.there ? "there" : "not there" }}</span>
          </th>
          <td class="pr-2">{{ r.ignition }}</td>
          <td class="pr-2">{{ r.injection }}</td>
          <td>{{ r.falls_back_to }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="sync.length" class="mt-1 text-[0.9rem]">
      <template v-for="c in sync" :key="c.turn"
        >Turn {{ c.turn }}: the gap passes at {{ c.gap_deg.toFixed(0) }}°<template v-if="c.phase_events !== null"
          >, {{ c.phase_events === 1 ? "one phase event" : `${c.phase_events} phase events` }} before it</template
        >{{ c.alike > 1 ? `, looks like ${c.alike} places` : ", can be told" }}.
      </template>
    </p>
  </section>
</template>
