<script setup lang="ts">
// One task: what, why, how long; opened, its cautions, what it needs, its hours and who; ticked off, or left out.
import { IconArrowRight, IconCheck } from "@tabler/icons-vue";
import { useEventListener } from "@vueuse/core";
import { computed, onMounted, ref } from "vue";
import { RouterLink } from "vue-router";
import Field from "@/parts/Field.vue";
import type { Task } from "./asks";
import { hours, short } from "./days";
import TaskWho from "./TaskWho.vue";
import { useWork } from "./useWork";

const props = defineProps<{ task: Task }>();
const { store, task: byKey, tick } = useWork();
const done = computed(() => props.task.stands === "done");
const at = computed(() => props.task.entered_at);
const ACCESS = { drivable: "the car drives after it", standing: "the car stands after it", engine_out: "the engine is out" };
const waits = computed(() => props.task.needs.filter((n) => byKey(n)?.stands === "open").map((n) => byKey(n)!.what.toLowerCase()));
const set = (state: string) => store.edit([{ op: "add", path: `${at.value}/state`, value: state }]);
const open = ref(false);
const called = () => decodeURIComponent(location.hash.slice(2)).startsWith(at.value);
onMounted(() => (open.value = called()));
useEventListener(window, "hashchange", () => called() && (open.value = true));
</script>

<template>
  <div :id="`f${at}`" tabindex="-1" class="flex items-start gap-2 border-t border-hair py-1">
    <button
      v-if="task.stands === 'open' || done"
      type="button"
      class="mt-1 grid size-9 shrink-0 place-items-center border-2 border-ink bg-sheet"
      :class="{ 'bg-well': task.proven }"
      :aria-pressed="done"
      :aria-label="done ? `${task.what}: not done after all` : `${task.what}: done`"
      :disabled="store.readOnly || (task.proven && !task.own)"
      :title="task.proven ? `Proven: ${task.proof}` : ''"
      @click="tick(task, !done)"
    >
      <IconCheck v-if="done" :size="22" stroke-width="3" aria-hidden="true" />
    </button>
    <details class="min-w-0 flex-1" :open="open" @toggle="open = ($event.target as HTMLDetailsElement).open">
      <summary class="cursor-pointer py-1.5 leading-snug">
        <b>{{ task.what }}</b>
        <span class="num ml-2 text-[0.86rem]" :class="task.guessed ? 'text-info italic' : 'text-soft'">{{ hours(task.work_s[1]!) }}</span>
        <span v-if="done" class="ml-2 text-[0.86rem] text-good">{{
          task.proven ? `proven: ${task.proof}` : task.done_on ? `ticked, ${short(task.done_on)}` : "ticked"
        }}</span>
        <span class="block text-[0.9rem] text-soft">{{ task.why }}</span>
        <span v-if="waits.length && !done" class="line-clamp-1 text-[0.86rem]">waits for: {{ waits.join("; ") }}</span>
      </summary>
      <div class="pb-2">
        <p v-for="c in task.cautions" :key="c" class="my-1 border-l-4 border-spark bg-wash px-2 py-1 text-[0.92rem] leading-snug">
          {{ c }}
        </p>
        <p v-if="waits.length > 1" class="text-[0.88rem]">Waits for: {{ waits.join("; ") }}.</p>
        <p class="text-[0.88rem] text-soft">
          {{
            [task.where, ACCESS[task.access], task.helper ? "wants two" : "", task.proof ? `closes by: ${task.proof}` : ""]
              .filter(Boolean)
              .join("; ")
          }}.
          <template v-if="task.shop_s[1]"> {{ Math.round(task.shop_s[1]! / 86400) }} days at a shop.</template>
        </p>
        <div class="mt-1 grid grid-cols-2 gap-x-3 gap-y-2 sm:grid-cols-4">
          <Field :at="`${at}/quick`" :hint="hours(task.work_s[0]!)" />
          <Field :at="`${at}/usual`" :hint="hours(task.work_s[1]!)" />
          <Field :at="`${at}/slow`" :hint="hours(task.work_s[2]!)" />
          <Field :at="`${at}/left`" hint="all of it" />
          <TaskWho :task="task" />
          <Field :at="`${at}/not_before`" hint="any day" />
          <Field :at="`${at}/shop`" hint="none" />
          <Field :at="`${at}/words`" />
          <template v-if="task.own">
            <Field :at="`${at}/what`" />
            <Field :at="`${at}/access`" />
            <Field :at="`${at}/work`" />
            <Field :at="`${at}/helper`" />
          </template>
        </div>
        <p class="no-print mt-2 flex flex-wrap gap-2">
          <RouterLink v-if="!task.own" :to="`/b/${store.id}/${task.station}/${task.bench}`" class="btn btn-small"
            >To its bench<IconArrowRight :size="15" aria-hidden="true"
          /></RouterLink>
          <button
            v-if="task.own"
            type="button"
            class="btn btn-small btn-plain underline"
            :disabled="store.readOnly"
            @click="store.set(at, undefined)"
          >
            Take it out
          </button>
          <button
            v-else-if="task.stands === 'offered'"
            type="button"
            class="btn btn-small"
            :disabled="store.readOnly"
            @click="set('taken_in')"
          >
            Take it in
          </button>
          <button
            v-else-if="task.stands === 'left_out'"
            type="button"
            class="btn btn-small"
            :disabled="store.readOnly"
            @click="set('open')"
          >
            Take it in again
          </button>
          <button
            v-else-if="task.stands === 'open'"
            type="button"
            class="btn btn-small btn-plain underline"
            :disabled="store.readOnly"
            @click="set('left_out')"
          >
            Leave it out
          </button>
        </p>
      </div>
    </details>
  </div>
</template>
