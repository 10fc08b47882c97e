<script setup lang="ts">
import { RouterView } from "vue-router";
import { useSettings } from "@/stores/settings";

useSettings();
</script>

<template>
  <RouterView />
</template>
