<script setup lang="ts">
// A throttle by wire: two tracks at pedal and plate, the brake, and the limp opening that a pulled track must bring.
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import OptionalPart from "@/parts/OptionalPart.vue";

const W = "/air/by_wire";
const TRACKS = ["first_rest", "first_half", "first_full", "second_rest", "second_half", "second_full"];
</script>

<template>
  <FieldGroup group="by_wire" :at="W" measurable note="Key on, engine off, hands clear of the plate: it moves by itself.">
    <OptionalPart :at="W" add="The throttle is moved by a motor" out="It has a cable">
      <Field v-for="k in ['brake', 'limp', 'limp_test']" :key="k" :at="`${W}/${k}`" />
      <template v-for="part in ['pedal', 'plate']" :key="part">
        <p class="col-span-2 mt-1 font-semibold capitalize">{{ part }}, two tracks</p>
        <div class="col-span-2 grid grid-cols-3 gap-2">
          <Field v-for="k in TRACKS" :key="k" :at="`${W}/${part}/${k}`" />
        </div>
      </template>
    </OptionalPart>
  </FieldGroup>
</template>
