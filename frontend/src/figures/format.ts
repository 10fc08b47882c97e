// Words for reading. Figures come from the server with the digits that matter; only drawings format numbers of their own.

/** A field's choice in words: "port_plenum" as "port plenum". Class names of hose stay as they are printed on it. */
export const choice = (option: string) => option.replace(/_/g, " ");

/** A quantity as it was written, set as a person would write it by hand. */
export const written = (quantity: string) =>
  quantity
    .replace(/deg([CF])\b/, "°$1")
    .replace(/\bmm2\b/, "mm²")
    .replace(/\bum\b/, "µm");

/** A figure for reading, split into its number and what stands behind it. */
export function split(shown: string): { number: string; unit: string } {
  const match = /^([-−\d.,]+)\s*(.*)$/.exec(shown);
  return match ? { number: match[1]!, unit: match[2]! } : { number: "–", unit: "" };
}

/** A doubt or what it moves, as a share: a tenth of a per cent below ten, none above. */
export const doubtful = (share: number) => `${(share * 100).toFixed(share < 0.095 ? 1 : 0)} %`;
