<script setup lang="ts">
// A cold start, a foot that comes down, idling: each from the parts of the log that tell of it, laid over each other, with what is proposed.
import { ref } from "vue";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import CurveOffer from "./CurveOffer.vue";
import DeedOffer from "./DeedOffer.vue";
import NeedsLog from "./NeedsLog.vue";
import OverLines from "./OverLines.vue";
import { percent, useRoad } from "./useRoad";

const road = useRoad();
const view = ref<"cold" | "foot" | "idle">("cold");
const VIEWS = [
  { key: "cold" as const, word: "Cold" },
  { key: "foot" as const, word: "Foot down" },
  { key: "idle" as const, word: "Idle" },
];
const tip = { causes: ["tip_in" as const], curves: [], cells: false, fill: true, signed_by: "", signed_why: "" };
</script>

<template>
  <NeedsLog v-slot="{ said }" :road="road">
    <ChoiceBar v-model="view" :options="VIEWS" label="Which part" />
    <template v-if="view === 'cold'">
      <p class="mt-2 text-[1.15rem] leading-snug">{{ said.cold.words }}</p>
      <div class="grid gap-x-8 lg:grid-cols-2">
        <OverLines
          title="Starts, from the moment it caught"
          :lines="said.cold.starts"
          x-label="s after it caught"
          empty="No start in this log whose mixture could be read. Begin the log before the key is turned, and wait for the sensor."
        />
        <div>
          <OverLines
            title="Off by, cold, over coolant"
            :lines="said.cold.at.length ? [{ label: 'cold', x: said.cold.at, y: said.cold.off }] : []"
            x-label="°C coolant"
            :doubt="said.cold.doubt"
            points
            empty="Nothing was driven cold for long enough."
          />
        </div>
      </div>
      <div class="grid gap-x-8 lg:grid-cols-2">
        <CurveOffer v-if="said.cold.warm_up" :curve="said.cold.warm_up" :road="road" curve-key="warm_up" />
        <CurveOffer v-if="said.cold.after_start" :curve="said.cold.after_start" :road="road" curve-key="after_start" />
      </div>
    </template>
    <template v-else-if="view === 'foot'">
      <p class="mt-2 text-[1.15rem] leading-snug">{{ said.tip_ins.words }}</p>
      <OverLines
        title="Every quick opening, laid over each other"
        :lines="said.tip_ins.events"
        :middle="said.tip_ins.middle"
        x-label="s from the foot"
        empty="No quick opening in this log. From 2,000 rpm in third, foot down to half at once, six times: a passenger reads it out."
      />
      <DeedOffer
        v-if="said.tip_ins.proposed"
        :road="road"
        :asked="tip"
        word="Fix the share of fuel that wets the wall"
        :says="`Hot, ${said.tip_ins.proposed.old.at(-1)} to ${said.tip_ins.proposed.new.at(-1)} of a squirt; the cold end in the same proportion.`"
      />
    </template>
    <template v-else>
      <p class="mt-2 text-[1.15rem] leading-snug">{{ said.idle.words }}</p>
      <dl v-if="said.idle.rpm" class="mt-3 grid grid-cols-2 gap-x-6 gap-y-2 sm:grid-cols-4">
        <div class="border-t border-ink pt-1">
          <dt class="text-soft">Idles at</dt>
          <dd class="num text-[1.45rem]">{{ said.idle.rpm }} rpm</dd>
        </div>
        <div class="border-t border-ink pt-1">
          <dt class="text-soft">Wanted</dt>
          <dd class="num text-[1.45rem]">{{ said.idle.target }} rpm</dd>
        </div>
        <div class="border-t border-ink pt-1">
          <dt class="text-soft">To and fro</dt>
          <dd class="num text-[1.45rem]">{{ said.idle.swings }} rpm</dd>
        </div>
        <div class="border-t border-ink pt-1">
          <dt class="text-soft">Mixture off</dt>
          <dd class="num text-[1.45rem]">{{ said.idle.off === null ? "not read" : percent(said.idle.off!) }}</dd>
        </div>
        <div v-if="said.idle.manifold_kpa" class="border-t border-ink pt-1">
          <dt class="text-soft">Manifold</dt>
          <dd class="num text-[1.45rem]">{{ said.idle.manifold_kpa }} kPa</dd>
        </div>
        <div v-if="said.idle.valve !== null" class="border-t border-ink pt-1">
          <dt class="text-soft">Idle valve</dt>
          <dd class="num text-[1.45rem]">{{ said.idle.valve }} %</dd>
        </div>
      </dl>
      <CurveOffer v-if="said.idle.proposed" :curve="said.idle.proposed" :road="road" curve-key="idle_air" />
    </template>
  </NeedsLog>
</template>
