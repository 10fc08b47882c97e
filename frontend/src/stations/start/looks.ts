// Looks by the step at which they are taken, those that hold some words.
import type { Look } from "./asks";

const TITLES = ["Before the key", "Key on", "Sensors", "Pump and rail", "Starter turns", "It starts", "First minute", "Warm", "Key off"];
export const holds = (words: string, search: string) => words.toLowerCase().includes(search.trim().toLowerCase());
export const byStep = (looks: Look[], search: string) =>
  TITLES.map((title, step) => ({ title, rows: looks.filter((l) => l.step === step && holds(l.words, search)) })).filter(
    (g) => g.rows.length,
  );
