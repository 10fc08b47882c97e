<script setup lang="ts">
// A meter on the car of a practice: two leads on any two terminals, in a position of the key.
import { computed, onMounted, ref, shallowRef } from "vue";
import { api } from "@/api/client";
import type { KeyState, Terminals } from "@/api/types";
import { useBuild } from "@/stores/build";

const emit = defineEmits<{ put: [key: string] }>();
const store = useBuild();
const board = shallowRef<Terminals | null>(null);
const red = ref("unit.A1");
const black = ref("battery.minus");
const state = ref<KeyState>("crank");
onMounted(async () => {
  board.value = await api.terminals(store.id, { revision: store.revision, state: "run", plugged: true }).catch(() => null);
  const first = board.value?.terminals.find((t) => t.key.startsWith("unit."));
  if (first && !board.value?.terminals.some((t) => t.key === red.value)) red.value = first.key;
});
const groups = computed(() => {
  const rows = board.value?.terminals ?? [];
  return [...new Set(rows.map((t) => t.key.split(".")[0]!))].map((part) => ({
    part: part.replaceAll("_", " "),
    rows: rows.filter((t) => t.key.startsWith(`${part}.`)),
  }));
});
</script>

<template>
  <div v-if="board" class="mt-2 flex flex-col gap-2">
    <label v-for="lead in ['red', 'black'] as const" :key="lead" class="text-[0.9rem]"
      >{{ lead === "red" ? "Red on" : "Black on"
      }}<select
        class="mt-0.5 block h-11 w-full border border-line bg-sheet px-1"
        :value="lead === 'red' ? red : black"
        @change="lead === 'red' ? (red = ($event.target as HTMLSelectElement).value) : (black = ($event.target as HTMLSelectElement).value)"
      >
        <optgroup v-for="g in groups" :key="g.part" :label="g.part">
          <option v-for="t in g.rows" :key="t.key" :value="t.key">{{ t.name }}</option>
        </optgroup>
      </select></label
    >
    <label class="text-[0.9rem]"
      >Key<select v-model="state" class="mt-0.5 block h-11 w-full border border-line bg-sheet px-1">
        <option v-for="s in board.states" :key="s.key" :value="s.key">{{ s.word }}</option>
      </select></label
    >
    <button type="button" class="btn btn-main self-start" @click="emit('put', `${red},${black},${state}`)">Read it, 4 min</button>
  </div>
  <p v-else class="mt-2" role="status">The terminals are fetched …</p>
</template>
