<script setup lang="ts">
// Fuses: what each carries, what is proposed, what is fitted.
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import type { Stages } from "@/api/types";
import { choice } from "@/figures/format";

defineProps<{ fuses: Stages["wiring"]["fuses"] }>();
</script>

<template>
  <FieldGroup group="fuses" at="/wiring/fuses" note="Empty takes the proposal. A fuse protects the wire, at its supply end.">
    <div class="col-span-2 flex flex-col gap-1.5">
      <div v-for="f in fuses" :key="f.key" class="grid grid-cols-[5rem_1fr_6rem] items-center gap-2">
        <span>{{ choice(f.key) }}</span>
        <span class="text-[0.88rem] text-soft"
          >{{ f.load_a.toFixed(1) }} A load, {{ f.proposed_a ?? "no" }} A proposed, wire {{ f.wire_limit_a.toFixed(0) }} A</span
        >
        <Field :at="`/wiring/fuses/${f.key}`" bare :hint="`${f.proposed_a ?? '–'} A`" :label="`Fuse fitted, ${f.key}, amps`" />
      </div>
    </div>
  </FieldGroup>
</template>
