<script setup lang="ts">
// A line on the bench: supply, return and suction are the same thing in three places.
import BenchGroup from "@/parts/BenchGroup.vue";
import Field from "@/parts/Field.vue";
import SizeSlider from "@/parts/SizeSlider.vue";
import TableField from "@/parts/TableField.vue";

const props = defineProps<{ title: string; at: string }>();
const field = (key: string) => `${props.at}/${key}`;
</script>

<template>
  <BenchGroup :title="title" :at="at" measurable>
    <Field v-for="k in ['material', 'bore', 'length', 'rise']" :key="k" :at="field(k)" />
    <SizeSlider
      class="col-span-2"
      :at="field('bore')"
      label="Slide through the bores"
      :sizes="['3.2 mm', '4.8 mm', '6.3 mm', '7.9 mm', '9.5 mm', '12.7 mm']"
    />
    <TableField
      class="col-span-2"
      :at="field('fittings')"
      noun="fitting"
      :columns="['kind', 'count']"
      widths="1fr 5rem"
      :fresh="{ kind: 'bend_90', count: 1 }"
    />
    <Field :at="field('exhaust_distance')" /><Field :at="field('shielded')" /><Field :at="field('route')" /><Field :at="field('clamps')" />
    <slot />
  </BenchGroup>
</template>
