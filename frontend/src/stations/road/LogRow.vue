<script setup lang="ts">
// A log in the list: what it is called, its day, where its reading in stands; what a person notes of the day.
import { IconPencil, IconTrash, IconX } from "@tabler/icons-vue";
import { computed, defineAsyncComponent, ref } from "vue";
import { useBuild } from "@/stores/build";
import { roadApi, type LogLine } from "./asks";
import { minutes, onItsWay } from "./useRoad";

const NoteForm = defineAsyncComponent(() => import("./LogNote.vue"));
const props = defineProps<{ log: LogLine; chosen: boolean }>();
const emit = defineEmits<{ choose: []; away: []; kept: [] }>();
const store = useBuild();
const open = ref(false);
const sure = ref(false);
const goes = computed(() => onItsWay(props.log) && props.log.kind !== "record");
const told = computed(() => {
  const l = props.log;
  if (l.state === "failed") return "cannot be read";
  if (l.state === "cancelled") return "given up";
  if (l.kind === "record" && l.state === "arriving") return `${Math.round(l.seconds)} s so far`;
  if (onItsWay(l)) return l.state === "reading" ? `${Math.round(l.progress * 100)} %` : "waits its turn";
  const packed = l.bytes && l.packed ? `, ${(l.packed / 1e6).toFixed(1)} MB kept` : "";
  return `${minutes(l.seconds)} min, ${l.rows.toLocaleString("en-GB")} rows${packed}${l.state === "asks" ? ", its columns are asked for" : ""}`;
});
async function noted(body: { name: string; day: string; note: string; photos: string[] }): Promise<void> {
  await roadApi.rewrite(store.id, props.log.id, { ...body, revision: null });
  open.value = false;
  emit("kept");
}
</script>

<template>
  <li class="border-t border-hair" :class="{ 'border-l-4 border-ink bg-wash': chosen }">
    <div class="flex items-center gap-1 pl-2">
      <button type="button" class="min-w-0 flex-1 py-2 text-left" :aria-current="chosen ? 'true' : undefined" @click="emit('choose')">
        <span class="block font-semibold [overflow-wrap:anywhere]">{{ log.name }}</span>
        <span class="block text-[0.88rem] text-soft">{{ log.day }}{{ log.who ? `, ${log.who}` : "" }}: {{ told }}</span>
      </button>
      <button v-if="goes" type="button" class="btn btn-small" @click="emit('away')">
        <IconX :size="16" aria-hidden="true" />Give it up
      </button>
      <template v-else>
        <button type="button" class="btn btn-plain !px-2" :aria-label="`Notes of ${log.name}`" :aria-expanded="open" @click="open = !open">
          <IconPencil :size="17" aria-hidden="true" />
        </button>
        <button v-if="!sure" type="button" class="btn btn-plain !px-2" :aria-label="`Take ${log.name} away`" @click="sure = true">
          <IconTrash :size="17" aria-hidden="true" />
        </button>
        <button v-else type="button" class="btn btn-small" @click="emit('away')" @blur="sure = false">Take it away for good</button>
      </template>
    </div>
    <div
      v-if="goes"
      class="mx-2 mb-2 h-1.5 overflow-hidden border border-hair"
      role="progressbar"
      :aria-label="`${log.name} is read in`"
      aria-valuemin="0"
      aria-valuemax="100"
      :aria-valuenow="Math.round(log.progress * 100)"
    >
      <div class="h-full bg-[var(--spark)]" :style="{ width: `${log.progress * 100}%` }"></div>
    </div>
    <p v-if="log.note && !open" class="px-2 pb-2 text-[0.92rem] leading-snug whitespace-pre-line [overflow-wrap:anywhere]">
      {{ log.note }}
    </p>
    <NoteForm v-if="open" :log="log" @keep="noted" />
  </li>
</template>
