import { useQuery } from "@pinia/colada";
import { refDebounced, useIntersectionObserver } from "@vueuse/core";
import { computed, onMounted, onScopeDispose, ref, shallowRef, watch, type Ref } from "vue";
import { api, ApiError } from "@/api/client";
import type { Asked, Subject } from "@/api/types";
import { useBuild } from "@/stores/build";

export interface UseAskedReturn<T> {
  /** The last answer; it may be of the revision before while a new one is worked out. */
  found: Ref<T | null>;
  /** The answer is of an older revision, or a change waits to be stored: what it offers would not fit the build as it will be. */
  stale: Ref<boolean>;
  /** Why there is none. */
  trouble: Ref<string>;
  /** How far it is (0 to 1); null while it waits its turn, or nothing is asked. */
  progress: Ref<number | null>;
  /** Somebody gave it up: it is begun again by `again`. */
  cancelled: Ref<boolean>;
  giveUp: () => void;
  again: () => void;
}

const PAUSE = 250; // ms without an edit before it is asked
const AGAIN = 2000; // ms before a store that is away is asked again

const NEAR = "300px"; // below the screen, from where on it is asked for

/** Whether the person comes near to a place; true where there is none. Not while the screen is being laid out, when everything is near. */
function useNear(where?: Ref<HTMLElement | null>): Ref<boolean> {
  const near = ref(!where);
  if (!where) return near;
  const watched = shallowRef<HTMLElement | null>(null);
  let timer: ReturnType<typeof setTimeout> | undefined;
  onMounted(() => requestIdleCallback(() => (watched.value = where.value), { timeout: 10 * PAUSE }));
  onScopeDispose(() => clearTimeout(timer));
  useIntersectionObserver(
    watched,
    (parts) => {
      clearTimeout(timer);
      // A slow machine lays out for longer than any pause: the answer counts once it has nothing else to do.
      const is = parts.at(-1)!.isIntersecting;
      timer = setTimeout(() => requestIdleCallback(() => (near.value = is), { timeout: 10 * PAUSE }), PAUSE);
    },
    { rootMargin: NEAR },
  );
  return near;
}

/** What takes a while to work out, for the revision on screen. Asked for once the person pauses, and comes near to where it stands. */
export function useAsked<K extends Subject>(subject: K, where?: Ref<HTMLElement | null>): UseAskedReturn<Asked[K]> {
  const store = useBuild();
  const near = useNear(where);
  const at = refDebounced(
    computed(() => `${store.id} ${store.revision}`),
    PAUSE,
  );
  const progress = ref<number | null>(null);
  const { data, error, refetch } = useQuery({
    key: () => ["asked", subject, at.value],
    query: async () => {
      const [id, revision] = at.value.split(" ") as [string, string];
      progress.value = null;
      return { at: at.value, answer: await api.asked(id, +revision, subject, (share) => (progress.value = share)) };
    },
    staleTime: Infinity,
    enabled: () => near.value,
  });
  const found = shallowRef<Asked[K] | null>(null);
  const of = shallowRef("");
  watch(
    data,
    (d) => {
      if (d) [found.value, of.value] = [d.answer, d.at];
    },
    { immediate: true },
  );
  watch(error, (e) => {
    if (e instanceof ApiError && e.away) setTimeout(() => void refetch(), AGAIN); // the page says that the store is away
  });
  const stale = computed(() => of.value !== "" && (of.value !== `${store.id} ${store.revision}` || store.mine.length > 0));
  const trouble = computed(() => (error.value instanceof ApiError && !error.value.away ? error.value.message : ""));
  const begun = ref(false); // asked for again, and not there yet
  const cancelled = computed(() => error.value instanceof ApiError && error.value.body.code === "cancelled" && !begun.value);
  const now = () => at.value.split(" ") as [string, string];
  const long = async () => (await import("@/api/seldom")).seldomApi;
  const giveUp = () => void long().then((a) => a.giveUp(now()[0], +now()[1], subject).catch(() => undefined));
  async function startAgain(): Promise<void> {
    begun.value = true;
    await (await long()).askAgain(now()[0], +now()[1], subject).catch(() => undefined);
    await refetch();
    begun.value = false;
  }
  const again = () => void startAgain();
  return { found: found as Ref<Asked[K] | null>, stale, trouble, progress, cancelled, giveUp, again };
}
