<script setup lang="ts">
// Limits and switches that a unit is told besides its tables.
import type { Stages } from "@/api/types";

defineProps<{ constants: Stages["tune"]["constants"] }>();
</script>

<template>
  <section class="mt-3" aria-label="Limits and switches">
    <h2 class="text-[1.05rem]">Limits and switches</h2>
    <table class="w-full text-[0.92rem]">
      <tbody>
        <tr v-for="c in constants" :key="c.key" class="border-t border-hair">
          <th scope="row" class="py-1 pr-2 text-left font-normal">{{ c.title }}</th>
          <td class="num py-1 pr-3 font-semibold whitespace-nowrap">{{ c.value.toLocaleString("en-GB") }} {{ c.unit }}</td>
          <td class="py-1 text-soft">{{ c.why }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
