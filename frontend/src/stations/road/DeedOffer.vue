<script setup lang="ts">
// A deed that is tried first: what it would move anywhere in the build, and then a press that makes it.
import { computed, ref } from "vue";
import { ApiError } from "@/api/client";
import { roadApi, type Deeds, type DeedsAsked } from "./asks";
import type { UseRoad } from "./useRoad";

const props = defineProps<{ road: UseRoad; asked: DeedsAsked; word: string; says?: string }>();
const emit = defineEmits<{ done: [] }>();
const found = ref<Deeds | null>(null);
const trouble = ref("");
const busy = ref(false);
const asks = computed(() => [...props.asked.causes, ...props.asked.curves, ...(props.asked.cells ? ["cells"] : [])]);
const done = computed(() => asks.value.length > 0 && asks.value.every((d) => props.road.did.value.includes(d)));
const ruled = computed(() => !props.road.same.value && (props.asked.causes.length || props.asked.curves.length || props.asked.cells));
async function look(): Promise<void> {
  if (found.value) return void (found.value = null);
  busy.value = true;
  trouble.value = "";
  try {
    found.value = await roadApi.deeds(props.road.store.id, props.road.id.value, props.asked);
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    const p = error.body.problems?.[0];
    trouble.value = `${error.message}${p ? ` ${p.given ? `This is: ${p.given}. ` : ""}Wanted: ${p.wants}.` : ""}`;
  }
  busy.value = false;
}
async function make(): Promise<void> {
  const deeds = found.value!;
  found.value = null;
  await props.road.store.edit(deeds.patch as never, deeds.reason, true);
  emit("done");
}
</script>

<template>
  <div class="mt-1.5">
    <p v-if="done" class="text-good">Put right by this log. The next log says whether it worked.</p>
    <button
      v-else
      type="button"
      class="btn btn-small !h-auto max-w-full !whitespace-normal text-left"
      :disabled="busy || !!ruled || road.store.readOnly"
      :aria-expanded="!!found"
      @click="look"
    >
      {{ word }}
    </button>
    <p v-if="says && !found && !done" class="mt-0.5 text-[0.9rem] leading-snug text-soft">{{ says }}</p>
    <p v-if="trouble" role="alert" class="mt-1 text-[0.92rem] text-spark">{{ trouble }}</p>
    <section v-if="found" class="mt-2 border border-line bg-wash p-3" aria-label="What it would move">
      <p class="leading-snug">{{ found.ripple.sentence || "Nothing else moves." }}</p>
      <ul
        v-if="found.ripple.figures.length"
        class="mt-1 max-h-48 overflow-auto text-[0.9rem]"
        tabindex="0"
        aria-label="Figures that would move"
      >
        <li v-for="f in found.ripple.figures" :key="f.name" class="border-t border-hair py-0.5">
          {{ f.label }}: <span class="num">{{ f.shown_before }}</span> to <b class="num">{{ f.shown_after }}</b>
        </li>
      </ul>
      <p class="mt-1 text-[0.88rem] text-soft">{{ found.reason }}. The unit itself is typed in by you: write it when the engine stands.</p>
      <div class="mt-2 flex flex-wrap gap-2">
        <button type="button" class="btn btn-main" @click="make">Make it so</button
        ><button type="button" class="btn" @click="found = null">Leave it</button>
      </div>
    </section>
  </div>
</template>
