<script setup lang="ts">
// A curve as it is and as a log proposes it, value by value, and the press that takes it.
import { computed } from "vue";
import type { DeedsAsked, Proposed } from "./asks";
import DeedOffer from "./DeedOffer.vue";
import type { UseRoad } from "./useRoad";

const props = defineProps<{ curve: Proposed; road: UseRoad; curveKey: DeedsAsked["curves"][number] }>();
const asked = computed<DeedsAsked>(() => ({
  causes: [],
  curves: [props.curveKey],
  cells: false,
  fill: true,
  signed_by: "",
  signed_why: "",
}));
</script>

<template>
  <section class="mt-3" :aria-label="curve.title">
    <h2 class="text-[1.05rem]">{{ curve.title }}</h2>
    <div class="overflow-x-auto" tabindex="0" role="region" :aria-label="`${curve.title}: old and new`">
      <table class="num mt-1 text-[0.92rem]">
        <tbody>
          <tr>
            <th scope="row" class="pr-3 text-left font-normal text-soft">{{ curve.x_label }}</th>
            <td v-for="(v, i) in curve.x" :key="i" class="border-l border-hair px-2 text-right">{{ v }}</td>
          </tr>
          <tr>
            <th scope="row" class="pr-3 text-left font-normal text-soft">now</th>
            <td v-for="(v, i) in curve.old" :key="i" class="border-l border-hair px-2 text-right">{{ v }}</td>
          </tr>
          <tr>
            <th scope="row" class="pr-3 text-left font-normal text-soft">proposed</th>
            <td
              v-for="(v, i) in curve.new"
              :key="i"
              class="border-l border-hair px-2 text-right"
              :class="{ 'font-bold': v !== curve.old[i] }"
            >
              {{ v }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <DeedOffer
      :road="road"
      :asked="asked"
      word="Take the curve so"
      says="Where nothing was driven it stays; nothing moves by more than a tenth at a time."
    />
  </section>
</template>
