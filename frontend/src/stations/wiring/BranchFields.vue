<script setup lang="ts">
// Branches by string. Pressing one shows it on the drawing with all that runs in it.
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import type { Stages } from "@/api/types";
import { choice } from "@/figures/format";

defineProps<{ branches: Stages["wiring"]["branches"] }>();
const looked = defineModel<string | null>({ required: true });
</script>

<template>
  <FieldGroup group="branches" at="/wiring/branches" measurable note="Press a branch to see what runs in it.">
    <div class="col-span-2 flex flex-col gap-1.5">
      <div v-for="b in branches" :key="b.key" class="grid grid-cols-[1fr_5.5rem_8rem] items-center gap-2">
        <button
          type="button"
          class="min-h-9 text-left text-[0.9rem] leading-tight underline decoration-line underline-offset-2"
          :aria-pressed="looked === b.key"
          @click="looked = looked === b.key ? null : b.key"
        >
          {{ choice(b.start) }} to {{ choice(b.end) }}
        </button>
        <Field :at="`/wiring/branches/${b.key}/length`" bare :label="`Length, ${b.start} to ${b.end}`" /><Field
          :at="`/wiring/branches/${b.key}/zone`"
          bare
          :label="`Zone, ${b.start} to ${b.end}`"
        />
      </div>
    </div>
  </FieldGroup>
</template>
