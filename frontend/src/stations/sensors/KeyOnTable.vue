<script setup lang="ts">
// Key on, engine off and cold: each reading against the band in which it makes sense.
import type { Stages } from "@/api/types";
import { useScales } from "@/figures/owners";
import SeverityMark from "@/parts/SeverityMark.vue";

type Row = Stages["sensors"]["key_on"][number];
defineProps<{ rows: Row[] }>();
const own = useScales();
const shows = (r: Row) => (r.kind && r.si ? own.value[r.kind].tell(r.si[0]!) : r.shown);
const sense = (r: Row) => (r.kind && r.si ? `${own.value[r.kind].bare(r.si[1]!)} to ${own.value[r.kind].tell(r.si[2]!)}` : r.expected);
</script>

<template>
  <table class="mt-4 w-full text-[0.95rem]">
    <caption class="text-left text-[0.95rem] font-semibold">
      Key on, engine off and cold
    </caption>
    <thead class="text-soft">
      <tr>
        <th class="text-left font-normal" scope="col">reading</th>
        <th class="text-right font-normal" scope="col">shows</th>
        <th class="text-right font-normal" scope="col">makes sense</th>
        <th class="w-24" scope="col"><span class="sr-only">verdict</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in rows" :key="r.what" class="border-t border-hair">
        <th class="py-1 text-left font-normal" scope="row">{{ r.what }}</th>
        <td class="num text-right font-semibold" :class="{ 'text-spark': !r.right }">{{ shows(r) }}</td>
        <td class="num text-right">{{ sense(r) }}</td>
        <td class="pl-3"><SeverityMark :severity="r.right ? 'sound' : 'sort_out'" :size="16" word /></td>
      </tr>
    </tbody>
  </table>
</template>
