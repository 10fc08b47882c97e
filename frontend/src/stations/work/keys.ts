// Names that the page makes up: keys of what a person adds, codes on tags.
const LONGEST = 32;
/** A key of a few words, not one that is taken. */
export function slugged(text: string, taken: Set<string>): string {
  const plain = text
    .toLowerCase()
    .normalize("NFKD")
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^[_0-9]+|_+$/g, "")
    .slice(0, LONGEST);
  const stem = plain || "own";
  let key = stem;
  for (let k = 2; taken.has(key); k++) key = `${stem}_${k}`;
  return key;
}
const SIGNS = "abcdefghjkmnpqrstuvwxyz23456789";
/** Four signs that nobody takes for others, not a code that is taken. */
export function fresh(taken: Set<string>): string {
  for (;;) {
    const code = Array.from(crypto.getRandomValues(new Uint8Array(4)), (b) => SIGNS[b % SIGNS.length]).join("");
    if (!taken.has(code)) return code;
  }
}
