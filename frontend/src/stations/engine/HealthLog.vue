<script setup lang="ts">
// The whole engine on one day and the next: what a rebuild or a tune changed shows by the dates.
import { IconPlus } from "@tabler/icons-vue";
import { computed } from "vue";
import BenchGroup from "@/parts/BenchGroup.vue";
import Field from "@/parts/Field.vue";
import { useBuild } from "@/stores/build";

const store = useBuild();
const days = computed(() => store.build!.engine.health ?? []);
const FIELDS = ["when", "vacuum", "oil_pressure", "smoke", "uses_oil", "loses_coolant"];
const add = () => store.edit([{ op: "add", path: "/engine/health/-", value: { when: new Date().toISOString().slice(0, 10) } }]);
</script>

<template>
  <BenchGroup title="Health log" at="/engine/health" note="Warm, idling, outdoors or with a hose on the pipe; keep clear of belts and fan.">
    <div id="f/engine/health" tabindex="-1" class="col-span-2">
      <details v-for="(d, i) in days" :key="i" class="border-t border-hair" :open="i === days.length - 1 && days.length < 2">
        <summary class="flex min-h-11 cursor-pointer items-baseline justify-between gap-2 py-2">
          <b>{{ d.when }}</b>
          <span class="num text-[0.86rem] text-soft">{{
            [d.vacuum, d.oil_pressure, d.smoke && d.smoke !== "none" ? `${d.smoke} smoke` : ""].filter(Boolean).join(", ")
          }}</span>
        </summary>
        <div class="grid grid-cols-2 gap-x-3 gap-y-2 pb-3">
          <Field v-for="k in FIELDS" :key="k" :at="`/engine/health/${i}/${k}`" />
          <button
            type="button"
            class="btn btn-small btn-plain col-span-2 justify-self-start underline"
            :disabled="store.readOnly"
            @click="store.edit([{ op: 'remove', path: `/engine/health/${i}` }])"
          >
            Strike this day
          </button>
        </div>
      </details>
      <button type="button" class="btn btn-small mt-1" :disabled="store.readOnly" @click="add">
        <IconPlus :size="15" aria-hidden="true" />Add a day
      </button>
    </div>
  </BenchGroup>
</template>
