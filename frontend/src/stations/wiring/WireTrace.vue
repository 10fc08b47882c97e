<script setup lang="ts">
// A wire from what feeds it to its ground: every fuse, contact, splice and plug on its way, with volts and amps in a position of the key.
import { useQuery } from "@pinia/colada";
import { ref } from "vue";
import { api } from "@/api/client";
import type { KeyState, Stages } from "@/api/types";
import ChoiceBar from "@/parts/ChoiceBar.vue";
import { useBuild } from "@/stores/build";
import ColourStripe from "./ColourStripe.vue";
import { KEY_STATES } from "./keyStates";

const props = defineProps<{ wiring: Stages["wiring"]; wire: string }>();
const store = useBuild();
const state = ref<KeyState>("prime");
const { data, error } = useQuery({
  key: () => ["trace", store.id, store.revision, state.value, props.wire],
  query: () => api.trace(store.id, { revision: store.revision, state: state.value, wire: props.wire }),
});
const place = (key: string) => props.wiring.nodes.find((n) => n.key === key)?.name ?? "";
const amps = (a: number) => (a < 0.0005 ? "no current" : a < 0.1 ? `${(a * 1e3).toFixed(1)} mA` : `${a.toFixed(2)} A`);
</script>

<template>
  <section aria-label="Where it goes">
    <ChoiceBar v-model="state" class="!mt-1" :options="KEY_STATES" label="Key and engine, on its way" />
    <p v-if="error" role="alert">{{ error.message }}</p>
    <ol v-if="data" class="mt-2 text-[0.9rem]">
      <li v-for="(s, i) in data.spots" :key="s.key">
        <div class="flex items-baseline gap-2">
          <span class="num w-[4.6rem] shrink-0 text-right font-semibold">{{ s.volts.toFixed(2) }} V</span>
          <span
            class="mt-1 h-2.5 w-2.5 shrink-0 self-start border-2 border-ink bg-sheet"
            :class="{ 'bg-ink': s.end !== 'between' }"
            aria-hidden="true"
          ></span>
          <span class="min-w-0"
            >{{ s.name }}<span v-if="place(data.places[i] ?? '')" class="text-soft">, {{ place(data.places[i] ?? "") }}</span></span
          >
        </div>
        <div v-if="data.ties[i]" class="flex gap-2">
          <span class="num w-[4.6rem] shrink-0 py-1 text-right text-[0.82rem] text-soft">{{
            data.ties[i]!.open ? "open" : amps(data.ties[i]!.amps)
          }}</span>
          <span
            class="ml-[0.28rem] w-[0.35rem] shrink-0 border-l-2"
            :class="[data.ties[i]!.open ? 'border-dashed' : '', data.ties[i]!.key === wire ? 'border-spark' : 'border-ink']"
            aria-hidden="true"
          ></span>
          <span
            class="flex min-w-0 flex-wrap items-center gap-x-2 py-1"
            :class="data.ties[i]!.key === wire ? 'font-semibold' : 'text-soft'"
          >
            {{ data.ties[i]!.label
            }}<template v-if="data.ties[i]!.colour"
              ><ColourStripe :colour="data.ties[i]!.colour!" /><span class="num text-[0.82rem]"
                >{{ +((data.ties[i]!.area_m2 ?? 0) * 1e6).toPrecision(3) }} mm²</span
              ></template
            ><template v-else-if="data.ties[i]!.kind === 'contact'">, contact</template>
          </span>
        </div>
      </li>
    </ol>
  </section>
</template>
