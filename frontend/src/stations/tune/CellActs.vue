<script setup lang="ts">
// What is done to the chosen cells: typed over, or by a press. The server reads what was typed and works it out.
import { computed, ref } from "vue";
import type { CellsAct, Table } from "@/api/types";
import { useBuild } from "@/stores/build";
import type { UseCellsReturn } from "./useCells";

const props = defineProps<{ table: Table; cells: UseCellsReturn }>();
const store = useBuild();
const typed = ref("");
const box = ref<HTMLInputElement | null>(null);
const at = computed(() => `/tune/kept/tables/${props.table.key}`);
const trouble = computed(() => store.problems[at.value] ?? "");
const range = computed((): Pick<CellsAct, "from" | "to"> => {
  const c = props.cells.chosen.value;
  return { from: [c.row, c.column], to: [c.toRow, c.toColumn] };
});
function act(what: CellsAct["do"], text?: string): Promise<void> {
  return store.edit([
    { op: "replace", path: at.value, cells: { do: what, ...range.value, ...(text === undefined ? {} : { typed: text }) } },
  ]);
}
async function enter(): Promise<void> {
  if (!typed.value.trim()) return;
  await act("enter", typed.value);
  if (!trouble.value) typed.value = "";
}
const many = computed(() => props.cells.many.value);
const wide = computed(() => props.cells.chosen.value.column !== props.cells.chosen.value.toColumn);
const high = computed(() => props.cells.chosen.value.row !== props.cells.chosen.value.toRow);
/** As a spreadsheet takes them: tabs between, the highest load first. */
const text = () =>
  props.table.rows
    .map((row, i) => row.filter((_, j) => props.cells.inside(i, j)).join("\t"))
    .filter((line) => line)
    .join("\n");
const copied = (event: ClipboardEvent) => {
  event.clipboardData?.setData("text/plain", text());
  event.preventDefault();
};
const pasted = (event: ClipboardEvent) => {
  const found = event.clipboardData?.getData("text/plain");
  if (found) void act("paste", found);
  event.preventDefault();
};
/** A sign typed over the grid goes on in the box. */
function key(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === "b") void act("between");
  else if (event.key === "s") void act("smooth");
  else if (event.key.length === 1 && "0123456789+-=.,".includes(event.key)) {
    typed.value = event.key;
    box.value?.focus();
  } else return;
  event.preventDefault();
  event.stopPropagation(); // a figure alone goes to a station elsewhere
}
defineExpose({ key, copied, pasted });
</script>

<template>
  <form class="space-y-3" @submit.prevent="enter">
    <label class="block text-[0.86rem] text-soft"
      >{{ many === 1 ? "The cell that is chosen" : `${many} cells that are chosen` }}
      <span class="mt-1 flex gap-2">
        <input
          ref="box"
          v-model="typed"
          class="border border-line bg-sheet num h-11 min-w-0 flex-1 px-3 text-[1.05rem] text-ink"
          inputmode="text"
          autocomplete="off"
          maxlength="40"
          :disabled="store.readOnly"
          :aria-invalid="!!trouble || undefined"
          aria-describedby="cells-how"
        />
        <button type="submit" class="btn btn-main" :disabled="store.readOnly || !typed.trim()">Write</button>
      </span>
    </label>
    <p v-if="trouble" role="alert" class="text-[0.9rem]">{{ trouble }}</p>
    <p id="cells-how" class="text-[0.82rem] leading-snug text-soft">
      A number is written. +3 or -3 changes by so much, +3 % by so many per cent, =-3 writes what is below nought.
    </p>
    <div class="flex flex-wrap gap-2" role="group" aria-label="Chosen cells">
      <button type="button" class="btn btn-small" :disabled="store.readOnly || many < 3" title="B" @click="act('between')">
        Straight between corners
      </button>
      <button type="button" class="btn btn-small" :disabled="store.readOnly" title="S" @click="act('smooth')">Smooth</button>
      <button type="button" class="btn btn-small" :disabled="store.readOnly || !wide" @click="act('across')">Left one across</button>
      <button type="button" class="btn btn-small" :disabled="store.readOnly || !high" @click="act('up')">Lowest one up</button>
      <button type="button" class="btn btn-small" :disabled="store.readOnly" @click="act('accept')">Mine as they are</button>
      <button type="button" class="btn btn-small" :disabled="store.readOnly" @click="act('pencil')">No longer mine</button>
    </div>
    <p class="text-[0.82rem] leading-snug text-soft">
      Smoothing leaves sure cells and moves those in doubt. Ctrl-C and Ctrl-V go to a spreadsheet and back. Cells of yours have a turned
      corner: they stay when the rest is worked again.
    </p>
  </form>
</template>
