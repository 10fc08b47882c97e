// The logs of the build that is open, the one that is looked at, and what it says.
import { useQuery, useQueryCache } from "@pinia/colada";
import { useIntervalFn } from "@vueuse/core";
import { computed, ref, shallowRef, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import { ApiError } from "@/api/client";
import { useBuild } from "@/stores/build";
import { roadApi, type LogLine, type LogSaid } from "./asks";

const GOES = ["arriving", "waiting", "reading"];
const LOOKS = 600; // ms between two looks at what is on its way
export const onItsWay = (log: LogLine): boolean => GOES.includes(log.state);

/** A value that this device keeps; what cannot be read there is as if nothing was. */
export function onDevice<T extends object>(key: string, empty: T) {
  let there = empty;
  try {
    there = (JSON.parse(localStorage.getItem(key) ?? "null") as T | null) ?? empty;
  } catch {
    // somebody else wrote there: it begins anew
  }
  const kept = shallowRef<T>(there);
  watch(kept, (to) => localStorage.setItem(key, JSON.stringify(to)));
  return kept;
}

/** The list, kept fresh while something is read in. */
export function useLogs() {
  const store = useBuild();
  const cache = useQueryCache();
  const { data, error, refetch } = useQuery({ key: () => ["logs", store.id], query: () => roadApi.logs(store.id), staleTime: 2000 });
  const logs = computed<LogLine[]>(() => data.value?.logs ?? []);
  const busy = computed(() => logs.value.some(onItsWay));
  useIntervalFn(() => busy.value && void refetch(), LOOKS);
  const fresh = () => cache.invalidateQueries({ key: ["logs", store.id] });
  return { logs, list: data, error, busy, refetch, fresh };
}

/** The log that is looked at: the one in the address, else the last that was, else the newest that can be. */
export function useRoad() {
  const store = useBuild();
  const route = useRoute();
  const router = useRouter();
  const all = useLogs();
  const last = onDevice<Record<string, string>>("uphill-spark.log", {});
  const there = (id: unknown) => all.logs.value.find((l) => l.id === id);
  const line = computed<LogLine | undefined>(
    () => there(route.query.log) ?? there(last.value[store.id]) ?? all.logs.value.find((l) => l.taken_in) ?? all.logs.value[0],
  );
  const id = computed(() => line.value?.id ?? "");
  function choose(log: string): void {
    last.value = { ...last.value, [store.id]: log };
    void router.replace({ query: { ...route.query, log }, hash: route.hash });
  }
  const { data: told, refetch: againTold } = useQuery({
    key: () => ["log", store.id, id.value, line.value?.state ?? ""],
    query: () => roadApi.one(store.id, id.value),
    enabled: () => id.value !== "" && !onItsWay(line.value!),
    staleTime: Infinity,
  });
  const progress = ref<number | null>(null);
  const {
    data: answer,
    error,
    refetch,
  } = useQuery({
    key: () => ["said", store.id, id.value, store.revision, JSON.stringify(told.value?.taken ?? [])],
    query: async () => {
      for (;;) {
        const found = await roadApi.said(store.id, id.value);
        progress.value = found.progress ?? null;
        if (found.state !== "running") return { ...found, log: id.value };
        await new Promise((after) => setTimeout(after, 250));
      }
    },
    enabled: () => line.value?.state === "kept" && told.value?.line.id === id.value,
    staleTime: Infinity,
  });
  const kept = shallowRef<typeof answer.value>(undefined);
  watch(answer, (a) => a && (kept.value = a), { immediate: true });
  watch(error, (e) => e instanceof ApiError && e.away && setTimeout(() => void refetch(), 2000));
  const mine = computed(() => (kept.value?.log === id.value ? kept.value : undefined));
  const said = computed<LogSaid | null>(() => (mine.value?.state === "ready" ? (mine.value.answer as LogSaid) : null));
  const why = computed(() =>
    mine.value?.state === "failed" ? mine.value.why : error.value instanceof ApiError && !error.value.away ? error.value.message : "",
  );
  const same = computed(() => mine.value?.same ?? true);
  const inBuild = computed(() => mine.value?.in_build ?? false);
  /** What was put right by this log already. */
  const did = computed<string[]>(() => mine.value?.did ?? []);
  return { ...all, store, line, id, choose, told, againTold, answer: mine, said, why, same, inBuild, did, progress, again: refetch };
}
export type UseRoad = ReturnType<typeof useRoad>;
export const percent = (share: number, digits = 1): string => `${(share * 100).toFixed(digits).replace("-", "−")} %`;
/** Minutes and seconds of a log. */
export const minutes = (s: number): string => `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, "0")}`;
