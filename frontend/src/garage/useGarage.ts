import { refDebounced } from "@vueuse/core";
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from "vue";
import { api, ApiError } from "@/api/client";
import type { Garage, GarageRow } from "@/api/types";

const AGAIN = 2000; // ms before a store that is away, or a garage that is worked out afresh, is asked again
const PAGE = 60; // rows of a first look
const MOST = 200; // rows that the server gives at once: further ones are asked for again
const PAUSE = 250; // ms without a letter before it is searched

/** The garage, a page at a time; those whose words were typed, or those put away. */
export function useGarage() {
  const rows = shallowRef<GarageRow[] | null>(null);
  const head = shallowRef<Garage | null>(null);
  const down = ref(false);
  const search = ref("");
  const words = refDebounced(search, PAUSE);
  /** Shown are those put away. */
  const aside = ref(false);
  let timer: ReturnType<typeof setTimeout> | undefined;
  let asked = 0;

  async function load(): Promise<void> {
    const mine = ++asked;
    clearTimeout(timer);
    try {
      const found = await api.garage({
        search: words.value,
        away: aside.value,
        limit: Math.min(Math.max(rows.value?.length ?? 0, PAGE), MOST),
      });
      if (mine !== asked) return;
      [head.value, rows.value, down.value] = [found, found.builds, false];
      if (found.pending) timer = setTimeout(() => void load(), AGAIN);
    } catch (error) {
      if (!(error instanceof ApiError && error.away)) throw error; // what is refused is refused the next time too
      down.value = true;
      timer = setTimeout(() => void load(), AGAIN);
    }
  }
  async function more(): Promise<void> {
    const mine = ++asked;
    const found = await api.garage({ search: words.value, away: aside.value, after: head.value?.more ?? 0 });
    if (mine !== asked) return;
    head.value = found;
    rows.value = [...(rows.value ?? []), ...found.builds];
  }
  function take(found: Garage): void {
    asked++;
    [head.value, rows.value] = [found, found.builds];
  }
  onMounted(load);
  onBeforeUnmount(() => clearTimeout(timer));
  watch([words, aside], () => {
    rows.value = null;
    void load();
  });
  const more_ = computed(() => head.value?.more != null);
  return { rows, head, down, search, words, aside, load, more, hasMore: more_, take };
}
