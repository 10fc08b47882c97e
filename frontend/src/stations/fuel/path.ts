// The path on screen: what each part is called, a start for a new one, and the operations that put in, move and take out.
import type { Build, Operation, PathPart } from "@/api/types";
import { choice, written } from "@/figures/format";
import { partWord } from "./states";

export type Parts = Record<string, PathPart>;
export type Kind = PathPart["kind"];

export const KINDS: { kind: Kind; word: string; name: string; start: Record<string, unknown> }[] = [
  { kind: "run", word: "Run of tube or hose", name: "hose", start: { kind: "run", material: "30R14T2", bore: "7.9 mm", length: "0.5 m", clamps: "rolled_edge" } },
  { kind: "filter", word: "Filter or strainer", name: "filter", start: { kind: "filter", pressure_drop: "12 kPa", at_flow: "150 L/h", fineness: "10 um" } },
  { kind: "check_valve", word: "Check valve", name: "check_valve", start: { kind: "check_valve", opens_at: "3 kPa", pressure_drop: "5 kPa", at_flow: "150 L/h" } },
  { kind: "damper", word: "Pulse damper", name: "damper", start: { kind: "damper", pressure_drop: "2 kPa", at_flow: "150 L/h" } },
]; // prettier-ignore

/** The parts by name. Their keys are free names, which the generated type cannot say. */
export const partsOf = (build: Build) => build.fuel.parts as unknown as Parts;

/** What is entered for each kind of part, in the order in which a person meets it. */
export const FIELDS_OF: Record<Kind, string[]> = {
  run: ["material", "bore", "length", "rise", "exhaust_distance", "shielded", "route", "clamps", "clips", "in_fuel"],
  filter: ["fineness", "pressure_drop", "at_flow", "fluid", "arrow", "due"],
  check_valve: ["opens_at", "pressure_drop", "at_flow"],
  damper: ["pressure_drop", "at_flow"],
};

/** Places that are on the path once and are described apart from it. */
export const FIXED = ["tank", "lift", "surge_tank", "pump", "rail", "regulator"];

/** A part in a few words, as a person would say it across the car. `rise` is how far a run climbs, in metres. */
export function brief(part: PathPart, rise: number): string {
  return written(told(part, rise));
}
function told(part: PathPart, rise: number): string {
  if (part.kind === "run") {
    return `${choice(part.material)} ${part.bore}, ${part.length}${rise ? `, ${+Math.abs(rise).toFixed(2)} m ${rise > 0 ? "up" : "down"}` : ""}`;
  }
  if (part.kind === "filter") return `${part.fineness ?? "10 um"}, ${part.pressure_drop} at ${part.at_flow}${part.due ? ", due" : ""}`;
  if (part.kind === "check_valve") return `opens at ${part.opens_at}`;
  return `${part.pressure_drop} at ${part.at_flow}`;
}

export const heading = (name: string) => {
  const word = name === "lift" ? "lift pump" : partWord(name);
  return word.charAt(0).toUpperCase() + word.slice(1);
};

/** Operations that put a new part behind place `i` of the path. */
export function putAfter(path: string[], parts: Parts, i: number, kind: Kind): { name: string; patch: Operation[] } {
  const fresh = KINDS.find((k) => k.kind === kind)!;
  let name = fresh.name;
  for (let n = 2; name in parts; n++) name = `${fresh.name}_${n}`;
  return {
    name,
    patch: [
      { op: "add", path: `/fuel/parts/${name}`, value: fresh.start },
      { op: "add", path: "/fuel/path", value: [...path.slice(0, i + 1), name, ...path.slice(i + 1)] },
    ],
  };
}

/** The path with place `i` one step earlier or later. */
export function moved(path: string[], i: number, by: -1 | 1): Operation[] {
  const next = [...path];
  [next[i], next[i + by]] = [next[i + by]!, next[i]!];
  return [{ op: "add", path: "/fuel/path", value: next }];
}

export function takenOut(path: string[], name: string): Operation[] {
  return [
    { op: "add", path: "/fuel/path", value: path.filter((p) => p !== name) },
    { op: "remove", path: `/fuel/parts/${name}` },
  ];
}

/** The row of the path in which a place of the build is entered. */
export function rowOf(pointer: string): string | null {
  const tokens = pointer.split("/");
  if (pointer.startsWith("/wiring/fitted/pump_")) return "pump";
  if (tokens[1] !== "fuel") return null;
  if (tokens[2] === "parts") return tokens[3] ?? null;
  if (pointer === "/fuel/tank/return_enters") return "end";
  if (tokens[2] === "lift") return ["usable", "head"].includes(tokens[3] ?? "") ? "surge_tank" : "lift";
  if (["design_margin", "candidates"].includes(tokens[2] ?? "")) return "pump";
  return FIXED.includes(tokens[2] ?? "") ? tokens[2]! : null;
}
