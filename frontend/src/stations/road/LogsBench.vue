<script setup lang="ts">
// The logs of this car: brought as a file, kept off the bus, or driven by the stand-in; which of their columns is what; what the one that is chosen says first.
import { IconFileUpload, IconPlayerRecord, IconPlayerStop, IconSteeringWheel } from "@tabler/icons-vue";
import { computed, defineAsyncComponent, ref } from "vue";
import { RouterLink } from "vue-router";
import { ApiError } from "@/api/client";
import AllFigures from "@/parts/AllFigures.vue";
import { newId } from "@/stores/queue";
import { useSettings } from "@/stores/settings";
import { roadApi, type LogTold } from "./asks";
import LogRow from "./LogRow.vue";
import { useRoad } from "./useRoad";

const ColumnsTaken = defineAsyncComponent(() => import("./ColumnsTaken.vue"));
const road = useRoad();
const { store, logs, line, said } = road;
const settings = useSettings();
const trouble = ref("");
const sending = ref("");
const recording = computed(() => logs.value.find((l) => l.kind === "record" && l.state === "arriving"));
const today = () => new Date().toLocaleDateString("sv");

async function tried(act: () => Promise<LogTold | void>): Promise<void> {
  trouble.value = "";
  try {
    const found = await act();
    await road.refetch();
    if (found) road.choose(found.line.id);
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    const p = error.body.problems?.[0];
    trouble.value = `${error.message}${p ? ` Wanted: ${p.wants}.` : ""}`;
  }
  sending.value = "";
}
async function bring(files: FileList | null): Promise<void> {
  for (const file of Array.from(files ?? [])) {
    const most = road.list.value?.most ?? Infinity;
    if (file.size > most) {
      trouble.value = `${file.name} holds ${Math.round(file.size / 1e6)} MB; a log has at most ${Math.round(most / 1e6)} MB. Cut it into drives.`;
      continue;
    }
    sending.value = file.name;
    await tried(() => roadApi.send(store.id, file, { id: newId(), name: file.name, day: today(), who: settings.who }));
  }
}
function chosen(event: Event): void {
  const input = event.target as HTMLInputElement;
  void bring(input.files).then(() => (input.value = ""));
}
const drive = (what: "standin" | "shipped") => tried(() => roadApi.drive(store.id, { what, id: newId(), day: today(), who: settings.who }));
const record = (on: boolean) =>
  tried(async () => void (await roadApi.record(store.id, { on, id: newId(), day: today(), who: settings.who })));
const away = (id: string) => tried(async () => void (await roadApi.away(store.id, id)));
const to = (bench: string) => ({ path: `/b/${store.id}/road/${bench}`, query: { log: line.value?.id } });
</script>

<template>
  <div class="grid items-start gap-x-8 gap-y-3" :class="{ 'lg:grid-cols-[22rem_minmax(0,1fr)]': line }">
    <section aria-label="Logs" @dragover.prevent @drop.prevent="bring($event.dataTransfer?.files ?? null)">
      <div class="no-print flex flex-wrap gap-2">
        <label class="btn btn-main cursor-pointer focus-within:outline-2"
          ><IconFileUpload :size="18" aria-hidden="true" />{{ sending ? "On its way…" : "Bring a log"
          }}<input
            type="file"
            multiple
            class="sr-only"
            aria-label="Bring a log, as CSV or MDF 4"
            accept=".csv,.txt,.log,.tsv,.gz,.zip,.mf4,.mdf,.dat"
            :disabled="!!sending"
            @change="chosen"
        /></label>
        <button v-if="road.list.value?.ships" type="button" class="btn" @click="drive('shipped')">The drive that ships</button>
        <button type="button" class="btn" @click="drive('standin')">
          <IconSteeringWheel :size="18" aria-hidden="true" />Stand-in drives
        </button>
        <button type="button" class="btn" :aria-pressed="!!recording" @click="record(!recording)">
          <component :is="recording ? IconPlayerStop : IconPlayerRecord" :size="18" aria-hidden="true" />{{
            recording ? `Keeps the bus: ${Math.round(recording.seconds)} s, ${recording.rows} rows. End` : "Keep the bus"
          }}
        </button>
      </div>
      <p class="mt-1.5 text-[0.88rem] leading-snug text-soft">
        Text of any kind, or MDF 4. A passenger works the laptop, never whoever drives; full load on a road that is shut, or on a rolling
        road.
      </p>
      <p v-if="trouble" role="alert" class="mt-1 text-[0.92rem] text-spark">{{ trouble }}</p>
      <p v-if="road.list.value && !logs.length" class="mt-3">
        No log yet. Without one: the stand-in drives this car, and its log is read as yours would be.
      </p>
      <ul class="mt-2">
        <LogRow
          v-for="l in logs"
          :key="l.id"
          :log="l"
          :chosen="l.id === line?.id"
          @choose="road.choose(l.id)"
          @away="away(l.id)"
          @kept="road.refetch()"
        />
      </ul>
    </section>
    <section v-if="line" aria-label="The log that is chosen">
      <ColumnsTaken v-if="road.told.value && line.state === 'asks'" :key="line.id" :told="road.told.value" @took="road.refetch()" />
      <p v-else-if="line.state === 'failed'" role="alert" class="border-l-4 border-spark bg-wash px-3 py-2 leading-snug">{{ line.why }}</p>
      <template v-else-if="line.state === 'kept'">
        <p v-if="road.why.value" role="alert" class="border-l-4 border-spark bg-wash px-3 py-2 leading-snug">{{ road.why.value }}</p>
        <p v-else-if="!said" role="status" class="text-soft">{{ line.name }} is read against the build…</p>
        <template v-else>
          <p class="text-[1.2rem] leading-snug">{{ said.split?.words ?? said.why_not }}</p>
          <p class="mt-1 text-soft">
            {{ said.split ? `${said.split.seconds.toFixed(0)} s of ${said.seconds.toFixed(0)} s believed. ` : "" }}{{ said.weather.words }}
          </p>
          <div class="mt-2 flex flex-wrap gap-2">
            <RouterLink :to="to('off')" class="btn btn-main">What is off</RouterLink
            ><RouterLink :to="to('believe')" class="btn">What was believed</RouterLink
            ><RouterLink :to="to('drive')" class="btn">What to drive next</RouterLink>
          </div>
          <h2 class="mt-4 text-[1.1rem]">Snags of the day</h2>
          <p class="text-soft">{{ said.day_words }}</p>
          <ul>
            <li v-for="(s, i) in said.snags" :key="i" class="border-t border-hair py-1.5 leading-snug">
              <b>{{ s.what }}</b> {{ s.do }}
              <RouterLink :to="{ ...to('strip'), query: { log: line.id, at: s.at_s } }" class="whitespace-nowrap underline"
                >At {{ Math.round(s.at_s) }} s</RouterLink
              >
            </li>
          </ul>
          <details v-if="road.told.value" class="mt-3">
            <summary class="cursor-pointer py-2">Its columns{{ line.broken ? `, and ${line.broken} lines that were none` : "" }}</summary>
            <ColumnsTaken :key="`${line.id} again`" :told="road.told.value" @took="road.againTold()" />
          </details>
        </template>
      </template>
      <AllFigures :names="['road.error.median']" />
    </section>
  </div>
</template>
