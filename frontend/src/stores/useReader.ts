import { useStorage } from "@vueuse/core";
import { api, ApiError } from "@/api/client";

interface Read {
  written: string;
  si: number | null;
}
export interface UseReaderReturn {
  /** Have texts read that were not read yet. */
  ask: (texts: string[]) => void;
  /** The value in SI; null for what is no quantity, or what could not be asked yet. */
  read: (text: string) => number | null;
  /** The quantity with its unit; as it was typed until it is read. */
  written: (text: string) => string;
}

/** Quantities that stand in no build yet, read by the core: each text once, kept in this browser for when the server is away. */
export function useReader(dimension: string, unit: string): UseReaderReturn {
  const known = useStorage<Record<string, Read>>(`uphill-spark.read.${dimension}`, {});
  const asked = new Set<string>();
  async function get(texts: string[]): Promise<void> {
    try {
      const found = await api.read(dimension, unit, texts);
      known.value = {
        ...known.value,
        ...Object.fromEntries(texts.map((text, i) => [text, { written: found[i]!.written, si: found[i]!.si }])),
      };
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      texts.forEach((text) => asked.delete(text)); // asked again with the next that comes
    }
  }
  function ask(texts: string[]): void {
    const fresh = [...new Set(texts)].filter((text) => text && !(text in known.value) && !asked.has(text));
    if (!fresh.length) return;
    fresh.forEach((text) => asked.add(text));
    void get(fresh);
  }
  return { ask, read: (text) => known.value[text]?.si ?? null, written: (text) => known.value[text]?.written ?? text };
}
