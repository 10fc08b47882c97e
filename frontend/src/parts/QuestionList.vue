<script setup lang="ts">
// Questions on which good practitioners disagree: what each side holds, and what it would bring to this car, station by station, before it is taken.
import { IconCheck, IconChevronDown } from "@tabler/icons-vue";
import { computed, useTemplateRef } from "vue";
import type { Choice, Operation, Subject } from "@/api/types";
import { useAsked } from "@/stores/useAsked";
import { useBuild } from "@/stores/build";

const props = defineProps<{ station: "engine" | "fuel" | "sensors" | "ignition" | "wiring" }>();
const store = useBuild();
const { found, stale, trouble } = useAsked(`ways-${props.station}` satisfies Subject, useTemplateRef<HTMLElement>("here"));
const questions = computed(() => found.value?.questions ?? []);
const choose = (title: string, a: Choice) => store.edit(a.patch as unknown as Operation[], `${title} ${a.title}: ${a.says}`.slice(0, 600));
/** What happens at a station, each kind as a line. */
const lines = (e: Choice["effects"][number]) =>
  [
    { word: "comes", told: e.adds, bad: false },
    { word: "goes", told: e.drops, bad: false },
    { word: "moves", told: e.moves, bad: false },
    { word: "clears", told: e.cleared, bad: false },
    { word: "brings", told: e.raised, bad: true },
  ].filter((l) => l.told.length);
</script>

<template>
  <section ref="here" class="mt-5" aria-label="Ways to do it" :aria-busy="stale">
    <h2 class="text-[1.1rem]">Ways to do it</h2>
    <p class="text-[0.9rem] text-soft">
      Good people disagree here. Each way has been worked out on this car; choosing one carries its parts along, and undo brings them back.
    </p>
    <p v-if="trouble" class="text-spark" role="alert">{{ trouble }}</p>
    <p v-else-if="!found" class="py-2 text-soft" role="status">Working out every way…</p>
    <details
      v-for="q in questions"
      :key="q.key"
      class="group border-t border-hair"
      :class="{ 'opacity-60': stale }"
      :name="`ways-${station}`"
    >
      <summary class="flex min-h-11 cursor-pointer flex-wrap items-baseline gap-x-2 py-2">
        <span class="font-semibold">{{ q.title }}</span><span class="flex-1 text-soft">{{ q.answers.find((a) => a.now)?.title }}</span
        ><IconChevronDown :size="17" aria-hidden="true" class="self-center group-open:rotate-180" />
      </summary>
      <p class="pb-1 text-[0.88rem] text-soft">{{ q.why_usual }}</p>
      <ul>
        <li
          v-for="a in q.answers"
          :key="a.key"
          class="grid grid-cols-[minmax(0,1fr)_auto] items-start gap-x-3 border-t border-hair py-1.5 pl-3"
          :class="{ 'bg-wash': a.now }"
        >
          <div class="leading-tight">
            <p>
              <b>{{ a.title }}</b><span v-if="a.usual" class="text-soft">, usual here</span
              ><span v-if="a.stops" class="text-spark">, {{ a.stops }} {{ a.stops === 1 ? "Stop" : "Stops" }} then open</span>
            </p>
            <p class="text-[0.9rem] text-soft">
              {{ a.says }}.<template v-if="!a.now && a.hours"> About {{ a.hours }} h.</template>
            </p>
            <p v-if="a.trouble" class="text-[0.9rem] text-spark">Does not fit this build: {{ a.trouble }}</p>
            <details v-if="a.effects.length" class="text-[0.88rem]">
              <summary class="min-h-9 cursor-pointer py-1.5">
                What it brings: <span>{{ a.effects.map((e) => e.title.toLowerCase()).join(", ") }}</span>
              </summary>
              <dl class="grid grid-cols-[5.4rem_minmax(0,1fr)] gap-y-1 pb-1">
                <template v-for="e in a.effects" :key="e.station">
                  <dt class="font-semibold">{{ e.title }}</dt>
                  <dd>
                    <p v-for="l in lines(e)" :key="l.word" :class="{ 'text-spark': l.bad }">
                      <span class="text-soft">{{ l.word }}</span> {{ l.told.join("; ") }}
                    </p>
                  </dd>
                </template>
              </dl>
            </details>
            <p v-else-if="!a.now && !a.trouble" class="text-[0.9rem]">Nothing else moves.</p>
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
