// A reading put into the build: when, whether typed or off the bus, and as it was typed. The one place where that is done.
import type { useBuild } from "@/stores/build";

/** Now, as a step is dated. */
export const now = () => new Date().toISOString().slice(0, 16).replace("T", " ");
export const takeReading = (store: ReturnType<typeof useBuild>, at: string, typed: string, source: "typed" | "bus") =>
  store.edit([
    { op: "add", path: `${at}/when`, value: now() },
    { op: "add", path: `${at}/source`, value: source },
    { op: "add", path: `${at}/typed`, typed },
  ]);
