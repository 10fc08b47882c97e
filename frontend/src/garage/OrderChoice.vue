<script setup lang="ts">
// Usual firing orders of so many cylinders so arranged, each drawn as its cylinders are then numbered.
import type { components } from "@/api/schema";
import OrderSmall from "@/figures/OrderSmall.vue";
import type { Answer } from "./useAnswers";

defineProps<{ title: string; help?: string; orders: components["schemas"]["FiringOrder"][]; given?: Answer; problem?: string }>();
const emit = defineEmits<{ give: [answer: Answer | undefined] }>();
</script>

<template>
  <fieldset>
    <legend class="font-semibold">{{ title }}</legend>
    <p v-if="!orders.length" class="text-soft">
      Say how many cylinders, and how they stand; usual orders of such an engine are then drawn here.
    </p>
    <template v-else>
      <p class="text-[0.9rem] text-soft">{{ help }}</p>
      <div class="mt-1 grid gap-2 sm:grid-cols-2 lg:grid-cols-4">
        <label
          v-for="o in orders"
          :key="o.order.join('-')"
          class="cursor-pointer border p-2.5 has-checked:border-2 has-checked:border-ink has-focus-visible:outline-3 has-focus-visible:outline-[var(--ink)]"
          :class="String(given) === String(o.order) ? 'bg-well' : 'border-line bg-sheet'"
        >
          <OrderSmall :usual="o" />
          <span class="flex gap-2.5"
            ><input
              type="radio"
              name="firing_order"
              :checked="String(given) === String(o.order)"
              class="size-5 shrink-0"
              @change="emit('give', o.order)"
            /><b class="num">{{ o.order.join("-") }}</b></span
          >
        </label>
        <label
          class="flex cursor-pointer gap-2.5 border p-2.5 has-checked:border-2"
          :class="given === undefined ? 'border-ink bg-well' : 'border-line bg-sheet'"
        >
          <input
            type="radio"
            name="firing_order"
            :checked="given === undefined"
            class="size-5 shrink-0"
            @change="emit('give', undefined)"
          />
          <span
            ><b class="block leading-tight">Not sure, or another</b
            ><span class="text-[0.88rem] text-soft">The first is taken in pencil; you say it at the engine.</span></span
          >
        </label>
      </div>
    </template>
    <p v-if="problem" class="text-spark" role="alert">{{ problem }}</p>
  </fieldset>
</template>
