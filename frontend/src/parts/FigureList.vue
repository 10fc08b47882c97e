<script setup lang="ts">
import { useBuild } from "@/stores/build";

defineProps<{ names: string[] }>();
const store = useBuild();
const moved = (name: string) => store.ripple?.figures.some((m) => m.name === name);
</script>

<template>
  <dl class="grid grid-cols-1 gap-x-8 text-[0.92rem] sm:grid-cols-2">
    <div
      v-for="name in names"
      :id="`g-${name}`"
      :key="name"
      class="flex items-baseline justify-between gap-3 border-b border-hair py-1"
      :class="{ 'bg-wash': moved(name) }"
    >
      <dt class="min-w-0 leading-tight">{{ store.plan?.figures[name]?.label }}</dt>
      <dd class="num shrink-0 font-semibold" :class="{ 'text-info italic': store.plan?.figures[name]?.assumed?.length }">
        {{ store.plan?.figures[name]?.shown
        }}<span v-if="store.plan?.figures[name]?.also" class="pl-2 text-[0.82rem] font-normal text-soft not-italic">{{
          store.plan.figures[name]!.also
        }}</span>
      </dd>
    </div>
  </dl>
</template>
