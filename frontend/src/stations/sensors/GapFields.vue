<script setup lang="ts">
// The gap between wheel and sensor, at four places a quarter turn apart.
import { computed } from "vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import MoreFields from "@/parts/MoreFields.vue";
import OptionalPart from "@/parts/OptionalPart.vue";
import { useBuild } from "@/stores/build";

const store = useBuild();
const T = "/sensors/trigger";
const gaps = computed(() => (store.at(`${T}/gaps`) as string[] | undefined) ?? []);
const MORE = ["shims", "travel", "overlap"].map((k) => `${T}/${k}`);
const FOUR = [null, null, null, null];
</script>

<template>
  <FieldGroup
    group="gap"
    :at="[`${T}/gaps`, `${T}/gap_least`, `${T}/gap_most`]"
    note="Feeler gauge, four places a quarter turn apart. Key out, battery off."
  >
    <div v-if="gaps.length" :id="`f${T}/gaps`" class="col-span-2 grid grid-cols-4 gap-2" tabindex="-1">
      <Field v-for="(_, i) in gaps" :key="i" :at="`${T}/gaps/${i}`" :label="['top', 'right', 'bottom', 'left'][i] ?? `${i + 1}`" />
    </div>
    <OptionalPart v-else :at="`${T}/gaps`" add="Enter four gaps" :fresh="FOUR" />
    <Field :at="`${T}/gap_least`" /><Field :at="`${T}/gap_most`" />
    <MoreFields summary="Shims, travel, and how much of the tip faces the teeth" :fields="MORE" />
  </FieldGroup>
</template>
