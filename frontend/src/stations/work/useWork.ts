// The work of the build that is open, and as it stands today.
import { useQuery } from "@pinia/colada";
import { computed, shallowRef, watch } from "vue";
import { ApiError } from "@/api/client";
import { useBuild } from "@/stores/build";
import { useSettings } from "@/stores/settings";
import { asks, type Plan, type Seen, type Task, type Work } from "./asks";
import { useToday } from "./days";

const AGAIN = 2000; // ms before a store that is away is asked again

/** Tasks, parts, people, and what a person does to a task. */
export function useWork() {
  const store = useBuild();
  const settings = useSettings();
  const today = useToday();
  const work = computed(() => store.plan!.stages.work as Work);
  const task = (key: string): Task | undefined => work.value.tasks.find((t) => t.key === key);
  const people = computed(() => (store.build?.work?.people ?? {}) as Record<string, { name: string; calendar?: string; busy?: string[] }>);
  const name = (key: string) => people.value[key]?.name ?? key;
  const names = (keys: string[]) => keys.map(name).join(" and ");
  /** Places of what a person did to a task, of his own or of the plan. */
  function tick(t: Task, done: boolean): void {
    const at = t.entered_at;
    const there = (store.at(at) as object | undefined) ?? {};
    void store.edit([
      {
        op: "add",
        path: at,
        value: done ? { ...there, state: "done", done: today.value, by: settings.who } : { ...there, state: "open", done: null, by: "" },
      },
    ]);
  }
  return { store, today, work, task, people, name, names, tick };
}

/** The work as of today, by the clock of this device. While it is asked again the last answer stands. */
export function useSeen() {
  const store = useBuild();
  const today = useToday();
  const { data, error, refetch } = useQuery({
    key: () => ["work", store.id, store.revision, today.value],
    query: () => asks.seen(store.id, today.value, store.revision),
    staleTime: Infinity,
  });
  const seen = shallowRef<Seen | null>(null);
  watch(data, (d) => d && (seen.value = d), { immediate: true });
  watch(error, (e) => e instanceof ApiError && e.away && setTimeout(() => void refetch(), AGAIN));
  const plan = computed<Plan | null>(() => seen.value?.plan ?? null);
  const trouble = computed(() => (error.value instanceof ApiError && !error.value.away ? error.value.message : ""));
  return { seen, plan, today, trouble };
}
