<script setup lang="ts">
import { RouterLink } from "vue-router";
</script>

<template>
  <main class="mx-auto max-w-xl p-8">
    <h1 class="text-2xl">There is nothing at this address</h1>
    <p class="my-3">The build may have been put away, or the address was cut short.</p>
    <RouterLink to="/" class="btn btn-main">To the garage</RouterLink>
  </main>
</template>
