// The steps as a walk: each thing to do and to read in its turn; where it was left is where it goes on.
import { computed } from "vue";
import { useSessionStorage } from "@vueuse/core";
import { useBuild } from "@/stores/build";
import { takeReading } from "./taken";

export function useStepWalk() {
  const store = useBuild();
  const steps = computed(() => store.plan!.stages.start.steps);
  /** Every stop of the walk: the things to do of a step, then its readings. */
  const all = computed(() => steps.value.flatMap((s) => [{ step: s, reading: null }, ...s.expect.map((e) => ({ step: s, reading: e }))]));
  const kept = useSessionStorage<Record<string, number>>("uphill-spark.walk", {});
  /** Where the readings of the document end: a phone that died goes on there. */
  const open = computed(() => {
    const signed = steps.value.find((s) => !s.done) ?? steps.value.at(-1)!;
    const at = all.value.findIndex(
      (p) => p.step.number === signed.number && (!p.reading || (!!p.reading.key && p.reading.verdict === "open")),
    );
    return Math.max(at, 0);
  });
  const place = computed({
    get: () => Math.min(kept.value[store.id] ?? open.value, all.value.length - 1),
    set: (k) => (kept.value = { ...kept.value, [store.id]: k }),
  });
  const here = computed(() => all.value[place.value]!);
  async function take(typed: string, source: "typed" | "bus"): Promise<void> {
    const e = here.value.reading;
    if (!e?.key) return;
    await takeReading(store, `/start/steps/${here.value.step.number}/readings/${e.key}`, typed, source);
  }
  return {
    all,
    place,
    step: computed(() => here.value.step),
    reading: computed(() => here.value.reading),
    first: computed(() => place.value === 0),
    last: computed(() => place.value >= all.value.length - 1),
    next: () => (place.value = Math.min(place.value + 1, all.value.length - 1)),
    /** On to the next reading that is not there yet, or to what is to be done before it. */
    onward: () => {
      const waits = (p: (typeof all.value)[number]) => !p.reading || (!!p.reading.key && !!p.reading.band && p.reading.verdict === "open");
      const k = all.value.findIndex((p, i) => i > place.value && waits(p));
      place.value = k < 0 ? all.value.length - 1 : k;
    },
    back: () => (place.value = Math.max(place.value - 1, 0)),
    take,
  };
}
