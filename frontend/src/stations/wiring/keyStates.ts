// Positions of key and engine that the drawings offer, in a word each.
import type { KeyState } from "@/api/types";

export const KEY_STATES: { key: KeyState; word: string }[] = [
  { key: "off", word: "off" },
  { key: "run", word: "run" },
  { key: "prime", word: "prime" },
  { key: "crank", word: "crank" },
  { key: "idle", word: "idle" },
  { key: "full", word: "full" },
];
