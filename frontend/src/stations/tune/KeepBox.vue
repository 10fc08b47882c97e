<script setup lang="ts">
// A tune kept, made of something: what it would do to the person's own cells is told first.
import { useQuery } from "@pinia/colada";
import { computed, ref } from "vue";
import { tuneApi } from "./asks";
import { useBuild } from "@/stores/build";

const props = withDefaults(defineProps<{ source: "quick" | "worked" | "found"; word: string; ready?: boolean }>(), { ready: true });
const store = useBuild();
const open = ref(false);
const { data, error } = useQuery({
  key: () => ["proposal", store.id, store.revision, props.source],
  query: () => tuneApi.proposal(store.id, store.revision, props.source),
  enabled: () => open.value,
});
const asks = computed(() => data.value?.asks ?? []);
const inked = computed(() => store.stages.in_use?.inked ?? 0);
function press(): void {
  if (inked.value && !open.value) open.value = true;
  else keep(true);
}
function keep(mine: boolean): void {
  open.value = false;
  void store.tuneAct({ do: "keep", source: props.source, mine });
}
</script>

<template>
  <div class="mt-3">
    <button type="button" class="btn btn-main" :disabled="store.readOnly || !ready" :aria-expanded="open" @click="press">
      {{ word }}
    </button>
    <p v-if="store.problems['/tune/kept']" role="alert" class="text-[0.9rem]">{{ store.problems["/tune/kept"] }}</p>
    <section v-if="open" class="mt-2 border border-line bg-wash p-3" aria-label="Your own cells">
      <p v-if="error" role="alert">{{ error.message }}</p>
      <template v-else-if="data">
        <p>
          {{ inked }} {{ inked === 1 ? "cell is" : "cells are" }} your own.
          <template v-if="asks.length">From {{ asks.length }} of them the new tables differ by more than they may be off:</template>
          <template v-else>The new tables differ from none of them by more than they may be off.</template>
        </p>
        <ul v-if="asks.length" class="mt-1 max-h-48 overflow-auto text-[0.9rem]" tabindex="0" aria-label="Cells that differ">
          <li v-for="a in asks" :key="`${a.table} ${a.row} ${a.column}`" class="border-t border-hair py-1">
            {{ a.title }} at {{ a.x }}{{ a.y === null ? "" : `, ${a.y}` }}: yours <b class="num">{{ a.mine }}</b>, new
            <b class="num">{{ a.theirs }}</b> {{ a.unit === "1" ? "" : a.unit }}
          </li>
        </ul>
        <div class="mt-2 flex flex-wrap gap-2">
          <button type="button" class="btn btn-main" @click="keep(true)">Keep mine, the rest anew</button>
          <button type="button" class="btn" @click="keep(false)">All anew</button>
          <button type="button" class="btn btn-plain" @click="open = false">Leave it</button>
        </div>
      </template>
    </section>
  </div>
</template>
