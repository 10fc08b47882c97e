<script setup lang="ts">
// Who works on the car and when: the free hours of a usual week, days away, a calendar that is read, a private address that a calendar reads.
import { IconCalendarDown, IconCalendarPlus, IconPlus } from "@tabler/icons-vue";
import { computed, onMounted, ref } from "vue";
import { ApiError } from "@/api/client";
import Field from "@/parts/Field.vue";
import FieldGroup from "@/parts/FieldGroup.vue";
import { useBuild } from "@/stores/build";
import { asks } from "./asks";
import { localDay } from "./days";

const store = useBuild();
const people = computed(() =>
  Object.entries((store.build?.work?.people ?? {}) as Record<string, { name: string; busy?: string[]; calendar?: string }>),
);
const MOST = 2;
const said = ref<Record<string, string>>({});
const trouble = ref<Record<string, string>>({});
const feeds = ref<string[]>([]);
const address = ref<Record<string, string>>({});
onMounted(() =>
  asks.feeds(store.id).then(
    (f) => (feeds.value = f.people),
    () => undefined,
  ),
);
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;

function add(): void {
  const key = people.value.some(([k]) => k === "one") ? "two" : "one";
  void store.edit([{ op: "add", path: `/work/people/${key}`, value: { name: people.value.length ? "Second person" : "Me" } }]);
}
const told = (error: unknown) => {
  if (!(error instanceof ApiError)) throw error;
  const p = error.body.problems?.[0];
  return p ? `${error.message} Wanted: ${p.wants}; this is ${p.given}.` : error.message;
};
async function read(key: string, event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = "";
  if (!file) return;
  trouble.value[key] = said.value[key] = "";
  try {
    const found = await asks.calendar(store.id, key, zone, file);
    const at = `/work/people/${key}`;
    await store.edit([
      { op: "add", path: `${at}/busy`, value: found.busy },
      { op: "add", path: `${at}/calendar`, value: `${file.name}, read ${localDay()}`.slice(0, 200) },
    ]);
    said.value[key] =
      `${found.events} events read: ${found.busy.length} times they take free hours away.` +
      (found.unread ? ` ${found.unread} could not be read and count for nothing.` : "");
  } catch (error) {
    trouble.value[key] = told(error);
  }
}
async function open(key: string): Promise<void> {
  try {
    const made = await asks.openFeed(store.id, key);
    address.value[key] = location.origin + made.path;
    feeds.value = made.people;
  } catch (error) {
    trouble.value[key] = told(error);
  }
}
async function close(key: string): Promise<void> {
  feeds.value = (await asks.closeFeed(store.id, key)).people;
  delete address.value[key];
}
</script>

<template>
  <FieldGroup group="dates">
    <Field at="/work/begin" />
    <Field at="/work/on_road_until" />
    <Field at="/work/shops" />
    <Field at="/work/matters" />
    <Field at="/work/matters_for" />
  </FieldGroup>
  <FieldGroup
    group="people"
    note="A usual week as you would say it: Tue Thu 19:00-22:00; Sat 9:00-17:00. Tasks go on from evening to evening."
  >
    <div
      v-for="[key, p] in people"
      :id="`f/work/people/${key}`"
      :key="key"
      tabindex="-1"
      class="col-span-2 grid grid-cols-2 gap-x-3 gap-y-2 border-t border-hair pt-2"
    >
      <Field :at="`/work/people/${key}/name`" />
      <Field :at="`/work/people/${key}/away`" />
      <Field :at="`/work/people/${key}/free`" class="col-span-2" />
      <div class="col-span-2 flex flex-wrap items-center gap-2">
        <label class="btn btn-small no-print cursor-pointer focus-within:outline-2"
          ><IconCalendarPlus :size="16" aria-hidden="true" />Read a calendar<input
            type="file"
            accept=".ics,text/calendar"
            class="sr-only"
            :aria-label="`Read a calendar of ${p.name}`"
            :disabled="store.readOnly"
            @change="read(key, $event)"
        /></label>
        <button v-if="!feeds.includes(key)" type="button" class="btn btn-small no-print" @click="open(key)">Private address</button>
        <button v-else type="button" class="btn btn-small no-print" @click="close(key)">Close the address</button>
        <button
          type="button"
          class="btn btn-small btn-plain no-print underline"
          :disabled="store.readOnly"
          @click="store.set(`/work/people/${key}`, undefined)"
        >
          Take {{ p.name }} out
        </button>
      </div>
      <p v-if="trouble[key]" class="col-span-2 text-[0.88rem] text-spark" role="alert">{{ trouble[key] }}</p>
      <p v-else-if="said[key]" class="col-span-2 text-[0.88rem]" role="status">{{ said[key] }}</p>
      <p v-else-if="p.calendar" class="col-span-2 text-[0.85rem] text-soft">
        {{ p.calendar }}; takes free hours away {{ p.busy?.length ?? 0 }} times.
        <button
          type="button"
          class="underline"
          :disabled="store.readOnly"
          @click="
            store.edit([
              { op: 'add', path: `/work/people/${key}/busy`, value: [] },
              { op: 'add', path: `/work/people/${key}/calendar`, value: '' },
            ])
          "
        >
          Forget it
        </button>
      </p>
      <p v-if="address[key]" class="col-span-2 text-[0.88rem]">
        A calendar reads {{ p.name }}'s evenings here; whoever has the address may. It is told this once:
        <code class="num block break-all border border-line bg-well p-2 text-[0.82rem] select-all">{{ address[key] }}</code>
      </p>
    </div>
    <button
      v-if="people.length < MOST"
      type="button"
      class="btn btn-small col-span-2 justify-self-start"
      :disabled="store.readOnly"
      @click="add"
    >
      <IconPlus :size="15" aria-hidden="true" />Add {{ people.length ? "a second person" : "a person" }}
    </button>
    <p v-if="people.some(([, p]) => !p.calendar)" class="no-print col-span-2 text-[0.85rem] text-soft">
      Calendars to try with:
      <a href="/api/demo/calendars/ada.ics" class="underline">of Ada</a>,
      <a href="/api/demo/calendars/ben.ics" class="underline">of Ben</a>.
    </p>
    <a :href="`${asks.at(store.id, 'evenings.ics')}?on=${localDay()}`" class="btn btn-small no-print col-span-2 justify-self-start"
      ><IconCalendarDown :size="16" aria-hidden="true" />All evenings as a calendar</a
    >
  </FieldGroup>
</template>
