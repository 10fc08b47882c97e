<script setup lang="ts">
// The flow bench log: one test a row, before or after cleaning.
import { IconPlus, IconX } from "@tabler/icons-vue";
import { computed } from "vue";
import BenchGroup from "@/parts/BenchGroup.vue";
import CsvBox from "@/parts/CsvBox.vue";
import Field from "@/parts/Field.vue";
import { useBuild } from "@/stores/build";

const store = useBuild();
const rows = computed(() => store.build!.injectors.bench ?? []);
const FIELDS = ["volume", "time", "pressure", "drops", "spray", "resistance"];
/** The next test: as the last one was made, under the next mark. */
function add(): void {
  const last = rows.value.at(-1);
  const taken = rows.value.map((r) => r.mark);
  const mark = [..."ABCDEFGHJKLMNPQRSTUVWXYZ"].find((m) => !taken.includes(m)) ?? String(rows.value.length + 1);
  void store.edit([
    {
      op: "add",
      path: "/injectors/bench/-",
      value: {
        mark,
        cleaned: last?.cleaned ?? false,
        volume: last?.volume ?? "75 mL",
        time: last?.time ?? "30 s",
        pressure: last?.pressure ?? "300 kPa",
        spray: "not_looked_at",
      },
    },
  ]);
}
</script>

<template>
  <BenchGroup
    title="On the flow bench"
    at="/injectors/bench"
    measurable
    note="Outdoors, no flame, eyes protected: fuel mist and solvent burn. Shut and under pressure it must not drip."
  >
    <Field class="col-span-2" at="/injectors/bench_fluid" />
    <div id="f/injectors/bench" tabindex="-1" class="col-span-2">
      <details v-for="(r, i) in rows" :key="i" class="border-t border-hair">
        <summary class="flex min-h-11 cursor-pointer items-baseline justify-between gap-2 py-2">
          <b>{{ r.mark }}<template v-if="r.cleaned">, cleaned</template></b>
          <span class="num text-[0.86rem]" :class="r.drops ? 'text-spark' : 'text-soft'"
            >{{ r.volume }} in {{ r.time }}<template v-if="r.drops">, {{ r.drops }} drops</template></span
          >
        </summary>
        <div class="grid grid-cols-2 gap-x-3 gap-y-2 pb-3">
          <Field :at="`/injectors/bench/${i}/mark`" /><Field :at="`/injectors/bench/${i}/cleaned`" />
          <Field v-for="k in FIELDS" :key="k" :at="`/injectors/bench/${i}/${k}`" />
          <button
            type="button"
            class="btn btn-small btn-plain col-span-2 justify-self-start underline"
            :disabled="store.readOnly"
            @click="store.edit([{ op: 'remove', path: `/injectors/bench/${i}` }])"
          >
            <IconX :size="15" aria-hidden="true" />Strike this test
          </button>
        </div>
      </details>
      <button type="button" class="btn btn-small mt-1" :disabled="store.readOnly" @click="add">
        <IconPlus :size="15" aria-hidden="true" />Add a test
      </button>
      <details>
        <summary class="min-h-9 cursor-pointer py-1">A whole log at once</summary>
        <CsvBox
          at="/injectors/bench"
          kind="flow-bench"
          label="With a heading: mark, volume, time, pressure, and cleaned, drops, resistance, spray if noted"
          example="mark,volume (mL),time (s),pressure (kPa),drops"
          out
        />
      </details>
    </div>
  </BenchGroup>
</template>
