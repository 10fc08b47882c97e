<script setup lang="ts">
// What the relays of this harness bear, by their print.
import { computed } from "vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import { choice } from "@/figures/format";
import { useBuild } from "@/stores/build";

const store = useBuild();
const FEEDS: [string, string][] = [
  ["main", "injector_supply"],
  ["pump", "pump_supply"],
  ["lift", "lift_supply"],
  ["coil", "coil_supply"],
  ["oxygen", "oxygen_supply"],
  ["fan", "fan_supply"],
];
const rows = computed(() =>
  FEEDS.flatMap(([key, wire]) => store.plan!.stages.wiring.wires.filter((w) => w.key === wire).map((w) => ({ key, amps: w.current_a }))),
);
</script>

<template>
  <FieldGroup group="relays" note="Amps as printed on each, for its normally open contact.">
    <div class="col-span-2 flex flex-col gap-1.5">
      <div v-for="r in rows" :key="r.key" class="grid grid-cols-[5rem_1fr_6rem] items-center gap-2">
        <span>{{ choice(r.key) }}</span><span class="text-[0.88rem] text-soft">{{ r.amps.toFixed(1) }} A through it</span>
        <Field :at="`/wiring/relays/${r.key}`" bare hint="40 A" :label="`Relay bears, ${r.key}, amps`" />
      </div>
    </div>
  </FieldGroup>
</template>
