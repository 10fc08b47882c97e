<script setup lang="ts">
// A line on the bench: supply, return and suction are the same thing in three places.
import BenchGroup from "@/parts/BenchGroup.vue";
import Field from "@/parts/Field.vue";
import TableField from "@/parts/TableField.vue";

const props = defineProps<{ title: string; at: string }>();
const field = (key: string) => `${props.at}/${key}`;
</script>

<template>
  <BenchGroup :title="title" :at="at">
    <Field v-for="k in ['material', 'bore', 'length', 'rise']" :key="k" :at="field(k)" />
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
