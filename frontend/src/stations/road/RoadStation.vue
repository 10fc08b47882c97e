<script setup lang="ts">
import { useBuild } from "@/stores/build";

const store = useBuild();
</script>

<template>
  <section v-if="store.plan" class="mx-auto max-w-2xl px-4 py-8">
    <h1 class="text-[1.45rem]">Driving, logs and corrections</h1>
    <p class="mt-2">
      This station is on the hill but not built in this version: nothing here is checked, and its snags are not counted. The stations around
      it work without it.
    </p>
  </section>
</template>
