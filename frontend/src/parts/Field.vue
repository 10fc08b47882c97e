<script setup lang="ts">
// The right control for a place in the build, by what the core says of it.
import { computed } from "vue";
import { useBuild } from "@/stores/build";
import ChoiceField from "./ChoiceField.vue";
import FlagField from "./FlagField.vue";
import TextField from "./TextField.vue";

const props = defineProps<{ at: string; bare?: boolean; label?: string; hint?: string }>();
const store = useBuild();
const kind = computed(() => store.info(props.at)?.kind);
</script>

<template>
  <ChoiceField v-if="kind === 'choice'" :at="at" :bare="bare" :label="label" />
  <FlagField v-else-if="kind === 'flag'" :at="at" :label="label" />
  <TextField v-else :at="at" :bare="bare" :label="label" :hint="hint" />
</template>
