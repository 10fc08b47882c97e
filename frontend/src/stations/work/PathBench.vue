<script setup lang="ts">
// Order of work as a path that climbs: each task on its days, evenings as blocks by who does them, what is critical in one heavy line; and what a slip of each does.
import { computed, ref } from "vue";
import Drawing from "@/figures/Drawing.vue";
import { days, long, short } from "./days";
import LevelledOffer from "./LevelledOffer.vue";
import PathLines from "./PathLines.vue";
import { heightOf } from "./usePath";
import { useSeen, useWork } from "./useWork";

const { store, work, task, name, people } = useWork();
const { plan } = useSeen();
const keys = computed(() => Object.keys(people.value));
const height = computed(() => heightOf(plan.value?.tasks.length ?? 0));
const said = computed(() => {
  const p = plan.value;
  if (!p?.finish) return "";
  const hang = p.tasks.filter((t) => t.critical).map((t) => task(t.key)?.what.toLowerCase());
  return `${p.tasks.length} tasks from ${long(p.as_of)} to ${long(p.finish)}; the end hangs on: ${hang.join(", ")}. Off the road from ${long(p.off_road_from)}.`;
});
const chosen = ref("");
const slips = computed(() => [...(plan.value?.tasks ?? [])].sort((a, b) => b.slip_days - a.slip_days));
const SHOWN = 6;
const all = ref(false);
</script>

<template>
  <div v-if="plan && !plan.finish" class="box">
    <p class="text-[1.1rem] font-semibold">{{ plan.trouble }}</p>
    <p v-if="plan.ring.length" class="mt-1">{{ [...plan.ring, plan.ring[0]!].map((k) => task(k)?.what).join(" waits for ") }}.</p>
    <p v-else class="mt-1 text-soft">
      {{ work.open }} tasks are open, {{ store.plan!.figures["work.hours"]?.shown }} in all. With a first day and the free hours of whoever
      does them they are laid into evenings here.
    </p>
  </div>
  <template v-else-if="plan">
    <p class="flex flex-wrap items-baseline gap-x-5 gap-y-1">
      <span
        ><b class="text-[1.7rem] leading-none font-semibold">{{ short(plan.finish_p90) }}</b> in nine of ten chances</span
      >
      <span>{{ long(plan.finish) }} as usual</span>
      <span v-if="plan.off_road_days">off the road {{ days(plan.off_road_days) }}</span>
      <span v-if="plan.together" class="text-care">two are wanted from {{ short(plan.together) }}</span>
    </p>
    <Drawing title="The path, first tasks lowest" :height="height" :words="said" interactive>
      <template #tools>
        <span class="flex flex-wrap items-center gap-x-3 text-[0.82rem] text-soft">
          <span v-for="(k, i) in keys" :key="k" class="flex items-center gap-1"
            ><svg width="16" height="11" aria-hidden="true">
              <rect
                x="0.75"
                y="0.75"
                width="14.5"
                height="9.5"
                :fill="i ? 'var(--sheet)' : 'var(--ink)'"
                stroke="var(--ink)"
                stroke-width="1.5"
              /></svg
            >{{ name(k) }}</span
          >
          <span v-if="keys.length > 1" class="flex items-center gap-1"
            ><svg width="16" height="11" aria-hidden="true">
              <rect x="0.75" y="0.75" width="14.5" height="9.5" fill="var(--sheet)" stroke="var(--ink)" stroke-width="1.5" />
              <path d="M1 10 L15 1 V10 Z" fill="var(--ink)" /></svg
            >both</span
          >
          <span class="flex items-center gap-1"
            ><svg width="22" height="8" aria-hidden="true"><path d="M1 4 H21" stroke="var(--care)" stroke-width="4" /></svg>the end hangs on
            it</span
          >
        </span>
      </template>
      <template #default="{ width }">
        <PathLines
          :plan="plan"
          :tasks="work.tasks"
          :keys="keys"
          :width="width"
          :matters="store.build?.work?.matters ?? ''"
          :chosen="chosen"
          @choose="(k) => (chosen = k === chosen ? '' : k)"
        />
      </template>
      <template #under>
        <p v-if="chosen" class="border border-line bg-sheet px-3 py-2 leading-snug" role="status">
          <b>{{ task(chosen)?.what }}</b>: {{ task(chosen)?.why }}
          <template v-for="t in plan.tasks.filter((x) => x.key === chosen)" :key="t.key">
            {{ short(t.begins) }} to {{ short(t.closes) }}, by {{ short(t.ends_p90) }} in nine of ten chances.
            {{ t.critical ? "The end hangs on it." : `It may slip ${days(t.slack_days)}.` }}
            <template v-if="t.waits_for">It waits for: {{ task(t.waits_for)?.what.toLowerCase() }}.</template>
          </template>
        </p>
      </template>
    </Drawing>
    <LevelledOffer />
    <details class="mt-3 border-t border-ink">
      <summary class="cursor-pointer py-2 font-head text-[1.1rem] font-semibold">If it fights back</summary>
      <p class="text-[0.9rem] text-soft">Each task taken as long as it may, all others as usual: by how much the end moves.</p>
      <table class="mt-1 w-full text-[0.93rem]">
        <thead class="sr-only">
          <tr>
            <th>task</th>
            <th>may slip</th>
            <th>moves the end by</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="t in all ? slips : slips.slice(0, SHOWN)" :key="t.key" class="border-t border-hair">
            <td class="py-1 pr-2 leading-tight">{{ task(t.key)?.what }}</td>
            <td class="py-1 pr-2 text-right text-soft max-sm:hidden">{{ t.critical ? "critical" : `may slip ${days(t.slack_days)}` }}</td>
            <td class="num py-1 text-right whitespace-nowrap">{{ t.slip_days < 0.5 ? "not at all" : `+ ${days(t.slip_days)}` }}</td>
          </tr>
        </tbody>
      </table>
      <button v-if="slips.length > SHOWN" type="button" class="btn btn-small btn-plain no-print underline" @click="all = !all">
        {{ all ? "Only the worst" : `All ${slips.length}` }}
      </button>
    </details>
  </template>
  <p v-else class="text-soft" role="status">Laying it into evenings…</p>
</template>
