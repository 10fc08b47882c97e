<script setup lang="ts">
// Currency, budget, and what one of another currency is worth.
import { computed } from "vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import { useWork } from "./useWork";

const { store, work } = useWork();
const others = computed(() => [...new Set([...Object.keys(store.build?.work?.money?.rates ?? {}), ...work.value.money.strange])]);
</script>

<template>
  <FieldGroup group="money">
    <Field at="/work/money/currency" />
    <Field at="/work/money/budget" />
    <div v-for="c in others" :id="`f/work/money/rates/${c}`" :key="c" class="col-span-2" tabindex="-1">
      <Field :at="`/work/money/rates/${c}`" :label="`One ${c} is worth, in ${work.money.currency || 'the currency of the build'}`" />
    </div>
  </FieldGroup>
  <p class="text-[0.9rem] text-soft">
    A price is for all of a line, as it was told: 129.50, 40 to 60, 30 USD. It is entered with the part.
  </p>
</template>
