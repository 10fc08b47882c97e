import { useStorage } from "@vueuse/core";
import { computed, ref, shallowRef, watch, type ComputedRef, type Ref } from "vue";
import { api, ApiError } from "@/api/client";
import type { Explained, KeyState, MeterQuestion, Reading, ReadingTyped, Terminals } from "@/api/types";
import { useBuild } from "@/stores/build";

export type Lead = "red" | "black";
export interface UseMeterReturn {
  board: Ref<Terminals | null>;
  reading: Ref<Reading | null>;
  /** Why there is no reading; empty where there is one. */
  trouble: Ref<string>;
  state: Ref<KeyState>;
  plugged: Ref<boolean>;
  quantity: Ref<MeterQuestion["quantity"]>;
  leads: Ref<Record<Lead, string>>;
  /** The lead that the next press puts down. */
  hand: Ref<Lead>;
  put: (terminal: string) => void;
  name: (terminal: string) => string;
  readings: Ref<ReadingTyped[]>;
  explained: Ref<Explained | null>;
  /** Whether readings were changed since they were explained. */
  stale: ComputedRef<boolean>;
  problems: Ref<Record<string, string>>;
  explain: () => Promise<void>;
}

/** Red and black on two terminals of the harness, and what was read there. Readings stay in this browser until they are taken away. */
export function useMeter(): UseMeterReturn {
  const store = useBuild();
  const board = shallowRef<Terminals | null>(null);
  const reading = shallowRef<Reading | null>(null);
  const trouble = ref("");
  const state = ref<KeyState>("prime");
  const plugged = ref(true);
  const quantity = ref<MeterQuestion["quantity"]>("volts");
  const leads = ref<Record<Lead, string>>({ red: "pump.plus", black: "battery.minus" });
  const hand = ref<Lead>("red");
  const readings = useStorage<ReadingTyped[]>(`uphill-spark.readings.${store.id}`, []);
  const explained = shallowRef<Explained | null>(null);
  const explainedFor = ref("");
  const problems = ref<Record<string, string>>({});
  const now = () => JSON.stringify([store.revision, readings.value]);
  let asked = 0;

  async function ask(): Promise<void> {
    const mine = ++asked;
    const question = { revision: store.revision, state: state.value, plugged: plugged.value };
    try {
      const [there, shows] = await Promise.all([
        api.terminals(store.id, question),
        api.meter(store.id, { ...question, ...leads.value, quantity: quantity.value }),
      ]);
      if (mine === asked) [board.value, reading.value, trouble.value] = [there, shows, ""];
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      if (mine !== asked) return;
      const gone = error.body.problems.map((p) => p.at as Lead);
      if (!error.away && gone.length && gone.some((l) => leads.value[l] !== HOME[l])) {
        leads.value = { ...leads.value, ...Object.fromEntries(gone.map((l) => [l, HOME[l]])) }; // a terminal that this revision no longer has
        return;
      }
      [reading.value, trouble.value] = [null, error.body.message];
    }
  }
  watch([state, plugged, quantity, leads, () => store.revision], ask, { immediate: true });
  function put(terminal: string): void {
    leads.value = { ...leads.value, [hand.value]: terminal };
    hand.value = hand.value === "red" ? "black" : "red";
  }
  const name = (terminal: string) => board.value?.terminals.find((t) => t.key === terminal)?.name ?? terminal;
  async function explain(): Promise<void> {
    problems.value = {};
    const typed = readings.value.filter((r) => r.volts.trim());
    if (!typed.length) return;
    try {
      explained.value = await api.explain(store.id, store.revision, typed);
      explainedFor.value = now();
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      problems.value = Object.fromEntries(error.body.problems.map((p) => [p.at, p.wants]));
      if (!error.body.problems.length) problems.value = { all: error.body.message };
    }
  }
  const stale = computed(() => explained.value !== null && explainedFor.value !== now());
  return { board, reading, trouble, state, plugged, quantity, leads, hand, put, name, readings, explained, stale, problems, explain };
}
/** Where a lead goes back to when its terminal is gone. */
const HOME: Record<Lead, string> = { red: "battery.plus", black: "battery.minus" };
