<script setup lang="ts">
// The engine from above, front to the left: its cylinders as they are numbered, and the place of each in the firing order.
import { computed } from "vue";
import CylinderRows from "@/figures/CylinderRows.vue";
import Drawing from "@/figures/Drawing.vue";
import { useBuild } from "@/stores/build";

const store = useBuild();
const engine = computed(() => store.build!.engine);
const arrangement = computed(() => engine.value.arrangement ?? "inline");
const height = computed(() => (arrangement.value === "inline" && !engine.value.banks?.length ? 130 : 226));
const told = computed(
  () => `${(engine.value.banks ?? []).map((b) => b.join(" ")).join(" beside ")} firing order ${engine.value.firing_order.join(" ")}`,
);
</script>

<template>
  <Drawing title="Its cylinders from above, front to the left" :height="height" :words="`Cylinders, front to back: ${told}`">
    <template #default="{ width }">
      <path d="M62 22H26M33 16L26 22L33 28" fill="none" stroke="var(--soft)" stroke-width="1.4" />
      <text x="68" y="26" font-size="13" fill="var(--soft)">front</text>
      <CylinderRows
        :width="width"
        :arrangement="arrangement"
        :cylinders="engine.cylinders"
        :order="engine.firing_order"
        :banks="engine.banks"
        :top="70"
      />
    </template>
    <template #under>
      <p class="mt-1 text-[0.9rem] text-soft">
        The large figure is the cylinder, the small one its turn to fire: <span class="num">{{ engine.firing_order.join(" ") }}</span>
      </p>
    </template>
  </Drawing>
</template>
