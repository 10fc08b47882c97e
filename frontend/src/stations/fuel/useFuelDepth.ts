import { watchDebounced } from "@vueuse/core";
import { computed, ref, shallowRef, type Ref } from "vue";
import { api, ApiError } from "@/api/client";
import type { FuelDepth } from "@/api/types";
import { useBuild } from "@/stores/build";

export interface UseFuelDepthReturn {
  /** The last answer; it may be of the revision before while a new one is worked out. */
  depth: Ref<FuelDepth | null>;
  /** The answer is of an older revision: what it offers would not fit the build as it is now. */
  stale: Ref<boolean>;
  /** Why there is none. */
  trouble: Ref<string>;
}

/** The fuel system looked at longer, for the revision on screen. Asked for once the person pauses. */
export function useFuelDepth(): UseFuelDepthReturn {
  const store = useBuild();
  const depth = shallowRef<FuelDepth | null>(null);
  const of = ref(0);
  const stale = computed(() => of.value !== store.revision);
  const trouble = ref("");
  let asked = 0;
  async function load(): Promise<void> {
    const mine = ++asked;
    const revision = store.revision;
    try {
      const found = await api.fuelDepth(store.id, revision);
      if (mine === asked) [depth.value, of.value, trouble.value] = [found, revision, ""];
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      if (mine === asked) trouble.value = error.message;
    }
  }
  watchDebounced(
    () => [store.id, store.revision],
    () => void load(),
    { debounce: 250, immediate: true },
  );
  return { depth, stale, trouble };
}
