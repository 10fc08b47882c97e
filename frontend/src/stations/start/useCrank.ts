// The starter's clock: ten seconds at most, then half a minute of rest.
import { useIntervalFn } from "@vueuse/core";
import { computed, ref, watch, type Ref } from "vue";

export const CRANKS = 10; // s at a time
export const RESTS = 30; // s between two
const TICK = 100;
export function useCrank(cranking: Ref<boolean>) {
  const now = ref(Date.now());
  const since = ref(0);
  const until = ref(0);
  useIntervalFn(() => (now.value = Date.now()), TICK);
  watch(cranking, (is) => {
    now.value = Date.now();
    if (is) since.value = now.value;
    else if (since.value) [until.value, since.value] = [now.value + RESTS * 1000, 0];
  });
  const cranked = computed(() => (since.value ? (now.value - since.value) / 1000 : 0));
  const rests = computed(() => Math.max(Math.ceil((until.value - now.value) / 1000), 0));
  const enough = computed(() => cranked.value >= CRANKS);
  return { cranked, rests, enough };
}
