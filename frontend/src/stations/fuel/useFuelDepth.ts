import { watchDebounced } from "@vueuse/core";
import { ref, type Ref } from "vue";
import { api, ApiError } from "@/api/client";
import type { FuelDepth } from "@/api/types";
import { useBuild } from "@/stores/build";

export interface UseFuelDepthReturn {
  /** The last answer; it may be of the revision before while a new one is worked out. */
  depth: Ref<FuelDepth | null>;
  /** A new one is on its way. */
  working: Ref<boolean>;
  /** Why there is none. */
  trouble: Ref<string>;
}

/** The fuel system looked at longer, for the revision on screen. Asked for once the person pauses. */
export function useFuelDepth(): UseFuelDepthReturn {
  const store = useBuild();
  const depth = ref<FuelDepth | null>(null);
  const working = ref(false);
  const trouble = ref("");
  let asked = 0;
  async function load(): Promise<void> {
    const mine = ++asked;
    working.value = true;
    try {
      const found = await api.fuelDepth(store.id, store.revision);
      if (mine === asked) [depth.value, trouble.value] = [found, ""];
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      if (mine === asked) trouble.value = error.message;
    } finally {
      if (mine === asked) working.value = false;
    }
  }
  watchDebounced(
    () => [store.id, store.revision],
    () => void load(),
    { debounce: 250, immediate: true },
  );
  return { depth, working, trouble };
}
