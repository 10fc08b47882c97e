<script setup lang="ts">
// The trail of the kept tune, and any two of it held against each other.
import { useQuery } from "@pinia/colada";
import { computed, ref } from "vue";
import { tuneApi } from "./asks";
import { useBuild } from "@/stores/build";
import DifferenceView from "./DifferenceView.vue";
import { MADE } from "./useTables";

const store = useBuild();
const { data } = useQuery({ key: () => ["trail", store.id, store.revision], query: () => tuneApi.trail(store.id, store.revision) });
const steps = computed(() => data.value?.steps ?? []);
const before = ref("quick");
const after = ref("now");
const choices = computed(() => [
  { key: "now", word: "The tables in use" },
  { key: "quick", word: "The quick tables" },
  { key: "worked", word: "The worked engine" },
  ...(data.value?.found ? [{ key: "found", word: "As found" }] : []),
  ...steps.value.filter((s) => s.made).map((s) => ({ key: String(s.number), word: `Revision ${s.number}: ${s.summary}` })),
]);
const current = computed(() => steps.value.find((s) => s.made)?.number);
const day = (written: string) => new Date(written).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });
</script>

<template>
  <div>
    <div class="mt-2 grid grid-cols-1 gap-3 sm:grid-cols-2">
      <label v-for="(m, k) in ['Before', 'After']" :key="m" class="block min-w-0 text-[0.86rem] text-soft"
        >{{ m }}
        <select
          :value="k ? after : before"
          class="mt-1 block h-11 w-full min-w-0 border border-line bg-sheet px-2 text-[1rem] text-ink"
          @change="k ? (after = ($event.target as HTMLSelectElement).value) : (before = ($event.target as HTMLSelectElement).value)"
        >
          <option v-for="c in choices" :key="c.key" :value="c.key">{{ c.word }}</option>
        </select>
      </label>
    </div>
    <DifferenceView :before="before" :after="after" />
    <section class="mt-4" aria-label="Trail">
      <h2 class="text-[1.1rem]">Trail</h2>
      <p v-if="data && !steps.length" class="text-soft">
        No tune is kept yet. Keep one at Tables or at Worked: from then on every change of it stands here, and can be taken back.
      </p>
      <ol>
        <li v-for="s in steps" :key="s.number" class="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-hair py-2">
          <span class="num w-10 font-semibold">{{ s.number }}</span>
          <span class="min-w-0 flex-1 basis-60">
            {{ s.summary }}<span v-if="s.reason" class="block text-[0.86rem] text-soft">{{ s.reason }}</span>
            <span class="block text-[0.82rem] text-soft"
              >{{ s.who ? `${s.who}, ` : "" }}{{ day(s.written)
              }}<template v-if="s.made">; of {{ MADE[s.made] }}, {{ s.cells }} own cells{{ s.in_unit ? ", typed in" : "" }}</template></span
            >
          </span>
          <button
            v-if="s.made"
            type="button"
            class="btn btn-small"
            :aria-label="`Compare revision ${s.number} with the tables in use`"
            @click="((before = String(s.number)), (after = 'now'))"
          >
            Compare
          </button>
          <button
            v-if="s.made && s.number !== current"
            type="button"
            class="btn btn-small"
            :disabled="store.readOnly"
            :aria-label="`Roll back to this: revision ${s.number}`"
            @click="store.tuneAct({ do: 'back', to: s.number })"
          >
            Roll back to this
          </button>
        </li>
      </ol>
    </section>
  </div>
</template>
