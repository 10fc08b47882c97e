// What waits to be stored, and what a patch needs before it can be sent. Plain functions.
import type { Operation } from "@/api/types";
import { get, within } from "./pointer";

/** What is done to the kept tune as a whole. With `mine` the person's own cells stay. */
export type TuneAct = { do: "keep"; source: "quick" | "worked" | "found"; mine: boolean } | { do: "back"; to: number };

export interface Waiting {
  id: string;
  build: string;
  patch: Operation[];
  reason: string;
  /** A step along the journal in place of a patch. */
  step?: "undo" | "redo";
  /** A tune made, or brought back, in place of a patch. */
  tune?: TuneAct;
  /** As it was sent: when no answer came it is sent again in the same words, for the server may have stored it. */
  sent?: Operation[];
}

/** An id of our own for a change. crypto.randomUUID is there only on a secure origin; a phone on the local network is not one. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
}

/** The value at a pointer: what waits to be stored, itself or in a part that waits, as it was typed; else what is in the document. */
export function waitingAt(document: unknown, waiting: Waiting[], pointer: string): unknown {
  for (const w of [...waiting].reverse()) {
    const op = [...w.patch].reverse().find((o) => within(pointer, o.path));
    if (op) return op.op === "remove" ? undefined : get(op.typed ?? op.value, pointer.slice(op.path.length));
  }
  return get(document, pointer);
}

/**
 * The patch as it is sent: parts of the document that have to be there before a value can be put in them come first.
 * Worked out when it is sent, not when it was typed: a change that waited may have made them meanwhile.
 */
export function complete(document: unknown, patch: Operation[]): Operation[] {
  const made: string[] = [];
  return patch.flatMap((op) => {
    const tokens = op.path.split("/");
    const parents: Operation[] = [];
    for (let i = 2; op.op === "add" && i < tokens.length; i++) {
      const above = tokens.slice(0, i).join("/");
      if (get(document, above) != null || made.includes(above)) continue;
      made.push(above);
      parents.push({ op: "add", path: above, value: tokens[i] === "-" ? [] : {} });
    }
    return [...parents, op];
  });
}
