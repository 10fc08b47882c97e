<script setup lang="ts">
// Questions on which good practitioners disagree: what each side holds, what it would do to this car, what comes and goes.
import { IconCheck, IconChevronDown } from "@tabler/icons-vue";
import type { FuelDepth, Operation } from "@/api/types";
import { useBuild } from "@/stores/build";

defineProps<{ questions: FuelDepth["questions"]; stale: boolean }>();
const store = useBuild();
type Answer = FuelDepth["questions"][number]["answers"][number];
const choose = (title: string, a: Answer) => store.edit(a.patch as unknown as Operation[], `${title} ${a.title}: ${a.says}`.slice(0, 600));
const carried = (a: Answer) =>
  [a.appear.length ? `comes: ${a.appear.join(", ")}` : "", a.go.length ? `goes: ${a.go.join(", ")}` : ""].filter(Boolean).join("; ");
</script>

<template>
  <section class="mt-5" aria-label="Ways to do it">
    <h2 class="text-[1.1rem]">Ways to do it</h2>
    <p class="text-[0.9rem] text-soft">
      Good people disagree here. Each way has been solved on this car; choosing one carries its parts along, and undo brings them back.
    </p>
    <details v-for="q in questions" :key="q.key" class="group border-t border-hair" name="ways">
      <summary class="flex min-h-11 cursor-pointer flex-wrap items-baseline gap-x-2 py-2">
        <span class="font-semibold">{{ q.title }}</span><span class="flex-1 text-soft">{{ q.answers.find((a) => a.now)?.title }}</span
        ><IconChevronDown :size="17" aria-hidden="true" class="self-center group-open:rotate-180" />
      </summary>
      <p class="pb-1 text-[0.88rem] text-soft">{{ q.why_usual }}</p>
      <ul>
        <li
          v-for="a in q.answers"
          :key="a.key"
          class="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 border-t border-hair py-1.5 pl-3"
          :class="{ 'bg-wash': a.now }"
        >
          <div class="leading-tight">
            <p>
              <b>{{ a.title }}</b><span v-if="a.usual" class="text-soft">, usual here</span>
            </p>
            <p class="text-[0.9rem] text-soft">{{ a.says }}.</p>
            <p v-if="!a.now" class="text-[0.9rem]">
              {{ a.effect.charAt(0).toUpperCase() + a.effect.slice(1) }}<template v-if="carried(a)">; {{ carried(a) }}</template
              >; about {{ a.hours }} h.
            </p>
          </div>
          <span v-if="a.now" class="pr-2 text-[0.9rem]">as it is</span>
          <button
            v-else
            type="button"
            class="btn btn-small no-print mr-1"
            :disabled="store.readOnly || stale || !a.patch.length"
            :aria-label="`Take this way: ${a.title}`"
            @click="choose(q.title, a)"
          >
            <IconCheck :size="16" aria-hidden="true" /> Take this way
          </button>
        </li>
      </ul>
    </details>
  </section>
</template>
