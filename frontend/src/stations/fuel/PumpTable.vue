<script setup lang="ts">
// A pump's sheet: typed row by row, pasted, or read from a file.
import { computed } from "vue";
import CsvBox from "@/parts/CsvBox.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";
import { get } from "@/stores/pointer";

const props = defineProps<{ at: string }>();
const store = useBuild();
const rows = computed(() => (get(store.build, props.at) as unknown[] | undefined) ?? []);
</script>

<template>
  <details :open="rows.length < 5">
    <summary class="min-h-9 cursor-pointer py-1">Pump table, {{ rows.length }} rows from its sheet</summary>
    <TableField
      :at="at"
      noun="row"
      :columns="['voltage', 'pressure', 'flow', 'current']"
      :fresh="{ voltage: '13.5 V', pressure: '350 kPa', flow: '0 L/h', current: '7 A' }"
    />
    <details>
      <summary class="min-h-9 cursor-pointer py-1">Paste or read the whole sheet</summary>
      <CsvBox
        :at="at"
        kind="pump"
        label="Or paste the sheet: volts, pressure, flow, amps in each line; a heading may name units"
        example="12, 300, 156, 6.85"
        :out="at === '/fuel/pump/curve'"
      />
    </details>
  </details>
</template>
