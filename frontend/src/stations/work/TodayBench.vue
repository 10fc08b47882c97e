<script setup lang="ts">
// What to do this evening: the next acts that everybody sees, the week with who does what, what to order, what comes, what is forgotten.
import { IconAlertTriangle, IconPrinter } from "@tabler/icons-vue";
import { computed } from "vue";
import { RouterLink, useRoute } from "vue-router";
import { useCatalogue } from "@/stores/catalogue";
import { asks } from "./asks";
import { clock, days, long, short } from "./days";
import { useSeen, useWork } from "./useWork";

const { store, work, task, names } = useWork();
const { seen, plan, today } = useSeen();
const { title } = useCatalogue();
const route = useRoute();
const ACTS = 6;
const acts = computed(() => store.plan!.next.slice(0, ACTS));
const to = (a: { station: string; bench: string; at: string }) => ({
  path: `/b/${store.id}/${a.station}/${a.bench}`,
  query: route.query,
  hash: `#f${a.at}`,
});
const minutes = (n: number) => (n < 90 ? `${n} min` : `${+(n / 60).toFixed(1)} h`);
const evenings = computed(() => (seen.value?.week ?? []).filter((d) => d.evenings.length));
const first = computed(() => evenings.value.find((d) => d.day === today.value) ?? evenings.value[0]);
const cautions = computed(() => [...new Set((first.value?.evenings ?? []).flatMap((e) => task(e.key)?.cautions ?? []))]);
const now = computed(() => {
  const pressing = new Set(seen.value?.order_now);
  return (seen.value?.orders ?? []).map((o) => ({ ...o, lines: o.lines.filter((l) => pressing.has(l.key)) })).filter((o) => o.lines.length);
});
const SHOWN = 8;
</script>

<template>
  <div class="grid gap-x-8 gap-y-3 lg:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
    <section class="min-w-0" aria-label="This evening">
      <div class="flex flex-wrap items-end justify-between gap-2">
        <h2 class="text-[1.3rem]">
          <template v-if="first">{{ first.day === today ? "This evening" : `Next: ${long(first.day)}` }}</template>
          <template v-else>{{ plan?.trouble || "Nothing is planned this week" }}</template>
        </h2>
        <a :href="`${asks.at(store.id, 'week.pdf')}?on=${today}`" class="btn btn-small no-print"
          ><IconPrinter :size="16" aria-hidden="true" />The week as PDF</a
        >
      </div>
      <p v-if="plan?.trouble" class="mt-1 text-soft">
        Tasks and parts are there all the same.
        <RouterLink :to="`/b/${store.id}/work/path`" class="underline">Enter a first day and people with their free hours</RouterLink>
        and they are laid into evenings.
      </p>
      <p v-else-if="!first && seen?.next_day" class="mt-1 text-soft">Work goes on on {{ long(seen.next_day) }}.</p>
      <ol v-if="first" class="mt-2 border-t border-ink">
        <li v-for="e in first.evenings" :key="e.key + e.from_min" class="border-b border-hair py-2">
          <p class="flex flex-wrap items-baseline gap-x-3">
            <span class="num text-[0.95rem]">{{ clock(e.from_min) }}–{{ clock(e.to_min) }}</span>
            <b class="min-w-0 flex-1 text-[1.1rem] leading-tight">{{ task(e.key)?.what }}</b><span>{{ names(e.who) }}</span>
          </p>
          <p class="mt-0.5 leading-snug text-soft">{{ task(e.key)?.why }}</p>
        </li>
      </ol>
      <p v-for="c in cautions" :key="c" class="mt-1.5 flex gap-2 border-l-4 border-spark bg-wash px-3 py-1.5 leading-snug">
        <IconAlertTriangle :size="18" class="mt-0.5 shrink-0" aria-hidden="true" />{{ c }}
      </p>
      <p v-for="r in seen?.remember ?? []" :key="r" class="mt-1.5 border-l-4 border-care bg-wash px-3 py-1.5 leading-snug">{{ r }}</p>

      <template v-if="evenings.length > 1">
        <h3 class="mt-4 text-[1.05rem]">The days after</h3>
        <ol class="mt-1">
          <li v-for="d in evenings.filter((x) => x !== first)" :key="d.day" class="flex gap-3 border-t border-hair py-1.5">
            <span class="w-24 shrink-0 font-semibold">{{ short(d.day) }}</span>
            <span class="min-w-0"
              ><span v-for="e in d.evenings" :key="e.key + e.from_min" class="block leading-snug"
                ><span class="num text-[0.88rem] text-soft">{{ clock(e.from_min) }}</span> {{ task(e.key)?.what
                }}<span class="text-soft">, {{ names(e.who) }}</span></span
              ></span
            >
          </li>
        </ol>
      </template>
    </section>

    <div class="min-w-0">
      <section aria-label="How it stands" class="box">
        <p class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <b class="text-[1.7rem] leading-none font-semibold">{{ store.plan!.figures["work.hours"]?.shown }}</b><span
            >of work left in {{ work.open }} tasks; {{ work.done }} done</span
          >
        </p>
        <p v-if="plan?.finish" class="mt-1">
          Done by <b>{{ long(plan.finish) }}</b> if all goes as usual, by <b>{{ short(plan.finish_p90) }}</b> in nine of ten chances.
        </p>
        <p v-if="plan?.off_road_days" class="mt-1">
          Off the road {{ days(plan.off_road_days) }}, from {{ short(plan.off_road_from) }} to {{ short(plan.off_road_to) }}.
        </p>
        <p v-if="seen?.slipped" class="mt-1 font-semibold text-care">
          The end has slipped by {{ days(seen.slipped) }} since something was last written down.
        </p>
      </section>

      <section aria-label="To order this week" class="mt-4">
        <h2 class="text-[1.15rem]">To order this week</h2>
        <p v-if="!now.length" class="text-soft">
          {{ work.to_order ? `Nothing presses; ${work.to_order} lines are left to order.` : "Nothing is left to order." }}
        </p>
        <div v-for="o in now" :key="o.supplier" class="mt-1 border-t border-ink">
          <p class="flex justify-between gap-3 py-1">
            <b>{{ o.supplier || "No supplier named" }}</b><span class="num text-[0.88rem]">{{ o.sums.join(" + ") }}</span>
          </p>
          <ul>
            <li v-for="l in o.lines.slice(0, SHOWN)" :key="l.key" class="flex justify-between gap-3 border-t border-hair py-1 leading-snug">
              <span class="min-w-0"
                >{{ l.what }} <span class="num text-[0.85rem] text-soft">{{ l.counted }}</span></span
              ><span class="shrink-0 text-[0.88rem]" :class="l.over ? 'font-semibold text-spark' : 'text-soft'">{{
                l.over ? "at once" : `by ${short(l.order_by)}`
              }}</span>
            </li>
          </ul>
          <RouterLink :to="`/b/${store.id}/work/parts`" class="inline-flex min-h-9 items-center underline">{{
            o.lines.length > SHOWN ? `and ${o.lines.length - SHOWN} more, in Parts` : "To the list of parts"
          }}</RouterLink>
        </div>
      </section>

      <section v-if="seen?.coming.length" aria-label="On its way" class="mt-3">
        <h2 class="text-[1.15rem]">On its way</h2>
        <ul class="mt-1 border-t border-ink">
          <li
            v-for="c in seen.coming.slice(0, SHOWN)"
            :key="c.key"
            class="flex justify-between gap-3 border-b border-hair py-1 leading-snug"
          >
            <span class="min-w-0"
              >{{ c.what }}<span v-if="c.supplier" class="text-soft">, {{ c.supplier }}</span></span
            ><span class="shrink-0 text-[0.88rem]" :class="c.over ? 'font-semibold text-spark' : 'text-soft'">{{
              c.over ? `was promised for ${short(c.day)}` : c.promised ? short(c.day) : `about ${short(c.day)}`
            }}</span>
          </li>
        </ul>
      </section>
    </div>

    <section class="min-w-0 lg:col-span-2" aria-label="Next acts">
      <h2 class="text-[1.15rem]">Next, at every station</h2>
      <ol class="mt-1 grid gap-x-8 border-t border-ink lg:grid-cols-2">
        <li v-for="a in acts" :key="a.kind + a.at + a.says" class="border-b border-hair">
          <RouterLink :to="to(a)" class="flex min-h-11 items-baseline gap-3 py-1.5 leading-tight hover:bg-wash">
            <span class="min-w-0 flex-1"
              ><b class="line-clamp-2">{{ a.says }}</b
              ><span class="line-clamp-1 text-[0.88rem] text-soft">{{ a.why }}</span></span
            ><span class="shrink-0 text-[0.86rem] text-soft">{{ title(a.station) }}, {{ minutes(a.minutes) }}</span>
          </RouterLink>
        </li>
      </ol>
    </section>
  </div>
</template>
