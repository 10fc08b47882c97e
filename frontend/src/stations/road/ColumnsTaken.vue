<script setup lang="ts">
// Which column of a log is which quantity: the guess with its reason and a strip of each signal, changed where it is wrong, taken with one press and remembered for this source.
import { computed, reactive, ref } from "vue";
import { ApiError } from "@/api/client";
import { useBuild } from "@/stores/build";
import { roadApi, type LogTold, type S } from "./asks";

const props = defineProps<{ told: LogTold }>();
const emit = defineEmits<{ took: [] }>();
const store = useBuild();
const trouble = ref("");
const busy = ref(false);
interface Row {
  quantity: string;
  factor: string;
  offset: string;
}
const rows = reactive<Record<string, Row>>(
  Object.fromEntries(
    props.told.columns.map((c) => {
      const t = props.told.taken.find((x) => x.column === c.name);
      return [c.name, { quantity: t && !t.asks ? t.quantity : "", factor: String(t?.factor ?? 1), offset: String(t?.offset ?? 0) }];
    }),
  ),
);
const why = (name: string) => props.told.taken.find((t) => t.column === name);
const order = computed(() => [...props.told.columns].sort((a, b) => +!why(a.name) - +!why(b.name)));
const many = computed(() => Object.values(rows).filter((r) => r.quantity).length);
const quantities = computed(() => props.told.quantities.filter((q) => q.key !== "key"));
const unit = (key: string) => props.told.quantities.find((q) => q.key === key)?.unit ?? "";
const W = 150;
const H = 30;
/** The strip of a column: a band from least to most of each stretch. */
function strip(c: S["ColumnSeen"]): string {
  const n = c.strip_low.length;
  if (!n) return "";
  const span = c.high - c.low || 1;
  const y = (v: number) => (H - 2 - ((v - c.low) / span) * (H - 4)).toFixed(1);
  const x = (i: number) => ((i / Math.max(n - 1, 1)) * W).toFixed(1);
  const up = c.strip_high.map((v, i) => `${x(i)} ${y(v)}`);
  const down = c.strip_low.map((_, i) => `${x(n - 1 - i)} ${y(c.strip_low[n - 1 - i]!)}`);
  return `M${up.join("L")}L${down.join("L")}Z`;
}
async function take(): Promise<void> {
  trouble.value = "";
  busy.value = true;
  const taken = Object.entries(rows)
    .filter(([, r]) => r.quantity)
    .map(([column, r]) => ({ column, quantity: r.quantity, factor: r.factor, offset: r.offset }) as unknown as S["ColumnTaken"]);
  try {
    await roadApi.take(store.id, props.told.line.id, taken);
    emit("took");
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    const p = error.body.problems?.[0];
    trouble.value = `${error.message}${p ? ` Wanted: ${p.wants}.` : ""}`;
  }
  busy.value = false;
}
</script>

<template>
  <section aria-label="Columns of the log">
    <div class="flex flex-wrap items-center justify-between gap-2">
      <h2 class="text-[1.15rem]">{{ told.line.state === "asks" ? "Is it read right?" : "Columns" }}</h2>
      <button type="button" class="btn btn-main" :disabled="busy || !many" @click="take">Take {{ many }} columns so</button>
    </div>
    <p class="text-[0.92rem] leading-snug text-soft">
      Guessed by name, unit and numbers. What is taken now is remembered for logs of this source; the rest stays in the log as it came.
    </p>
    <ul v-if="told.notes.length" class="mt-1 text-[0.9rem] leading-snug">
      <li v-for="n in told.notes" :key="n">{{ n }}</li>
    </ul>
    <p v-if="trouble" role="alert" class="mt-1 text-[0.92rem] text-spark">{{ trouble }}</p>
    <ul class="mt-2 max-h-[60vh] overflow-auto" tabindex="0" aria-label="Every column">
      <li v-for="c in order" :key="c.name" class="grid grid-cols-[1fr_auto] items-center gap-x-3 border-t border-hair py-1.5">
        <div class="min-w-0">
          <b class="[overflow-wrap:anywhere]">{{ c.name }}</b> <span class="text-soft">{{ c.unit }}</span>
          <span class="num block text-[0.85rem] text-soft"
            >{{ c.low }} to {{ c.high }}, middle {{ c.middle }}{{ c.missing ? `, ${(c.missing * 100).toFixed(0)} % missing` : "" }}</span
          >
          <span v-if="why(c.name)" class="block text-[0.85rem] leading-snug">{{ why(c.name)!.asks || why(c.name)!.why }}</span>
        </div>
        <svg :width="W" :height="H" class="border border-hair bg-sheet" role="img" :aria-label="`${c.name} over the whole log`">
          <path :d="strip(c)" fill="var(--ink)" stroke="var(--ink)" stroke-width="0.7" />
        </svg>
        <div class="col-span-2 mt-1 flex flex-wrap items-center gap-2">
          <label class="text-[0.85rem] text-soft"
            >is
            <select
              v-model="rows[c.name]!.quantity"
              class="h-11 border sm:h-9 border-line bg-sheet px-1 text-ink"
              :aria-label="`${c.name} is`"
            >
              <option value="">left out</option>
              <option v-for="q in quantities" :key="q.key" :value="q.key">{{ q.word }}{{ q.unit ? `, ${q.unit}` : "" }}</option>
            </select></label
          >
          <template v-if="rows[c.name]!.quantity">
            <label class="text-[0.85rem] text-soft"
              >times
              <input
                v-model="rows[c.name]!.factor"
                class="num h-11 w-20 sm:h-9 border border-line bg-sheet px-1 text-ink"
                inputmode="decimal"
                :aria-label="`${c.name} times`"
            /></label>
            <label class="text-[0.85rem] text-soft"
              >plus
              <input
                v-model="rows[c.name]!.offset"
                class="num h-11 w-20 sm:h-9 border border-line bg-sheet px-1 text-ink"
                inputmode="decimal"
                :aria-label="`${c.name} plus`"
              />
              {{ unit(rows[c.name]!.quantity) }}</label
            >
          </template>
        </div>
      </li>
    </ul>
    <details v-if="told.broken.length" class="mt-2">
      <summary class="cursor-pointer py-1">
        {{ told.broken_count }} lines were no rows{{ told.cells_lost ? `, ${told.cells_lost} cells no numbers` : "" }}
      </summary>
      <ul class="max-h-48 overflow-auto text-[0.88rem]" tabindex="0" aria-label="Lines that were no rows">
        <li v-for="b in told.broken" :key="b.line" class="border-t border-hair py-1 leading-snug">
          <b class="num">{{ b.line }}</b>: {{ b.why }}. <code class="[overflow-wrap:anywhere]">{{ b.text }}</code>
        </li>
      </ul>
    </details>
  </section>
</template>
