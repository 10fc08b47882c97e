<script setup lang="ts">
// Measures that nobody told, by how much each may move filling and power: the first one to measure stands first.
import type { CycleDepth } from "@/api/types";
import { doubtful } from "@/figures/format";
import { useBuild } from "@/stores/build";

defineProps<{ found: CycleDepth }>();
const store = useBuild();
/** Where a measure is entered. */
const at = (place: string) => `/b/${store.id}/engine/itself#f${place}`;
</script>

<template>
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
          <td class="num text-right">± {{ doubtful(s.full) }}</td>
          <td class="num text-right">± {{ doubtful(s.driven) }}</td>
          <td class="num text-right">± {{ doubtful(s.power) }}</td>
        </tr>
      </tbody>
    </table>
    <p class="mt-1 text-[0.82rem] text-soft">
      By how much filling and power may be other than told, because this was guessed from engines of its class.
    </p>
  </section>
</template>
