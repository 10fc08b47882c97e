<script setup lang="ts">
// One thing off the car: its code as on the tag, its photograph, where it goes back, and one press as it comes off and goes on again.
import { computed, onMounted, ref } from "vue";
import { api } from "@/api/client";
import Field from "@/parts/Field.vue";
import PhotoStrip from "@/parts/PhotoStrip.vue";
import { asks, type S } from "./asks";
import { short } from "./days";
import { PLACES } from "./places";
import { useWork } from "./useWork";

const props = defineProps<{ code: string; thing: S["TakenOff"]; fresh?: boolean }>();
const { store, today } = useWork();
const at = computed(() => `/work/off/${props.code}`);
const state = computed(() => props.thing.state ?? "on");
const open = ref(false);
onMounted(() => (open.value = props.fresh || decodeURIComponent(location.hash.slice(2)).startsWith(at.value)));
const move = (to: string, day?: "off" | "back") =>
  store.edit([
    { op: "add", path: `${at.value}/state`, value: to },
    ...(day ? [{ op: "add" as const, path: `${at.value}/${day}`, value: today.value }] : []),
  ]);
const place = computed(() => PLACES.find((p) => p.key === (props.thing.place ?? "not_noted"))!.word);
const bare = computed(() => !props.thing.photos?.length || !props.thing.goes);
</script>

<template>
  <div :id="`f${at}`" tabindex="-1" class="border-t border-hair py-1.5">
    <div class="flex items-start gap-3">
      <img
        v-if="thing.photos?.[0]"
        :src="api.photo(thing.photos[0], true)"
        alt=""
        class="size-16 shrink-0 border border-line object-cover"
      />
      <div class="min-w-0 flex-1 leading-snug">
        <p>
          <span class="num mr-2 text-[1.02rem] font-bold uppercase">{{ code }}</span><b>{{ thing.what }}</b>
        </p>
        <p class="text-[0.92rem]">{{ thing.goes ? `Back to: ${thing.goes}` : "" }}</p>
        <p class="text-[0.86rem] text-soft">
          {{
            [
              place,
              thing.bag ? `bag ${thing.bag}` : "",
              thing.box ? `box ${thing.box}` : "",
              thing.off ? `off ${short(thing.off)}` : "",
              thing.back ? `back ${short(thing.back)}` : "",
            ]
              .filter(Boolean)
              .join(", ")
          }}
        </p>
        <p v-if="bare && (state === 'on' || state === 'off')" class="text-[0.88rem] text-care">
          {{
            [!thing.photos?.length ? "no photograph yet" : "", !thing.goes ? "where it goes back is not written" : ""]
              .filter(Boolean)
              .join("; ")
          }}
        </p>
      </div>
      <div class="no-print flex shrink-0 flex-wrap justify-end gap-1.5">
        <button v-if="state === 'on'" type="button" class="btn btn-small btn-main" :disabled="store.readOnly" @click="move('off', 'off')">
          Came off
        </button>
        <button
          v-if="state === 'off' || state === 'missing'"
          type="button"
          class="btn btn-small btn-main"
          :disabled="store.readOnly"
          @click="move('back', 'back')"
        >
          Back on
        </button>
        <button type="button" class="btn btn-small" :aria-expanded="open" @click="open = !open">{{ open ? "Fold" : "More" }}</button>
      </div>
    </div>
    <div v-if="open" class="mt-1.5 grid grid-cols-2 gap-x-3 gap-y-2 pb-2">
      <PhotoStrip :at="`${at}/photos`" :of="thing.what" />
      <Field :at="`${at}/goes`" class="col-span-2" hint="port, bracket, plug" />
      <Field :at="`${at}/bag`" />
      <Field :at="`${at}/box`" />
      <Field :at="`${at}/place`" />
      <Field :at="`${at}/what`" />
      <Field :at="`${at}/words`" class="col-span-2" />
      <p class="no-print col-span-2 flex flex-wrap gap-2">
        <button v-if="state === 'off'" type="button" class="btn btn-small" :disabled="store.readOnly" @click="move('missing')">
          It is missing
        </button>
        <button
          v-if="state !== 'replaced' && state !== 'back'"
          type="button"
          class="btn btn-small"
          :disabled="store.readOnly"
          @click="move('replaced')"
        >
          Replaced by something new
        </button>
        <button v-if="state !== 'on'" type="button" class="btn btn-small" :disabled="store.readOnly" @click="move('on')">
          It is still on
        </button>
        <a :href="`${asks.at(store.id, 'tags.pdf')}?code=${code}`" class="btn btn-small">Its tag</a>
        <button type="button" class="btn btn-small btn-plain underline" :disabled="store.readOnly" @click="store.set(at, undefined)">
          Take it out
        </button>
      </p>
    </div>
  </div>
</template>
