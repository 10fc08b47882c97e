<script setup lang="ts">
// What stays on the car: what it spares, and what to look at before it is used again.
import { choice } from "@/figures/format";
import FieldGroup from "@/parts/FieldGroup.vue";
import { useBuild } from "@/stores/build";

const store = useBuild();
type Key = NonNullable<NonNullable<typeof store.build>["engine"]["carried_over"]>[number];
function toggle(key: string, kept: boolean): void {
  const now = (store.at("/engine/carried_over") as Key[] | undefined) ?? [];
  void store.set("/engine/carried_over", kept ? [...now, key] : now.filter((k) => k !== key));
}
</script>

<template>
  <FieldGroup group="carried_over" at="/engine/carried_over" note="What stays on the car. It is not bought, but it is measured first.">
    <ul id="f/engine/carried_over" tabindex="-1" class="col-span-2">
      <li v-for="k in store.plan!.stages.engine.kept" :key="k.key" class="border-t border-hair">
        <label class="flex min-h-11 cursor-pointer items-center gap-3 py-1"
          ><input
            type="checkbox"
            class="h-6 w-6 shrink-0"
            :checked="k.kept"
            :disabled="store.readOnly"
            @change="toggle(k.key, ($event.target as HTMLInputElement).checked)"
          /><span class="leading-tight"
            >{{ choice(k.key).charAt(0).toUpperCase() + choice(k.key).slice(1) }}
            <span class="block text-[0.84rem] text-soft">{{ k.kept ? `Look first: ${k.look_at}` : `spares ${k.spares}` }}</span></span
          ></label
        >
      </li>
    </ul>
  </FieldGroup>
</template>
