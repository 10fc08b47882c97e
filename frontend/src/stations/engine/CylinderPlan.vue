<script setup lang="ts">
// The engine from above, front to the left: its cylinders as they are numbered, and the place of each in the firing order.
import { computed } from "vue";
import Drawing from "@/figures/Drawing.vue";
import { useBuild } from "@/stores/build";

const store = useBuild();
const engine = computed(() => store.build!.engine);
/** Banks side by side, front to back. Without numbers of its own an engine has them in a row, or shared between its banks in order. */
const banks = computed<number[][]>(() => {
  const e = engine.value;
  if (e.banks?.length) return e.banks;
  const all = Array.from({ length: e.cylinders }, (_, i) => i + 1);
  if ((e.arrangement ?? "inline") === "inline") return [all];
  const half = Math.ceil(all.length / 2);
  return [all.slice(0, half), all.slice(half)];
});
const longest = computed(() => Math.max(...banks.value.map((b) => b.length)));
const H = computed(() => banks.value.length * 96 + 34);
const R = 30;
/** Cylinders as wide apart as the sheet allows; the second bank stands half a step back, as crank pins are shared. */
const step = (width: number) => Math.min((width - 60) / (longest.value + (banks.value.length > 1 ? 0.5 : 0)), 96);
const at = (width: number, bank: number, i: number) => ({ x: 30 + step(width) * (i + 0.5 + (bank ? 0.5 : 0)), y: 70 + bank * 96 });
const radius = (width: number) => Math.min(R, step(width) * 0.44);
const turn = (c: number) => engine.value.firing_order.indexOf(c) + 1;
const told = computed(() => `${banks.value.map((b) => b.join(" ")).join(" beside ")}; firing order ${engine.value.firing_order.join(" ")}`);
</script>

<template>
  <Drawing title="Its cylinders from above, front to the left" :height="H" :words="`Cylinders, front to back: ${told}`">
    <template #default="{ width }">
      <path d="M62 22H26M33 16L26 22L33 28" fill="none" stroke="var(--soft)" stroke-width="1.4" />
      <text x="68" y="26" font-size="13" fill="var(--soft)">front</text>
      <template v-for="(bank, b) in banks" :key="b">
        <line
          :x1="at(width, b, 0).x - step(width) / 2"
          :x2="at(width, b, bank.length - 1).x + step(width) / 2"
          :y1="at(width, b, 0).y"
          :y2="at(width, b, 0).y"
          stroke="var(--line)"
          stroke-width="1.4"
          stroke-dasharray="9 4 2 4"
        />
        <g v-for="(c, i) in bank" :key="c" :transform="`translate(${at(width, b, i).x} ${at(width, b, i).y})`">
          <circle :r="radius(width)" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
          <text text-anchor="middle" :dy="2" class="num" font-size="21" font-weight="600" fill="var(--ink)">{{ c }}</text>
          <text v-if="turn(c)" text-anchor="middle" :dy="17" font-size="12" fill="var(--soft)">{{ turn(c) }}.</text>
        </g>
      </template>
    </template>
    <template #under>
      <p class="mt-1 text-[0.9rem] text-soft">
        The large figure is the cylinder, the small one its turn to fire: <span class="num">{{ engine.firing_order.join(" ") }}</span>
      </p>
    </template>
  </Drawing>
</template>
