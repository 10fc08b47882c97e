// Numbers for reading, in the same digits as the terminal and the papers use.
const WORDS: Record<string, string> = { "1": "", ohm: " Ω", mohm: " mΩ", degC: " °C", deg: "°" };

export function digits(value: number): string {
  const size = Math.abs(value);
  if (Math.abs(value - Math.round(value)) < 1e-9) return Math.round(value).toLocaleString("en-GB");
  const places = size >= 1000 ? 0 : size >= 100 ? 1 : size >= 1 ? 2 : 3;
  return value.toLocaleString("en-GB", { minimumFractionDigits: places, maximumFractionDigits: places });
}

export const unitWord = (unit: string) => WORDS[unit] ?? ` ${unit}`;

export const show = (value: number | null | undefined, unit: string) => (value == null ? "not known" : digits(value) + unitWord(unit));

/** A field's choice in words: "port_plenum" as "port plenum". Class names of hose stay as they are printed on it. */
export const choice = (option: string) => option.replace(/_/g, " ");
