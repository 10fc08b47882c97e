<script setup lang="ts">
// The snags that live on a bench, worst first: three, then all; what is sound below them.
import { computed, ref } from "vue";
import type { Finding } from "@/api/types";
import { useCatalogue } from "@/stores/catalogue";
import PencilSound from "./PencilSound.vue";
import SnagCard from "./SnagCard.vue";

/** `whole`: of the station, on its overview. */
const props = defineProps<{ findings: Finding[]; whole?: boolean }>();
const emit = defineEmits<{ overrule: [Finding] }>();
const { severities } = useCatalogue();
const FIRST = 3;
const all = ref(false);
const snags = computed(() =>
  [...props.findings].sort((a, b) => severities.value.indexOf(a.severity) - severities.value.indexOf(b.severity)),
);
const open = computed(() => snags.value.filter((f) => !f.severity.startsWith("sound")));
const shown = computed(() => (all.value ? open.value : open.value.slice(0, FIRST)));
const pencilled = computed(() => snags.value.filter((f) => f.severity === "sound_if"));
const sound = computed(() => snags.value.filter((f) => f.severity === "sound"));
</script>

<template>
  <div v-if="snags.length" class="mt-4">
    <h2 class="mb-2 text-[1.1rem]">{{ whole ? "Snags of this station" : "Snags here" }}</h2>
    <p v-if="!open.length" class="mb-1 text-soft">Nothing to mend{{ pencilled.length ? " if the pencil holds" : "" }}.</p>
    <div class="grid items-start gap-2.5" :class="{ 'lg:grid-cols-3': whole }">
      <SnagCard v-for="f in shown" :key="f.code + f.at" :finding="f" @overrule="emit('overrule', $event)" />
    </div>
    <div class="mt-2.5 flex flex-col gap-2.5">
      <button v-if="open.length > FIRST" type="button" class="btn btn-small self-start" :aria-expanded="all" @click="all = !all">
        {{ all ? "The worst three" : `All ${open.length}` }}
      </button>
      <PencilSound v-if="pencilled.length" :findings="pencilled" />
      <details v-if="sound.length">
        <summary class="min-h-9 cursor-pointer py-1 text-[0.95rem]">
          {{ sound.length }} sound: {{ sound.map((f) => f.title.toLowerCase()).join(", ") }}
        </summary>
        <div class="mt-1 flex flex-col gap-2"><SnagCard v-for="f in sound" :key="f.code + f.at" :finding="f" compact /></div>
      </details>
    </div>
  </div>
</template>
