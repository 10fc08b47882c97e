import { provide, shallowRef, type InjectionKey, type Ref } from "vue";
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

/** Questions under way at a time: while one answer is drawn, the next is solved. */
const AT_ONCE = 2;

/** The fuel system solved live under the hand. The newest value is asked next; an answer that comes late is not shown. */
export function useTrial(): UseTrialReturn {
  const store = useBuild();
  const live = shallowRef<FuelResult | null>(null);
  let wanted: Operation[] | null = null;
  let underWay = 0;
  let asked = 0;
  let shown = 0;

  async function ask(): Promise<void> {
    if (underWay >= AT_ONCE) return;
    underWay++;
    while (wanted) {
      const patch = wanted;
      const mine = ++asked;
      wanted = null;
      try {
        const found = await api.fuelTrial(store.id, store.revision, patch);
        if (mine > shown) [live.value, shown] = [found, mine];
      } catch (error) {
        if (!(error instanceof ApiError)) throw error; // a value that does not fit shows nothing new; letting go says why
      }
    }
    underWay--;
  }
  const patchOf = (pointer: string, value: unknown): Operation[] => [{ op: "add", path: pointer, value }];
  function attempt(pointer: string, value: unknown): void {
    wanted = patchOf(pointer, value);
    void ask();
  }
  async function settle(pointer: string, value: unknown): Promise<void> {
    wanted = null;
    shown = asked; // what is still under way comes too late
    await store.set(pointer, value);
    live.value = null;
  }
  provide(TRIAL, { attempt, settle });
  return { live, attempt, settle };
}
