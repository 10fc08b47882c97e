<script setup lang="ts">
// Every wire from pin to pin. Choosing one traces it on the drawing and opens what is fitted in its place.
import { computed, ref } from "vue";
import type { Stages, WireRow } from "@/api/types";
import Field from "@/parts/Field.vue";
import ColourStripe from "./ColourStripe.vue";
import { useScales } from "@/figures/owners";
import { useBuild } from "@/stores/build";

const props = defineProps<{ wiring: Stages["wiring"]; traced: string | null }>();
const own = useScales();
const emit = defineEmits<{ trace: [string | null] }>();
const search = ref("");
const shown = computed(() => {
  const words = search.value.toLowerCase().split(/\s+/).filter(Boolean);
  return props.wiring.wires.filter((w) =>
    words.every((x) => `${w.label} ${w.starts_at} ${w.ends_at} ${w.colour} ${w.fuse ?? ""}`.toLowerCase().includes(x)),
  );
});
/** What else is told of a wire that is there or is made. */
const MORE = ["length", "measured", "insulation", "temperature", "twist", "method"];
const store = useBuild();
const left = computed(() => (store.build!.wiring.left_out ?? []) as string[]);
const leaveOut = (key: string) => store.set("/wiring/left_out", [...left.value, key]);
const putBack = (key: string) =>
  store.set(
    "/wiring/left_out",
    left.value.filter((k) => k !== key),
  );
const onUnit = (w: WireRow) => w.start.startsWith("unit.") || w.end.startsWith("unit.");
const size = (w: WireRow) => `${+(w.area_m2 * 1e6).toPrecision(3)}`;
const circuit = (w: WireRow) => props.wiring.circuits.find((c) => c.key === w.circuit);
const over = (w: WireRow) => {
  const c = circuit(w);
  return c ? c.drop_v > c.allowed_v * 1.005 : false;
};
</script>

<template>
  <div class="mt-4">
    <div class="mb-1 flex flex-wrap items-center justify-between gap-2">
      <h2 class="text-[1.1rem]">Wire list</h2>
      <input
        v-model="search"
        type="search"
        placeholder="part of a name, pin or colour"
        aria-label="Search the wire list"
        class="no-print h-11 w-64 border border-line bg-sheet px-2"
      />
    </div>
    <div
      class="overflow-auto border border-line bg-sheet"
      :class="traced ? 'max-h-[46vh]' : 'max-h-[12rem]'"
      tabindex="0"
      role="region"
      aria-label="Wire list"
    >
      <table class="w-full text-[0.84rem]">
        <thead class="border-b border-ink text-left text-[0.8rem] text-soft">
          <tr>
            <th class="min-w-36 px-1.5 py-1 font-normal">Wire</th>
            <th class="px-1.5 font-normal">From</th>
            <th class="px-1.5 font-normal">To</th>
            <th class="px-1.5 font-normal">Colour</th>
            <th class="px-1.5 text-right font-normal">mm²</th>
            <th class="px-1.5 text-right font-normal">m</th>
            <th class="px-1.5 text-right font-normal">A</th>
            <th class="px-1.5 text-right font-normal">drop V</th>
            <th class="px-1.5 font-normal">Fuse</th>
          </tr>
        </thead>
        <tbody>
          <template v-for="w in shown" :key="w.key">
            <tr :id="`w-${w.key}`" class="border-b border-hair hover:bg-wash" :class="{ 'bg-wash': traced === w.key }">
              <td class="px-1.5">
                <button
                  :id="`f/wiring/fitted/${w.key}`"
                  type="button"
                  class="min-h-9 text-left underline decoration-line underline-offset-2"
                  :aria-expanded="traced === w.key"
                  @click="emit('trace', traced === w.key ? null : w.key)"
                >
                  {{ w.label }}
                </button>
              </td>
              <td class="px-1.5">{{ w.starts_at }}</td>
              <td class="px-1.5">{{ w.ends_at }}</td>
              <td class="px-2 whitespace-nowrap"><ColourStripe :colour="w.colour" /></td>
              <td class="num px-1.5 text-right" :class="{ 'font-semibold': w.fitted }">{{ size(w) }}</td>
              <td class="num px-1.5 text-right">{{ w.length_m.toFixed(2) }}</td>
              <td class="num px-1.5 text-right">{{ w.current_a.toFixed(2) }}</td>
              <td class="num px-1.5 text-right" :class="{ 'font-semibold text-spark': over(w) }">{{ w.drop_v.toFixed(3) }}</td>
              <td class="px-1.5">{{ w.fuse ?? "" }}</td>
            </tr>
            <tr v-if="traced === w.key" class="border-b border-hair bg-wash">
              <td colspan="9" class="px-3 py-2">
                <p class="mb-2">
                  Runs {{ w.path.map((b) => b.replaceAll("_", " to ")).join(", ") || "at one place" }}. {{ size(w) }} mm² is
                  {{ w.fitted ? "fitted" : "proposed"
                  }}<template v-if="w.fitted">; {{ +(w.proposed_area_m2 * 1e6).toPrecision(3) }} mm² is proposed</template>; at most
                  {{ w.limit_a.toFixed(1) }} A may run in it here; with what does it reaches {{ own.temperature.tell(w.temperature_k) }}.
                  Noise class {{ w.noise }}.
                </p>
                <div class="grid max-w-3xl grid-cols-2 gap-3 sm:grid-cols-4">
                  <Field :at="`/wiring/fitted/${w.key}/size`" label="Fitted size, if another" hint="as above" /><Field
                    :at="`/wiring/fitted/${w.key}/colour`"
                    label="Colour, if another"
                    hint="as above"
                  />
                  <Field v-for="k in MORE" :key="k" :at="`/wiring/fitted/${w.key}/${k}`" />
                  <Field :at="`/wiring/names/${w.key}`" label="Called" hint="as above" />
                  <Field v-if="onUnit(w)" :at="`/wiring/unit/chosen/${w.key}`" label="Pin of the unit, by hand" hint="found" />
                </div>
                <p class="mt-2">
                  <button type="button" class="btn btn-small" :disabled="store.readOnly" @click="leaveOut(w.key)">
                    Leave this wire out
                  </button>
                  <span v-if="store.problems['/wiring/left_out']" class="ml-2 text-[0.88rem] text-spark" role="alert">{{
                    store.problems["/wiring/left_out"]
                  }}</span>
                </p>
              </td>
            </tr>
          </template>
        </tbody>
      </table>
      <p v-if="!shown.length" class="p-3 text-soft">No wire by that name.</p>
    </div>
    <p v-if="left.length" class="mt-2 flex flex-wrap items-center gap-2 text-[0.9rem]">
      Left out:
      <button v-for="k in left" :key="k" type="button" class="btn btn-small" :disabled="store.readOnly" @click="putBack(k)">
        {{ k.replaceAll("_", " ") }}, put it back
      </button>
    </p>
  </div>
</template>
