// What the bus says of the step on screen, and the hand at the stand-in's key. One stream; the browser opens it again by itself.
import { onScopeDispose, ref, shallowRef, watch, type Ref } from "vue";
import { ApiError } from "@/api/client";
import { useBuild } from "@/stores/build";
import { startApi, type Key, type LiveTold } from "./asks";

const SILENT = 2500; // ms without a word from the server, after which nothing shown is of now
export function useLive(step: Ref<number>) {
  const store = useBuild();
  const said = shallowRef<LiveTold | null>(null);
  const away = ref(false);
  const trouble = ref("");
  const key = ref<Key>("off");
  const pedal = ref(0);
  const injectorsOff = ref(false);
  let source: EventSource | null = null;
  let quiet: ReturnType<typeof setTimeout> | undefined;

  function listen(): void {
    source?.close();
    source = new EventSource(startApi.stream(store.id, step.value));
    source.onmessage = (event) => {
      said.value = JSON.parse(event.data as string) as LiveTold;
      away.value = false;
      clearTimeout(quiet);
      quiet = setTimeout(() => (away.value = true), SILENT);
    };
    source.onerror = () => {
      if (source?.readyState === EventSource.CLOSED) setTimeout(listen, SILENT);
    };
  }
  watch([() => store.id, step], listen, { immediate: true });
  onScopeDispose(() => {
    source?.close();
    clearTimeout(quiet);
  });

  async function tried(act: () => Promise<unknown>): Promise<void> {
    trouble.value = "";
    try {
      await act();
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      trouble.value = error.message;
    }
  }
  const hand = () => tried(() => startApi.hand(store.id, key.value, pedal.value, injectorsOff.value));
  const turn = (to: Key) => {
    key.value = to;
    return hand();
  };
  const press = (to: number) => {
    pedal.value = to;
    return hand();
  };
  const switchInjectors = (off: boolean) => {
    injectorsOff.value = off;
    return hand();
  };
  /** A stand-in was begun and is not heard yet. */
  const waking = ref(false);
  watch(said, (now) => now?.key != null && (waking.value = false));
  const begin = (how: { practice?: string; fault?: string; warm?: boolean }) => {
    [key.value, pedal.value, waking.value] = ["off", 0, true];
    return tried(() => startApi.standIn(store.id, how));
  };
  const end = () => tried(() => startApi.endStandIn(store.id));
  return { said, away, trouble, key, pedal, injectorsOff, turn, press, switchInjectors, waking, begin, end };
}
export type Live = ReturnType<typeof useLive>;
