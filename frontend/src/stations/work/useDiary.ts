// The diary of the build that is open: pages of it, what is looked for, and entries that wait on this device until the server has them, in the order in which they were written.
import { refDebounced, useEventListener, useStorage } from "@vueuse/core";
import { computed, ref, shallowRef, watch } from "vue";
import { ApiError } from "@/api/client";
import { newId } from "@/stores/queue";
import { useBuild } from "@/stores/build";
import { useSettings } from "@/stores/settings";
import { asks, type Diary, type Entry, type S } from "./asks";

export type Draft = Omit<S["NewEntry"], "id" | "who">;
interface WaitingEntry {
  build: string;
  body: S["NewEntry"];
  trouble?: string;
}
const AGAIN = 3000; // ms before a server that is away is asked again
const TYPED = 250; // ms after the last letter of a search
export const told = (error: ApiError) => {
  const p = error.body.problems?.[0];
  return p ? `${error.message} Wanted: ${p.wants}; this is ${p.given || "nothing"}.` : error.message;
};

export function useDiary() {
  const store = useBuild();
  const settings = useSettings();
  const waiting = useStorage<WaitingEntry[]>("uphill-spark.diary", []);
  const mine = computed(() => waiting.value.filter((w) => w.build === store.id));
  const pages = shallowRef<Diary[]>([]);
  const search = ref("");
  const asked = refDebounced(search, TYPED);
  const away = ref(false);
  const loading = ref(false);
  let timer: ReturnType<typeof setTimeout> | undefined;
  let sending = false;

  async function load(more = false): Promise<void> {
    const before = more ? pages.value.at(-1)?.more : "";
    loading.value = true;
    try {
      const page = await asks.diary(store.id, { search: asked.value, before });
      pages.value = more ? [...pages.value, page] : [page];
      away.value = false;
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      away.value = error.away;
      if (error.away) later();
    } finally {
      loading.value = false;
    }
  }
  function later(): void {
    clearTimeout(timer);
    timer = setTimeout(() => void flush().then(() => load()), AGAIN);
  }
  /** What waits, sent in its order; the first that finds nobody leaves the rest waiting. */
  async function flush(): Promise<void> {
    if (sending) return;
    sending = true;
    try {
      for (let next = mine.value.find((w) => !w.trouble); next; next = mine.value.find((w) => !w.trouble)) {
        try {
          await asks.write(store.id, next.body);
          waiting.value = waiting.value.filter((w) => w.body.id !== next!.body.id);
          away.value = false;
        } catch (error) {
          if (!(error instanceof ApiError)) throw error;
          away.value = error.away;
          if (error.away) return later();
          waiting.value = waiting.value.map((w) => (w.body.id === next!.body.id ? { ...w, trouble: told(error) } : w));
        }
      }
    } finally {
      sending = false;
    }
  }
  async function write(draft: Draft): Promise<void> {
    waiting.value = [...waiting.value, { build: store.id, body: { ...draft, id: newId(), who: settings.who } as S["NewEntry"] }];
    await flush();
    if (!away.value) await load();
  }
  /** An entry that was refused, back under the hand that wrote it. */
  function takeBack(id: string): S["NewEntry"] | undefined {
    const found = waiting.value.find((w) => w.body.id === id);
    waiting.value = waiting.value.filter((w) => w.body.id !== id);
    return found?.body;
  }
  async function rewrite(entry: Entry, draft: Draft, struck = false): Promise<string> {
    try {
      await asks.rewrite(store.id, entry.id, { ...draft, base: entry.version, struck, who: settings.who } as S["EntryAgain"]);
      await load();
      return "";
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      if (error.body.code === "entry_moved") await load();
      return told(error);
    }
  }
  watch([() => store.id, asked], () => void load(), { immediate: true });
  useEventListener(window, "online", () => void flush().then(() => load()));
  if (mine.value.length) void flush().then(() => load());
  const entries = computed(() => pages.value.flatMap((p) => p.entries));
  const changes = computed(() => pages.value.flatMap((p) => p.changes));
  /** Days, newest first, each with what was written and what was changed. */
  const days = computed(() => {
    const found = new Set([...entries.value.map((e) => e.day), ...changes.value.map((c) => c.day)]);
    return [...found]
      .sort()
      .reverse()
      .map((day) => ({ day, entries: entries.value.filter((e) => e.day === day), changes: changes.value.filter((c) => c.day === day) }));
  });
  const head = computed(() => pages.value[0] ?? null);
  const more = computed(() => Boolean(pages.value.at(-1)?.more));
  return { search, days, entries, head, more, mine, away, loading, load, write, rewrite, takeBack };
}
