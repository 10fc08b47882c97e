<script setup lang="ts">
// The one act that clears or settles most for its minutes: what, why, how long, and the way there. The others are behind it.
import { IconArrowRight, IconChevronDown } from "@tabler/icons-vue";
import { onClickOutside } from "@vueuse/core";
import { computed, ref, useTemplateRef } from "vue";
import { RouterLink, useRoute } from "vue-router";
import type { PlanHead } from "@/api/types";
import { useCatalogue } from "@/stores/catalogue";

const props = defineProps<{ acts: PlanHead["next"]; buildId: string }>();
const route = useRoute();
const { title } = useCatalogue();
const open = ref(false);
onClickOutside(useTemplateRef<HTMLElement>("rest"), () => (open.value = false));
const first = computed(() => props.acts[0]);
const to = (a: PlanHead["next"][number]) => ({
  path: `/b/${props.buildId}/${a.station}/${a.bench}`,
  query: route.query,
  hash: `#f${a.at}`,
});
const long = (minutes: number) => (minutes < 90 ? `${minutes} min` : `${+(minutes / 60).toFixed(1)} h`);
</script>

<template>
  <section
    v-if="first"
    class="no-print flex items-center gap-x-3 border-b border-line bg-wash px-4 py-1 lg:px-6"
    aria-label="Next"
    data-testid="next"
  >
    <b class="shrink-0 text-[0.95rem]">Next</b>
    <p class="min-w-0 flex-1 text-[0.92rem] leading-tight">
      <span class="line-clamp-2 font-semibold lg:line-clamp-1" :title="first.says">{{ first.says }}</span>
      <span class="line-clamp-1 text-soft max-lg:hidden" :title="first.why">{{ first.why }}</span>
    </p>
    <span class="shrink-0 text-[0.88rem] text-soft max-sm:hidden">about {{ long(first.minutes) }}</span>
    <RouterLink :to="to(first)" class="btn btn-small shrink-0" :aria-label="`Go there: ${title(first.station)}`"
      ><span class="max-sm:sr-only">{{ title(first.station) }}</span
      ><IconArrowRight :size="16" aria-hidden="true"
    /></RouterLink>
    <div v-if="acts.length > 1" ref="rest" class="relative shrink-0" @keydown.esc="open = false">
      <button
        type="button"
        class="btn btn-small btn-plain !px-1.5"
        aria-label="What comes after that"
        :aria-expanded="open"
        @click="open = !open"
      >
        <IconChevronDown :size="18" aria-hidden="true" />
      </button>
      <ol
        v-if="open"
        class="absolute right-0 z-40 mt-1 max-h-[60vh] w-[min(34rem,92vw)] overflow-y-auto border border-ink bg-sheet shadow-md"
        aria-label="Next acts"
      >
        <li v-for="a in acts" :key="a.kind + a.at + a.says" class="border-b border-hair">
          <RouterLink :to="to(a)" class="flex min-h-11 items-baseline gap-3 px-3 py-1.5 leading-tight hover:bg-well" @click="open = false">
            <span class="min-w-0 flex-1"
              ><b class="block text-[0.93rem]">{{ a.says }}</b
              ><span class="text-[0.86rem] text-soft">{{ a.why }}</span></span
            >
            <span class="shrink-0 text-[0.85rem] text-soft">{{ title(a.station) }}, {{ long(a.minutes) }}</span>
          </RouterLink>
        </li>
        <li>
          <RouterLink :to="`/b/${buildId}/guesses`" class="flex min-h-11 items-center px-3 hover:bg-well" @click="open = false"
            >What rests on guesses, all of it</RouterLink
          >
        </li>
      </ol>
    </div>
  </section>
</template>
