<script setup lang="ts">
// A board of every terminal with the meter beside it, and below what was read.
import MeterBoard from "./MeterBoard.vue";
import MeterLeads from "./MeterLeads.vue";
import ReadList from "./ReadList.vue";
import { useMeter } from "./useMeter";

const meter = useMeter();
</script>

<template>
  <div class="grid gap-x-6 lg:grid-cols-[minmax(0,1fr)_22rem]">
    <div class="lg:order-2">
      <MeterLeads :meter="meter" />
      <ReadList :meter="meter" />
    </div>
    <MeterBoard :meter="meter" class="lg:order-1" />
  </div>
</template>
