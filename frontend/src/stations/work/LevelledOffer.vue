<script setup lang="ts">
// An order with fewer days in it, looked for beside the server; told with what it comes to before it is taken.
import { computed, ref } from "vue";
import WorkedOut from "@/parts/WorkedOut.vue";
import { useAsked } from "@/stores/useAsked";
import { days, short } from "./days";
import { useWork } from "./useWork";

const { store } = useWork();
const where = ref<HTMLElement | null>(null);
const asked = useAsked("schedule", where);
const found = computed(() => asked.found.value);
const taken = computed(() => (store.build?.work?.order ?? []).length > 0);
const take = () =>
  store.edit([
    { op: "add", path: "/work/order", value: found.value!.order },
    { op: "add", path: "/work/on_road_until", value: found.value!.on_road_until || null },
  ]);
const back = () =>
  store.edit([
    { op: "add", path: "/work/order", value: [] },
    { op: "add", path: "/work/on_road_until", value: null },
  ]);
const gain = computed(() => (found.value ? found.value.days_now - found.value.days_then : 0));
</script>

<template>
  <section ref="where" class="no-print mt-3 border-t border-ink pt-2" aria-label="A better order">
    <h2 class="text-[1.1rem]">A better order</h2>
    <WorkedOut what="A better order" :asked="asked" />
    <template v-if="found">
      <p v-if="found.better" class="mt-1 leading-snug">
        Done on <b>{{ short(found.finish_then) }}</b> and off the road {{ days(found.off_road_then) }}: {{ days(gain) }} fewer in all than
        the plan as it stands{{
          found.proven ? ". No order has fewer." : `; none can save more than ${days(found.days_now - found.bound)}.`
        }}
      </p>
      <p v-else class="mt-1 text-soft">{{ found.why }}</p>
      <p class="mt-1.5 flex flex-wrap gap-2">
        <button
          v-if="found.better"
          type="button"
          class="btn btn-small btn-main"
          :disabled="store.readOnly || asked.stale.value"
          @click="take"
        >
          Take this order
        </button>
        <button v-if="taken" type="button" class="btn btn-small" :disabled="store.readOnly" @click="back">Back to the usual order</button>
      </p>
    </template>
  </section>
</template>
