<script setup lang="ts">
import { computed } from "vue";
import BenchGroup from "@/parts/BenchGroup.vue";
import Field from "@/parts/Field.vue";
import FigureList from "@/parts/FigureList.vue";
import RulingFigure from "@/parts/RulingFigure.vue";
import StationFrame from "@/parts/StationFrame.vue";
import TableField from "@/parts/TableField.vue";
import { useBuild } from "@/stores/build";
import { IconPlus } from "@tabler/icons-vue";
import HealthLog from "./HealthLog.vue";
import PowerBands from "./PowerBands.vue";
import CompressionBars from "./CompressionBars.vue";

const WANTED = ["power", "power_speed", "rev_limit", "altitude", "fuel", "octane", "bsfc", "boost"].map((k) => `/engine/${k}`);
const IS = [
  "layout", "arrangement", "cylinders", "displacement", "bore", "stroke", "compression_ratio", "firing_order", "valve_train", "chamber", "cam", "inlet_closing", "rod", "idle_speed",
].map((k) => `/engine/${k}`); // prettier-ignore
const store = useBuild();
const nextCylinder = computed(() => {
  const read = new Set((store.build?.engine.compression ?? []).map((r) => r.cylinder));
  return Array.from({ length: store.build?.engine.cylinders ?? 0 }, (_, i) => i + 1).find((c) => !read.has(c)) ?? 1;
});
/** Readings that leak by more than a little: worth a word where the air comes out. */
const leaky = computed(() =>
  (store.build?.engine.compression ?? []).flatMap((r, i) =>
    Number.parseFloat(r.leak_down ?? "0") * (r.leak_down?.includes("%") ? 1 : 100) > 10 ? [i] : [],
  ),
);
const RUN = { mass: "1200 kg", to_speed: "100 km/h", time: "10 s" };
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
          :columns="['cylinder', 'dry', 'wet', 'leak_down']"
          widths="3.6rem 1fr 1fr 1fr"
          :fresh="{ cylinder: nextCylinder, dry: '1000 kPa' }"
        />
      </BenchGroup>
      <BenchGroup
        v-if="leaky.length"
        title="Where the air comes out"
        at="/engine/compression"
        note="Cylinder at top dead centre, both valves shut; listen."
      >
        <Field
          v-for="i in leaky"
          :key="i"
          :at="`/engine/compression/${i}/escapes`"
          :label="`Cylinder ${store.build.engine.compression![i]!.cylinder}`"
        />
      </BenchGroup>
      <HealthLog />
      <BenchGroup title="What is wanted of it" :at="WANTED"><Field v-for="p in WANTED" :key="p" :at="p" /></BenchGroup>
      <BenchGroup v-if="store.build.engine.run" title="What the car should do" at="/engine/run">
        <Field v-for="k in ['mass', 'to_speed', 'time']" :key="k" :at="`/engine/run/${k}`" />
        <button
          type="button"
          class="btn btn-small btn-plain self-end underline"
          :disabled="store.readOnly"
          @click="store.set('/engine/run', undefined)"
        >
          No such wish
        </button>
      </BenchGroup>
      <button v-else type="button" class="btn btn-small mb-3" :disabled="store.readOnly" @click="store.set('/engine/run', RUN)">
        <IconPlus :size="15" aria-hidden="true" />What the car should do
      </button>
      <BenchGroup title="What it is" :at="IS"><Field v-for="p in IS" :key="p" :at="p" /></BenchGroup>
    </template>
    <template #reckoning>
      <div class="mt-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <RulingFigure figure="engine.compression.spread" label="Compression spread" :severity="severity" />
        <RulingFigure figure="engine.bmep" label="Mean effective pressure" />
        <RulingFigure figure="engine.piston_speed" label="Piston speed at the limit" />
      </div>
      <PowerBands :power="store.plan.stages.engine.power" />
      <CompressionBars :engine="store.plan.stages.engine" :cylinders="store.build.engine.cylinders" />
      <FigureList
        class="mt-3"
        :names="
          [
            'engine.fuel_mass_flow',
            'engine.air_mass_flow',
            'engine.ambient_pressure',
            'engine.idle_manifold_pressure',
            'engine.idle_fuel_mass_flow',
            'engine.compression.expected',
            'engine.leak_down',
            'engine.vacuum',
            'engine.vacuum.expected',
          ].filter((n) => store.plan!.figures[n]?.value != null)
        "
      />
    </template>
  </StationFrame>
</template>
