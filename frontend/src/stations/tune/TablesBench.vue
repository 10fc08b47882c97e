<script setup lang="ts">
// The tables as they are typed in: read, and once a tune is kept, worked on like cells of a spreadsheet.
import { computed, ref } from "vue";
import { useAsked } from "@/stores/useAsked";
import { useBuild } from "@/stores/build";
import CellActs from "./CellActs.vue";
import CellHistory from "./CellHistory.vue";
import CellCard from "./CellCard.vue";
import CurveCells from "./CurveCells.vue";
import TableGrid from "./TableGrid.vue";
import TablePick from "./TablePick.vue";
import AxisBox from "./AxisBox.vue";
import { useCells } from "./useCells";
import { useTables } from "./useTables";

const store = useBuild();
const here = ref<HTMLElement | null>(null);
const { tables, kept, key, table } = useTables();
const cells = useCells(() => table.value);
const { found } = useAsked("cycle", here);
const acts = ref<InstanceType<typeof CellActs> | null>(null);
const use = computed(() => store.stages.in_use!);
const isKept = computed(() => kept.value.has(table.value.key));
const plain = computed(() => {
  const { x, y, rows } = table.value;
  return table.value.y_label ? { x, y, rows } : { x, rows };
});
/** A table of which the quick one stands is kept with the rest. */
const keepToo = () => store.edit([{ op: "add", path: `/tune/kept/tables/${table.value.key}`, value: plain.value }]);
</script>

<template>
  <div ref="here" class="grid grid-cols-1 gap-x-6 lg:grid-cols-[19rem_minmax(0,1fr)]">
    <div class="space-y-3 pt-3" aria-label="What is done to the table" role="group">
      <TablePick v-model="key" :tables="tables" />
      <template v-if="isKept && !table.hidden">
        <CellActs ref="acts" :table="table" :cells="cells" />
        <AxisBox :table="table" />
      </template>
      <p v-else-if="table.hidden" class="border-l-4 border-spark bg-wash px-3 py-2">{{ table.hidden }}</p>
      <template v-else-if="use.source === 'kept'">
        <p class="text-[0.9rem]">Of this kind the quick table stands: it is worked afresh with every change of the build.</p>
        <button type="button" class="btn" :disabled="store.readOnly" @click="keepToo">Keep this table too</button>
      </template>
      <template v-else>
        <p class="text-[0.9rem]">
          These are the quick tables: worked afresh with every change of the build, and nobody's own. Keep them to write in them.
        </p>
        <button
          type="button"
          class="btn btn-main"
          :disabled="store.readOnly"
          @click="store.tuneAct({ do: 'keep', source: 'quick', mine: true })"
        >
          Keep these tables
        </button>
        <p v-if="store.problems['/tune/kept']" role="alert">{{ store.problems["/tune/kept"] }}</p>
      </template>
      <p class="text-[0.85rem] text-soft">Doubt: {{ table.doubt }}.</p>
      <CellHistory :table="table" :chosen="cells.chosen.value" />
    </div>
    <div
      class="min-w-0"
      @keydown="isKept && acts && ($event.target as HTMLElement).getAttribute('role') === 'group' && acts.key($event)"
      @copy="acts?.copied($event)"
      @paste="isKept && acts?.pasted($event)"
    >
      <TableGrid
        v-if="table.y_label"
        :table="table"
        :cells="cells"
        :marks="store.stages.tune!.landmarks"
        :doubt="table.doubts?.length ? table.doubts : undefined"
      />
      <CurveCells v-else :table="table" :cells="cells" />
      <CellCard :table="table" :chosen="cells.chosen.value" :depth="found" />
    </div>
  </div>
</template>
