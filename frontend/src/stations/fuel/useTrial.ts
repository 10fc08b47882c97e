import { provide, ref, type InjectionKey, type Ref } from "vue";
import { api, ApiError } from "@/api/client";
import type { Operation } from "@/api/types";
import { useBuild } from "@/stores/build";
import type { FuelResult } from "./states";

export interface Trial {
  /** Try a value while it is dragged: solved by the server, nothing stored. */
  attempt: (pointer: string, value: unknown) => void;
  /** The hand lets go: the value becomes a change. */
  settle: (pointer: string, value: unknown) => Promise<void>;
}
/** For what can be dragged below a station that solves while one drags. */
export const TRIAL: InjectionKey<Trial> = Symbol("trial");

export interface UseTrialReturn extends Trial {
  /** The fuel system as it would be; null while nothing is dragged. */
  live: Ref<FuelResult | null>;
}

/** The fuel system solved live under the hand. One question is under way at a time, and the newest value is asked next. */
export function useTrial(): UseTrialReturn {
  const store = useBuild();
  const live = ref<FuelResult | null>(null);
  let wanted: Operation[] | null = null;
  let busy = false;
  let dragging = false;

  async function ask(): Promise<void> {
    if (busy) return;
    busy = true;
    while (wanted) {
      const patch = wanted;
      wanted = null;
      try {
        const found = await api.fuelTrial(store.id, store.revision, patch);
        if (dragging) live.value = found;
      } catch (error) {
        if (!(error instanceof ApiError)) throw error; // a value that does not fit shows nothing new; letting go says why
      }
    }
    busy = false;
  }
  const patchOf = (pointer: string, value: unknown): Operation[] => [{ op: "add", path: pointer, value }];
  function attempt(pointer: string, value: unknown): void {
    dragging = true;
    wanted = patchOf(pointer, value);
    void ask();
  }
  async function settle(pointer: string, value: unknown): Promise<void> {
    wanted = null;
    dragging = false;
    await store.set(pointer, value);
    live.value = null;
  }
  provide(TRIAL, { attempt, settle });
  return { live, attempt, settle };
}
