<script setup lang="ts">
// Usual firing orders of such an engine, drawn as its cylinders are then numbered: one is picked with its banks.
import { useQuery } from "@pinia/colada";
import { computed } from "vue";
import { api } from "@/api/client";
import OrderSmall from "@/figures/OrderSmall.vue";
import { useBuild } from "@/stores/build";

const store = useBuild();
const { data } = useQuery({ key: ["questions"], query: api.questions, staleTime: Infinity });
const engine = computed(() => store.build!.engine);
const orders = computed(() =>
  (data.value?.orders ?? []).filter(
    (o) => o.arrangement === (engine.value.arrangement ?? "inline") && o.order.length === engine.value.cylinders,
  ),
);
const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);
const pick = (order: number[], banks?: number[][] | null) =>
  store.edit([
    { op: "add", path: "/engine/firing_order", value: order },
    ...(banks ? [{ op: "add" as const, path: "/engine/banks", value: banks }] : []),
  ]);
</script>

<template>
  <details v-if="orders.length" class="mt-3">
    <summary class="min-h-9 cursor-pointer py-1 text-[0.95rem]">Usual orders of such an engine</summary>
    <div class="mt-1 grid grid-cols-2 gap-2 sm:grid-cols-3">
      <button
        v-for="o in orders"
        :key="o.order.join('-')"
        type="button"
        class="border p-2 text-left"
        :class="same(o.order, engine.firing_order) && same(o.banks, engine.banks) ? 'border-2 border-ink bg-well' : 'border-line bg-sheet'"
        :aria-pressed="same(o.order, engine.firing_order) && same(o.banks, engine.banks)"
        :disabled="store.readOnly"
        @click="pick(o.order, o.banks)"
      >
        <OrderSmall :usual="o" />
        <b class="num block">{{ o.order.join("-") }}</b>
      </button>
    </div>
  </details>
</template>
