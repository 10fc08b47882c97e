// Words of the field that can be pressed, fetched once nobody waits for anything else. Which they are and where they stand, the core's pattern says.
import { defineStore } from "pinia";
import { computed, ref, shallowRef } from "vue";
import { api, ApiError } from "@/api/client";
import type { components } from "@/api/schema";

type Glossary = components["schemas"]["Glossary"];
export type Word = components["schemas"]["Word"];
/** A piece of a text: plain, or a word that can be pressed. */
export interface Piece {
  text: string;
  word?: Word;
}
export const CARD = "word-card";

export const useWords = defineStore("words", () => {
  const known = shallowRef<Glossary | null>(null);
  const shown = ref<Word | null>(null);
  const pattern = computed(() => known.value && new RegExp(known.value.pattern, "gi"));
  async function load(): Promise<void> {
    try {
      known.value ??= await api.words();
    } catch (error) {
      if (!(error instanceof ApiError)) throw error; // texts stay plain
    }
  }
  const wordOf = (form: string): Word | undefined => known.value?.words[known.value.forms[form.toLowerCase()] ?? ""];
  /** A text in pieces: each word can be pressed where it first stands. */
  function pieces(text: string): Piece[] {
    if (!pattern.value) return [{ text }];
    const found: Piece[] = [];
    const seen = new Set<string>();
    let from = 0;
    for (const match of text.matchAll(pattern.value)) {
      const word = wordOf(match[0]);
      if (!word || seen.has(word.key)) continue;
      seen.add(word.key);
      found.push({ text: text.slice(from, match.index) }, { text: match[0], word });
      from = match.index + match[0].length;
    }
    return [...found, { text: text.slice(from) }];
  }
  /** The words that stand in some texts, each once. */
  const foundIn = (texts: string[]): Word[] => [
    ...new Map(texts.flatMap(pieces).flatMap((p) => (p.word ? [[p.word.key, p.word] as const] : []))).values(),
  ];
  return { known, shown, load, pieces, foundIn, show: (word: Word) => (shown.value = word) };
});
