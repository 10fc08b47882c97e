import { watchDebounced } from "@vueuse/core";
import { computed, onScopeDispose, ref, shallowRef, type Ref } from "vue";
import { ApiError } from "@/api/client";
import { useBuild } from "@/stores/build";

export interface UseAskedReturn<T> {
  /** The last answer; it may be of the revision before while a new one is worked out. */
  found: Ref<T | null>;
  /** The answer is of an older revision: what it offers would not fit the build as it is now. */
  stale: Ref<boolean>;
  /** Why there is none. */
  trouble: Ref<string>;
}

/** What takes a while to work out, for the revision on screen. Asked for once the person pauses. */
export function useAsked<T>(ask: (id: string, revision: number) => Promise<T>): UseAskedReturn<T> {
  const store = useBuild();
  const found = shallowRef<T | null>(null);
  const of = ref(0);
  const stale = computed(() => of.value !== store.revision);
  const trouble = ref("");
  let asked = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;
  onScopeDispose(() => {
    asked++;
    clearTimeout(timer);
  });
  async function load(): Promise<void> {
    clearTimeout(timer);
    const mine = ++asked;
    const revision = store.revision;
    try {
      const answer = await ask(store.id, revision);
      if (mine === asked) [found.value, of.value, trouble.value] = [answer, revision, ""];
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      if (mine !== asked) return;
      if (error.away)
        timer = setTimeout(() => void load(), 2000); // the page says that the store is away; here it is asked again
      else trouble.value = error.message;
    }
  }
  watchDebounced(
    () => [store.id, store.revision],
    () => void load(),
    { debounce: 250, immediate: true },
  );
  return { found, stale, trouble };
}
