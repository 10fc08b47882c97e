<script setup lang="ts">
import { computed } from "vue";
import BenchGroup from "@/parts/BenchGroup.vue";
import Field from "@/parts/Field.vue";
import FigureList from "@/parts/FigureList.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";
import CompressionBars from "./CompressionBars.vue";

const WANTED = ["power", "power_speed", "rev_limit", "altitude", "fuel", "bsfc"].map((k) => `/engine/${k}`);
const IS = [
  "layout", "arrangement", "cylinders", "displacement", "bore", "stroke", "compression_ratio", "firing_order", "valve_train", "chamber", "cam", "idle_speed",
].map((k) => `/engine/${k}`); // prettier-ignore
const store = useBuild();
const nextCylinder = computed(() => {
  const read = new Set((store.build?.engine.compression ?? []).map((r) => r.cylinder));
  return Array.from({ length: store.build?.engine.cylinders ?? 0 }, (_, i) => i + 1).find((c) => !read.has(c)) ?? 1;
});
const severity = computed(() => store.findings("engine").find((f) => f.code === "ENG-01")?.severity);
</script>

<template>
  <StationFrame v-if="store.plan && store.build" station="engine">
    <template #bench>
      <BenchGroup
        title="Compression log"
        at="/engine/compression"
        measurable
        note="Warm engine, all plugs out, throttle held open. Coil unplugged; keep clear of belts and fan."
      >
        <TableField
          class="col-span-2"
          at="/engine/compression"
          noun="reading"
          :columns="['cylinder', 'dry', 'wet']"
          widths="4.2rem 1fr 1fr"
          :fresh="{ cylinder: nextCylinder, dry: '1000 kPa' }"
        />
      </BenchGroup>
      <BenchGroup title="What is wanted of it" :at="WANTED"><Field v-for="p in WANTED" :key="p" :at="p" /></BenchGroup>
      <BenchGroup title="What it is" :at="IS"><Field v-for="p in IS" :key="p" :at="p" /></BenchGroup>
    </template>
    <template #reckoning>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="engine.compression_spread" label="Compression spread" :severity="severity" />
        <RulingFigure figure="engine.bmep" label="Mean effective pressure" />
        <RulingFigure figure="engine.piston_speed" label="Piston speed at the limit" />
      </div>
      <CompressionBars :engine="store.plan.stages.engine" :cylinders="store.build.engine.cylinders" />
      <FigureList
        class="mt-3"
        :names="[
          'engine.fuel_mass_flow',
          'engine.air_mass_flow',
          'engine.ambient_pressure',
          'engine.idle_manifold_pressure',
          'engine.idle_fuel_mass_flow',
          'engine.compression_expected',
        ]"
      />
    </template>
  </StationFrame>
</template>
