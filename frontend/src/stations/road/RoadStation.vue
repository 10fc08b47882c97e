<script setup lang="ts">
// What the road says: logs, which rows are believed, of what the error is made, what to correct, what is still to be driven.
import { defineAsyncComponent } from "vue";
import StationFrame from "@/parts/StationFrame.vue";
import { useBuild } from "@/stores/build";
import LogsBench from "./LogsBench.vue";

const BelieveBench = defineAsyncComponent(() => import("./BelieveBench.vue"));
const OffBench = defineAsyncComponent(() => import("./OffBench.vue"));
const CorrectBench = defineAsyncComponent(() => import("./CorrectBench.vue"));
const PartsBench = defineAsyncComponent(() => import("./PartsBench.vue"));
const PullsBench = defineAsyncComponent(() => import("./PullsBench.vue"));
const StripBench = defineAsyncComponent(() => import("./StripBench.vue"));
const DrivePlan = defineAsyncComponent(() => import("./DrivePlan.vue"));
const RoadPapers = defineAsyncComponent(() => import("./RoadPapers.vue"));
const store = useBuild();
</script>

<template>
  <StationFrame v-if="store.plan" station="road">
    <template #overview><LogsBench /></template>
    <template #believe><BelieveBench /></template>
    <template #off><OffBench /></template>
    <template #correct><CorrectBench /></template>
    <template #parts><PartsBench /></template>
    <template #pulls><PullsBench /></template>
    <template #strip><StripBench /></template>
    <template #drive><DrivePlan /></template>
    <template #papers><RoadPapers /></template>
  </StationFrame>
</template>
