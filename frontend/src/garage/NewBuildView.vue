<script setup lang="ts">
// A new build in three steps; the rest is filled in pencil, as it is usual for such a car.
import { computed, nextTick, ref, watch } from "vue";
import { RouterLink, useRoute, useRouter } from "vue-router";
import OrderChoice from "./OrderChoice.vue";
import QuestionField from "./QuestionField.vue";
import { useAnswers } from "./useAnswers";

const route = useRoute();
const router = useRouter();
const a = useAnswers();
const at = computed(() =>
  Math.max(
    a.steps.value.findIndex((s) => s.key === route.params.step),
    0,
  ),
);
const step = computed(() => a.steps.value[at.value]);
const last = computed(() => at.value === a.steps.value.length - 1);
const missing = computed(() => (step.value ? a.open(step.value.key) : []));
/** Steps before this one that still want an answer. */
const before = computed(() => a.steps.value.slice(0, at.value).filter((s) => a.open(s.key).length));
const pressed = ref(false);
const heading = ref<HTMLElement | null>(null);
watch(at, async () => {
  pressed.value = false;
  await nextTick();
  heading.value?.focus();
});

async function on(): Promise<void> {
  pressed.value = true;
  if (missing.value.length || (last.value && before.value.length)) return;
  if (last.value) await a.create();
  else await router.push(`/new/${a.steps.value[at.value + 1]!.key}`);
}
</script>

<template>
  <div class="mx-auto max-w-5xl px-4 pb-12">
    <header class="py-4"><RouterLink to="/" class="font-head font-bold hover:underline">Uphill Spark</RouterLink></header>
    <main v-if="step">
      <nav aria-label="Steps" class="mb-3 flex flex-wrap gap-x-5 gap-y-1 border-b border-line">
        <RouterLink
          v-for="(s, i) in a.steps.value"
          :key="s.key"
          :to="`/new/${s.key}`"
          class="-mb-px flex min-h-11 items-center gap-1.5 border-b-[3px] px-1"
          :class="i === at ? 'border-ink font-semibold' : 'border-transparent text-soft'"
          :aria-current="i === at ? 'step' : undefined"
          ><span class="num">{{ i + 1 }}</span> {{ s.title }}
          <span v-if="i !== at && !a.open(s.key).length" aria-label="answered">✓</span></RouterLink
        >
      </nav>
      <h1 ref="heading" tabindex="-1" class="text-[1.8rem] focus:outline-none">{{ step.asks }}</h1>
      <p class="mb-4 text-soft">
        What you do not answer is filled in pencil: what is usual for such a car, marked as assumed, for you to measure or replace.
      </p>
      <form class="flex flex-col gap-6" novalidate @submit.prevent="on">
        <template v-for="q in step.questions" :key="q.key">
          <OrderChoice
            v-if="q.key === 'firing_order'"
            :title="q.title"
            :help="q.help"
            :orders="a.fitting.value"
            :given="a.given(q.key)"
            :problem="a.problems.value[q.key]"
            @give="(v) => a.give(q.key, v)"
          />
          <QuestionField
            v-else
            :question="q"
            :given="a.given(q.key)"
            :problem="a.problems.value[q.key]"
            :counts="a.counts.value"
            :drawn="q.key === 'layout'"
            @give="(v) => a.give(q.key, v)"
          />
        </template>
        <p v-if="a.trouble.value" class="border-2 border-spark bg-sheet px-3 py-2" role="alert">{{ a.trouble.value }}</p>
        <p v-else-if="pressed && missing.length" class="border-2 border-spark bg-sheet px-3 py-2" role="alert">
          Still to answer: {{ missing.map((q) => q.title).join(" ") }}
        </p>
        <p v-else-if="pressed && last && before.length" class="border-2 border-spark bg-sheet px-3 py-2" role="alert">
          Still to answer, a step back: {{ before.map((s) => s.title).join(", ") }}.
        </p>
        <div class="flex flex-wrap gap-3">
          <button type="submit" class="btn btn-main !min-h-12 !px-6 text-lg" :disabled="a.busy.value">
            {{ !last ? "Go on" : a.busy.value ? "Filling in the rest…" : "Fill in the rest" }}
          </button>
          <RouterLink v-if="at" :to="`/new/${a.steps.value[at - 1]!.key}`" class="btn !min-h-12 !px-5">Back</RouterLink>
        </div>
      </form>
    </main>
  </div>
</template>
