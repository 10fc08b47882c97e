<script setup lang="ts">
// The work beside the climb: today, the path, tasks, parts, money, diary, what is off, the book.
import { defineAsyncComponent } from "vue";
import StationFrame from "@/parts/StationFrame.vue";
import { useBuild } from "@/stores/build";
import MoneyFields from "./MoneyFields.vue";
import PeopleFields from "./PeopleFields.vue";
import TodayBench from "./TodayBench.vue";

const PathBench = defineAsyncComponent(() => import("./PathBench.vue"));
const TaskList = defineAsyncComponent(() => import("./TaskList.vue"));
const PartsBench = defineAsyncComponent(() => import("./PartsBench.vue"));
const MoneyDrawing = defineAsyncComponent(() => import("./MoneyDrawing.vue"));
const DiaryBench = defineAsyncComponent(() => import("./DiaryBench.vue"));
const OffBench = defineAsyncComponent(() => import("./OffBench.vue"));
const BookBench = defineAsyncComponent(() => import("./BookBench.vue"));
const store = useBuild();
</script>

<template>
  <StationFrame v-if="store.plan" station="work">
    <template #overview><TodayBench /></template>
    <template #path><PathBench /></template>
    <template #path-fields><PeopleFields /></template>
    <template #tasks><TaskList /></template>
    <template #parts><PartsBench /></template>
    <template #money><MoneyDrawing /></template>
    <template #money-fields><MoneyFields /></template>
    <template #diary><DiaryBench /></template>
    <template #off><OffBench /></template>
    <template #book><BookBench /></template>
  </StationFrame>
</template>
