// What the grade line draws, out of the solved path: runs with their ends, and the losses that are told. Plain functions.
import type { FuelResult } from "./states";

export type Grade = FuelResult["grades"][string];
export type Place = Grade["forth"][number];
/** A run of line: where it starts and ends, and whether it leads back. */
export interface Segment {
  name: string;
  a: Place;
  b: Place;
  back: boolean;
}
export type Told = Grade["losses"][number] & { at: Place; run: number };
const MOST_TOLD = 4;
const WORTH_TELLING = 2e3; // Pa

/** Runs of line forth and back. */
export function segmentsOf(grade: Grade): Segment[] {
  return grade.losses
    .filter((l) => l.kind === "run")
    .map((l) => {
      const back = !grade.forth.some((p) => p[0] === l.part);
      const places = (back ? grade.back : grade.forth).filter((p) => p[0] === l.part);
      return { name: l.part, a: places[0]!, b: places.at(-1)!, back };
    });
}

/** The losses that count: at least a fiftieth of what the pump makes, the biggest, in the order of the way. */
export function toldOf(grade: Grade, pumpPa: number): Told[] {
  const least = Math.max(pumpPa / 50, WORTH_TELLING);
  return grade.losses
    .filter((l) => l.loss_pa >= least && grade.forth.some((p) => p[0] === l.part))
    .sort((a, b) => b.loss_pa - a.loss_pa)
    .slice(0, MOST_TOLD)
    .map((l) => {
      const places = grade.forth.filter((p) => p[0] === l.part);
      return { ...l, at: places.at(-1)!, run: (places[0]![1] + places.at(-1)![1]) / 2 };
    })
    .sort((a, b) => a.run - b.run);
}

/** The run that carries the rail, the last one forth behind the pump: pulling the rail changes its rise. */
export function carrierOf(grade: Grade): Segment | null {
  const found = segmentsOf(grade).filter((s) => !s.back).at(-1); // prettier-ignore
  const index = (name: string) => grade.forth.findIndex((p) => p[0] === name);
  return found && index("pump") < index(found.name) ? found : null;
}
