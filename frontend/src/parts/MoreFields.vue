<script setup lang="ts">
// Facts that few builds have: folded until one of them is there, or until somebody is led to one.
import { computed, ref, watch } from "vue";
import { useRoute } from "vue-router";
import { useBuild } from "@/stores/build";
import { within } from "@/stores/pointer";
import Field from "./Field.vue";

/** `fields` are shown; `also` are places whose fields stand in the slot; `folded`: opened by hand or by an address alone. */
const props = defineProps<{ summary: string; fields?: string[]; also?: string[]; folded?: boolean }>();
const store = useBuild();
const route = useRoute();
const places = computed(() => [...(props.fields ?? []), ...(props.also ?? [])]);
const there = computed(() => !props.folded && places.value.some((p) => store.at(p) != null));
const led = computed(() => places.value.some((p) => within(decodeURIComponent(route.hash).replace(/^#f/, ""), p)));
const open = ref(there.value || led.value);
watch([there, led], ([is, was]) => (open.value ||= is || was));
</script>

<template>
  <details class="col-span-2" :open="open" @toggle="(e) => (open = (e.target as HTMLDetailsElement).open)">
    <summary class="min-h-11 cursor-pointer py-2 text-[0.95rem]">{{ summary }}</summary>
    <div class="grid grid-cols-2 gap-x-3 gap-y-2.5 pb-1"><Field v-for="p in fields" :key="p" :at="p" /><slot /></div>
  </details>
</template>
