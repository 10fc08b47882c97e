<script setup lang="ts">
// A made loom against this build: what serves, what is too long or short, what is missing.
import { computed } from "vue";
import CsvBox from "@/parts/CsvBox.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import MoreFields from "@/parts/MoreFields.vue";
import TableField from "@/parts/TableField.vue";
import { choice } from "@/figures/format";
import { useScales } from "@/figures/owners";
import type { Stages } from "@/api/types";

const props = defineProps<{ loom: Stages["wiring"]["loom"] }>();
const own = useScales();
const VERDICT = { needed: "serves", not_needed: "not needed here", no_such_wire: "serves no wire of ours" };
const over = (m: number | null) =>
  m === null ? "length not entered" : m < 0 ? `${own.value.distance.tell(-m)} short` : `${own.value.distance.tell(m)} over`;
const missing = computed(() => props.loom?.missing ?? []);
</script>

<template>
  <FieldGroup group="loom" note="Its fuses and sizes stay its own: judged, not replaced.">
    <TableField
      class="col-span-2"
      at="/wiring/loom"
      noun="circuit"
      :columns="['label', 'serves', 'length', 'ends']"
      :fresh="{ label: 'A circuit' }"
      widths="1.3fr 1.2fr 0.8fr 1fr"
    />
    <MoreFields summary="Or all of it from a table" folded>
      <CsvBox
        class="col-span-2"
        at="/wiring/loom"
        kind="loom"
        label="A loom from a table"
        example="circuit;serves;length;size&#10;Fuel pump feed;pump_feed;4,2 m;2.5 mm2"
        append
        out
      />
    </MoreFields>
  </FieldGroup>
  <table v-if="loom" class="mt-2 w-full text-[0.88rem]">
    <caption class="text-left font-semibold">
      The loom against this build
    </caption>
    <tbody>
      <tr v-for="r in loom.rows" :key="r.at" class="border-t border-hair">
        <th scope="row" class="py-1 text-left font-normal">{{ r.label }}</th>
        <td>
          {{ VERDICT[r.verdict] }}<template v-if="r.wire">: {{ choice(r.wire) }}</template>
        </td>
        <td class="num text-right" :class="{ 'text-spark': (r.over_m ?? 0) < 0 }">{{ r.verdict === "needed" ? over(r.over_m) : "" }}</td>
      </tr>
    </tbody>
  </table>
  <p v-if="loom && missing.length" class="mt-1.5 text-[0.88rem]"><b>Not in the loom:</b> {{ missing.map(choice).join(", ") }}.</p>
</template>
