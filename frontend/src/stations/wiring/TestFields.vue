<script setup lang="ts">
// One wire on the test sheet: how far it is, end to end, short, volts by position of the key.
import { IconArrowLeft, IconArrowRight } from "@tabler/icons-vue";
import { computed } from "vue";
import type { Stages } from "@/api/types";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import ColourStripe from "./ColourStripe.vue";
import WireTrace from "./WireTrace.vue";
import { choice } from "@/figures/format";
import { useBuild } from "@/stores/build";

type Row = Stages["wiring"]["tests"][number];
const props = defineProps<{ wiring: Stages["wiring"]; chosen: string | null }>();
const emit = defineEmits<{ choose: [string] }>();
const store = useBuild();
const rows = computed<Row[]>(() => props.wiring.tests);
const row = computed(() => rows.value.find((r) => r.wire === props.chosen) ?? rows.value[0]!);
const volts = computed(() =>
  row.value.expected_v.map((expected_v, i) => ({ state: props.wiring.read_in[i]!, expected_v, verdict: row.value.verdicts[i] ?? "open" })),
);
const wire = computed(() => props.wiring.wires.find((w) => w.key === row.value.wire)!);
/** The short code on its two labels. */
const code = computed(() => `W${props.wiring.wires.indexOf(wire.value) + 1}`);
const at = computed(() => `/wiring/tests/${row.value.wire}`);
const there = computed(() => store.at(at.value) != null);
const step = (by: number) => emit("choose", rows.value[(rows.value.indexOf(row.value) + by + rows.value.length) % rows.value.length]!.wire);
const begin = () => store.set(at.value, { stage: "laid" });
const WORDS: Record<string, string> = { off: "key off", run: "run", prime: "prime", crank: "cranking", idle: "idle", full: "full power" };
</script>

<template>
  <FieldGroup
    group="tests"
    :at="at"
    measurable
    note="Both plugs off for ohms. Volts with the unit's plug on; while cranking the coil unplugged, neutral, hand brake on."
  >
    <div class="col-span-2 flex items-center justify-between gap-2">
      <button type="button" class="btn !px-2" aria-label="The wire before" @click="step(-1)">
        <IconArrowLeft :size="18" aria-hidden="true" />
      </button>
      <p class="text-center leading-tight">
        <b>{{ code }}, {{ row.label }}</b
        ><br /><span class="text-[0.88rem] text-soft">{{ wire.starts_at }} to {{ wire.ends_at }}</span
        ><br /><ColourStripe :colour="wire.colour" />
        <span class="num ml-2 text-[0.85rem] text-soft">{{ +(wire.area_m2 * 1e6).toPrecision(3) }} mm²</span>
      </p>
      <button type="button" class="btn !px-2" aria-label="The next wire" @click="step(1)">
        <IconArrowRight :size="18" aria-hidden="true" />
      </button>
    </div>
    <button v-if="!there" :id="`f${at}`" type="button" class="btn btn-main col-span-2" :disabled="store.readOnly" @click="begin">
      Begin to test it
    </button>
    <template v-else>
      <Field :at="`${at}/stage`" /><Field :at="`${at}/short`" /><Field :at="`${at}/continuity`" />
      <div class="col-span-2">
        <div v-for="v in volts" :key="v.state" class="grid grid-cols-[1fr_5.5rem_6.5rem_4rem] items-center gap-2 border-t border-hair py-1">
          <span class="text-[0.9rem]">{{ WORDS[v.state] ?? choice(v.state) }}</span>
          <span class="num text-right text-[0.88rem] text-soft">{{ v.expected_v.toFixed(2) }} V</span>
          <Field :at="`${at}/volts/${v.state}`" bare hint="–" :label="`Volts, ${WORDS[v.state] ?? v.state}`" />
          <span class="text-[0.88rem]" :class="v.verdict === 'fail' ? 'font-semibold text-spark' : 'text-good'">{{
            v.verdict === "open" ? "" : v.verdict === "pass" ? "passes" : "fails"
          }}</span>
        </div>
        <p v-if="!row.expected_v.length" class="text-[0.88rem] text-soft">
          Its far end pulses or follows a sensor: no steady volts to hold a meter to.
        </p>
      </div>
    </template>
    <details class="col-span-2 border-t border-hair pt-1" :open="!there">
      <summary class="min-h-11 cursor-pointer py-2 font-semibold">Where it goes, and what is read on its way</summary>
      <WireTrace :wiring="wiring" :wire="row.wire" />
    </details>
  </FieldGroup>
</template>
