<script setup lang="ts">
// The battery and the alternator as they were measured, and where each ground lands.
import { computed } from "vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import MoreFields from "@/parts/MoreFields.vue";
import EntryList, { type Entry } from "@/parts/EntryList.vue";
import { choice } from "@/figures/format";
import { useBuild } from "@/stores/build";

const store = useBuild();
const BATTERY = ["rest", "inner"];
const MORE = ["starter", "capacity", "asleep", "stands", "master"].map((k) => `/wiring/battery/${k}`);
const CHARGING = ["output_idle", "output_full"];
const THIN = ["exciter", "sense"].map((k) => `/wiring/charging/${k}`);
const GROUNDS = ["block_strap", "unit", "sensors", "coils", "pump", "fan", "body_strap"];
const WORD: Record<string, string> = {
  block_strap: "Strap, battery to block",
  body_strap: "Strap, block to body",
  unit: "Control unit",
  sensors: "Sensors",
  coils: "Coils",
  pump: "Pump",
  fan: "Fan",
};
const given = computed(() => store.build?.wiring.grounds ?? {});
const entries = computed<Entry[]>(() =>
  GROUNDS.filter((k) => k in given.value).map((k) => {
    const g = given.value[k as keyof typeof given.value]!;
    return { token: k, title: WORD[k]!, note: choice(g.lands ?? "not_noted"), out: "Nothing of it", bad: g.surface === "paint" };
  }),
);
const missing = computed(() => GROUNDS.filter((k) => !(k in given.value)));
</script>

<template>
  <FieldGroup group="battery" at="/wiring/battery" measurable note="Empty: planned with 12.4 V at rest and 10 V while cranking.">
    <Field v-for="k in BATTERY" :key="k" :at="`/wiring/battery/${k}`" />
    <MoreFields summary="Starter, size, asleep, place, master switch" :fields="MORE" folded />
  </FieldGroup>
  <FieldGroup group="charging" note="Battery off before a wire at the alternator is touched: its post is live.">
    <Field v-for="k in CHARGING" :key="k" :at="`/wiring/charging/${k}`" />
    <MoreFields summary="Its thin wires: exciter and sense" :fields="THIN" folded />
  </FieldGroup>
  <FieldGroup
    group="grounds"
    at="/wiring/grounds"
    measurable
    note="Black on battery minus, red on the ground, a helper cranks: coil unplugged, neutral, hand brake on."
  >
    <EntryList
      at="/wiring/grounds"
      :entries="entries"
      :fields="['lands', 'surface', 'rise', 'ohms']"
      @out="(k) => store.set(`/wiring/grounds/${k}`, undefined)"
    >
      <template #under>
        <p v-if="missing.length" class="mt-1.5 flex flex-wrap gap-1.5">
          <button
            v-for="k in missing"
            :key="k"
            type="button"
            class="btn btn-small"
            :disabled="store.readOnly"
            @click="store.set(`/wiring/grounds/${k}`, {})"
          >
            + {{ WORD[k] }}
          </button>
        </p>
      </template>
    </EntryList>
  </FieldGroup>
</template>
