<script setup lang="ts">
// What stands in the unit, what was found there, and the kept tune as a whole.
import { computed } from "vue";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import { useBuild } from "@/stores/build";
import KeepBox from "./KeepBox.vue";
import { MADE } from "./useTables";

const store = useBuild();
const use = computed(() => store.stages.in_use!);
const found = computed(() => store.build?.tune?.found ?? null);
const STANDS: Record<string, string> = {
  same: "It stands in the unit as it is.",
  changed: "It has changed since it was typed into the unit.",
  never: "It is not noted as typed in.",
};
const stands = () => store.edit([{ op: "add", path: "/tune/kept/in_unit", stands: true }]);
const took = computed(() => use.value.found);
</script>

<template>
  <FieldGroup group="kept" at="/tune/found">
    <div class="col-span-full space-y-3">
      <template v-if="use.source === 'kept'">
        <p>
          Made of {{ MADE[use.made] }}; {{ use.inked }} cells are your own. {{ STANDS[use.in_unit] }}
          <span v-if="use.stale" class="block font-semibold">The engine has other measures now than it was made of.</span>
        </p>
        <Field at="/tune/kept/label" />
        <button v-if="use.in_unit !== 'same'" type="button" class="btn btn-main" :disabled="store.readOnly" @click="stands">
          Stands in the unit
        </button>
        <KeepBox source="quick" word="Make it anew of the quick tables" />
      </template>
      <template v-else>
        <p>No tune is kept: the quick tables stand, and move with every change.</p>
        <KeepBox source="quick" word="Keep the quick tables" />
      </template>
      <div class="space-y-2 border-t border-hair pt-3">
        <h3 class="text-[1rem] font-semibold">As found</h3>
        <template v-if="found">
          <p>{{ took }} {{ took === 1 ? "table" : "tables" }}{{ found.day ? `, ${found.day}` : "" }}. Nobody writes in them.</p>
          <KeepBox source="found" word="Go back to as found" />
          <button
            type="button"
            class="btn btn-small"
            :disabled="store.readOnly"
            @click="store.edit([{ op: 'remove', path: '/tune/found' }])"
          >
            Take as found out
          </button>
        </template>
        <template v-else>
          <p v-if="!store.at('/tune/came_empty')" class="text-[0.9rem]">
            What stood in the unit before is not kept.
            <RouterLink :to="`/b/${store.id}/tune/read`" class="underline">Read it in</RouterLink>, or note:
          </p>
          <Field at="/tune/came_empty" />
        </template>
      </div>
    </div>
  </FieldGroup>
</template>
