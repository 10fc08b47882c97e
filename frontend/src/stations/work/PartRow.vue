<script setup lang="ts">
// One line of the list: what, how many, for what, when it comes; its state at hand, the rest of it opened.
import { computed, onMounted, ref } from "vue";
import { choice } from "@/figures/format";
import Field from "@/parts/Field.vue";
import type { PartRow as Part, Plan } from "./asks";
import { short } from "./days";
import { useWork } from "./useWork";

const props = defineProps<{ part: Part; plan?: Plan["parts"][number] }>();
const { store, task, today } = useWork();
const at = computed(() => props.part.entered_at);
const STATES = ["to_order", "have", "ordered", "arrived", "fitted", "returned", "not_wanted"];
const open = ref(false);
onMounted(() => (open.value = decodeURIComponent(location.hash.slice(2)).startsWith(at.value)));
function put(event: Event): void {
  const state = (event.target as HTMLSelectElement).value;
  const more: Record<string, unknown> = { state };
  if (state === "ordered") more.ordered = today.value;
  if (["ordered", "arrived", "fitted"].includes(state) && !props.part.own && !props.part.gone) more.bought_as = props.part.what;
  void store.edit([{ op: "add", path: at.value, value: { ...(store.at(at.value) as object | undefined), ...more } }]);
}
const when = computed(() => {
  const p = props.part;
  if (p.state === "ordered") return p.due ? `promised for ${short(p.due)}` : props.plan ? `about ${short(props.plan.comes)}` : "";
  if (p.state !== "to_order" || !props.plan?.order_by) return "";
  return props.plan.order_by <= today.value ? "order today" : `order by ${short(props.plan.order_by)}`;
});
</script>

<template>
  <details :id="`f${at}`" class="border-t border-hair" :open="open" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary class="flex min-h-11 cursor-pointer items-baseline justify-between gap-3 py-1.5 leading-snug">
      <span class="min-w-0"
        ><b :class="{ 'line-through ': part.gone }">{{ part.what }}</b>
        <span v-if="!part.gone" class="num ml-2 text-[0.86rem] text-soft">{{ part.counted }}</span>
        <span class="block text-[0.86rem] text-soft">{{ [part.spec, task(part.task)?.what].filter(Boolean).join("; ") }}</span>
        <span v-if="part.other" class="block text-[0.88rem] text-spark">bought as {{ part.bought_as }}</span>
        <span v-if="part.short" class="block text-[0.88rem] text-care">{{ part.short }} too few</span>
        <span v-if="part.gone" class="block text-[0.88rem] text-care">the plan has it no longer</span></span
      >
      <span class="shrink-0 text-right text-[0.86rem]"
        ><span class="block">{{ choice(part.state) }}</span
        ><span v-if="when" class="block text-soft">{{ when }}</span
        ><span v-if="part.price" class="num block text-soft">{{ part.price }}</span></span
      >
    </summary>
    <div v-if="open" class="grid grid-cols-2 gap-x-3 gap-y-2 pb-3 sm:grid-cols-3">
      <label class="block text-[0.86rem] leading-tight text-soft"
        >Stands
        <select
          class="mt-0.5 h-11 w-full border border-line bg-sheet px-1.5 text-[0.95rem] text-ink"
          :value="part.state"
          :disabled="store.readOnly"
          @change="put"
        >
          <option v-for="s in STATES" :key="s" :value="s">{{ choice(s) }}</option>
        </select></label
      >
      <Field :at="`${at}/supplier`" hint="nobody named" />
      <Field :at="`${at}/price`" hint="129.50 or 40 to 60" />
      <Field :at="`${at}/lead`" :hint="`${Math.round(part.lead_s[1]! / 86400)} days, usual`" />
      <Field :at="`${at}/ordered`" hint="not yet" />
      <Field :at="`${at}/due`" hint="nothing promised" />
      <Field :at="`${at}/count`" hint="as many as wanted" />
      <Field :at="`${at}/credit`" hint="nothing" />
      <Field :at="`${at}/words`" />
      <template v-if="part.own">
        <Field :at="`${at}/what`" />
        <Field :at="`${at}/quantity`" />
        <Field :at="`${at}/unit`" />
        <button
          type="button"
          class="btn btn-small btn-plain justify-self-start underline"
          :disabled="store.readOnly"
          @click="store.set(at, undefined)"
        >
          Take it out
        </button>
      </template>
    </div>
  </details>
</template>
