<script setup lang="ts">
// Every task with its reason: what can be done now, what waits, what is done, what is offered; ticked, left out, given other hours, added to.
import { IconPlus } from "@tabler/icons-vue";
import { computed, ref } from "vue";
import { useRoute } from "vue-router";
import FieldGroup from "@/parts/FieldGroup.vue";
import { slugged } from "./keys";
import TaskRow from "./TaskRow.vue";
import { useWork } from "./useWork";

const { store, work } = useWork();
const open = computed(() => work.value.tasks.filter((t) => t.stands === "open"));
const missing = computed(
  () =>
    new Set(work.value.parts.filter((p) => !p.gone && !["have", "arrived", "fitted", "not_wanted"].includes(p.state)).map((p) => p.task)),
);
const isOpen = computed(() => new Set(open.value.map((t) => t.key)));
const ready = computed(() => open.value.filter((t) => !t.needs.some((n) => isOpen.value.has(n)) && !(t.parts && missing.value.has(t.key))));
const groups = computed(() => [
  { title: "Can be done now", tasks: ready.value },
  { title: "Waits for something", tasks: open.value.filter((t) => !ready.value.includes(t)) },
  { title: "Done", tasks: work.value.tasks.filter((t) => t.stands === "done"), shut: true },
  { title: "Offered, or left out", tasks: work.value.tasks.filter((t) => ["offered", "left_out"].includes(t.stands)), shut: true },
]);
const SHOWN = 4;
const route = useRoute();
/** All of a list where one of them is asked for by the address. */
const all = ref(route.hash.startsWith("#f/work/"));
const what = ref("");
function add(): void {
  const told = what.value.trim();
  if (!told) return;
  what.value = "";
  const taken = new Set(work.value.tasks.map((t) => t.key));
  void store.edit([{ op: "add", path: `/work/own/${slugged(told, taken)}`, value: { what: told } }]);
}
</script>

<template>
  <p class="text-soft">
    Made from this build: they come, change and go with it. What you do to one stays. Hours in pencil are usual ones for a careful amateur.
  </p>
  <div class="grid gap-x-8 lg:grid-cols-2 lg:items-start">
    <template v-for="g in groups" :key="g.title">
      <section v-if="g.tasks.length && !g.shut" class="mt-3 min-w-0" :aria-label="g.title">
        <h2 class="text-[1.15rem]">
          {{ g.title }} <span class="num text-[0.95rem] font-normal text-soft">{{ g.tasks.length }}</span>
        </h2>
        <TaskRow v-for="t in all ? g.tasks : g.tasks.slice(0, SHOWN)" :key="t.key" :task="t" />
        <button v-if="g.tasks.length > SHOWN" type="button" class="btn btn-small btn-plain no-print underline" @click="all = !all">
          {{ all ? "Fewer" : `All ${g.tasks.length}` }}
        </button>
      </section>
      <details v-else-if="g.tasks.length" class="mt-3 min-w-0" :open="g.tasks.some((t) => route.hash === `#f${t.entered_at}`)">
        <summary class="cursor-pointer py-2 font-head text-[1.15rem] font-semibold">
          {{ g.title }} <span class="num ml-2 text-[0.95rem] font-normal text-soft">{{ g.tasks.length }}</span>
        </summary>
        <TaskRow v-for="t in g.tasks" :key="t.key" :task="t" />
      </details>
    </template>
  </div>
  <FieldGroup group="own">
    <form class="col-span-2 flex gap-2" @submit.prevent="add">
      <label class="min-w-0 flex-1"
        ><span class="sr-only">What is to be done</span
        ><input
          v-model="what"
          maxlength="80"
          placeholder="What is to be done"
          class="h-11 w-full border border-line bg-sheet px-2 placeholder:text-soft"
      /></label>
      <button class="btn" :disabled="store.readOnly || !what.trim()"><IconPlus :size="16" aria-hidden="true" />Add it</button>
    </form>
  </FieldGroup>
</template>
