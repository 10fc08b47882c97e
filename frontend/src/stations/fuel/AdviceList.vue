<script setup lang="ts">
// Changes that were solved for this car, best first: one press makes one of them a revision.
import { IconCheck } from "@tabler/icons-vue";
import type { FuelDepth, Operation } from "@/api/types";
import { useBuild } from "@/stores/build";

defineProps<{ advice: FuelDepth["advice"]; stale: boolean }>();
const store = useBuild();
const COST = { low: "little money", middle: "some money", high: "more money" } as Record<string, string>;
const apply = (a: FuelDepth["advice"][number]) => store.edit(a.patch as unknown as Operation[], `Advice: ${a.title}`);
</script>

<template>
  <section class="mt-3 break-inside-avoid" aria-label="What to change">
    <p v-if="!advice.length" class="text-soft">Nothing here asks for a change, or no single change helps.</p>
    <ol class="mt-1">
      <li
        v-for="a in advice.slice(0, 8)"
        :key="a.title"
        class="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 border-t border-hair py-1.5"
      >
        <div>
          <p class="leading-tight font-semibold">{{ a.title }}</p>
          <p class="text-[0.9rem] leading-tight text-soft">{{ a.why }}; about {{ a.hours }} h, {{ COST[a.cost] }}</p>
        </div>
        <button
          type="button"
          class="btn btn-small no-print"
          :disabled="store.readOnly || stale"
          :aria-label="`Make it so: ${a.title}`"
          @click="apply(a)"
        >
          <IconCheck :size="16" aria-hidden="true" /> Make it so
        </button>
      </li>
    </ol>
  </section>
</template>
