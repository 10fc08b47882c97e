import { scaleLinear } from "d3-scale";
import { computed, ref, type Ref } from "vue";
import type { Flows, Stages } from "@/api/types";
import { along, placed, type Box, type Wanted } from "./labels";
import { useScales } from "@/figures/owners";
import { useBuild } from "@/stores/build";

export interface Point {
  x: number;
  y: number;
}
export interface Held extends Point {
  what: "place" | "bend";
  key: string;
}
export interface Lettered {
  key: string;
  lines: string[];
  bold: boolean;
  x: number;
  y: number;
}
export type Branch = Stages["wiring"]["branches"][number];
export const ZONES = [
  { key: "bay", word: "engine bay", from: -0.1 },
  { key: "cabin", word: "cabin", from: 1.4 },
  { key: "tank", word: "rear", from: 3.2 },
];
export interface UseHarnessPlanReturn {
  /** What is under the hand, where it is now [m]; null while nothing is. */
  held: Ref<Held | null>;
  longest: Ref<number>;
  x: (width: number) => (m: number) => number;
  y: (m: number) => number;
  /** Pixels back to metres. */
  metres: (width: number, px: number, py: number) => Point;
  at: (place: string) => Point;
  bendOf: (branch: string) => Point | null;
  middle: (b: Branch) => Point;
  points: (b: Branch, width: number) => [number, number][];
  thick: (b: Branch) => number;
  branchWords: (b: Branch) => string;
  letters: (width: number) => Lettered[];
}
const amps = (v: number) => (v >= 10 ? v.toFixed(0) : v.toFixed(1));
/** Letters [px]: names, then what is under them and on branches. */
export const LETTERS = { name: 12.5, more: 12 };

/** The harness from above: where its places and branches are drawn, and its words, each where there is room. */
export function useHarnessPlan(props: { wiring: Stages["wiring"] }, height: number, flows: Ref<Flows | null>): UseHarnessPlanReturn {
  const own = useScales();
  const store = useBuild();
  const held = ref<Held | null>(null);
  const longest = computed(() => Math.max(4.2, ...props.wiring.nodes.map((n) => n.x_m + 0.3)));
  const scale = (width: number) =>
    scaleLinear()
      .domain([-0.15, longest.value + 0.15])
      .range([18, width - 18]);
  const y = scaleLinear()
    .domain([-0.95, 0.95])
    .range([height - 34, 26]);
  const nodes = computed(() => new Map(props.wiring.nodes.map((n) => [n.key, { x: n.x_m, y: n.y_m }])));
  const mine = (what: Held["what"], key: string) => (held.value?.what === what && held.value.key === key ? held.value : null);
  const at = (place: string): Point => mine("place", place) ?? nodes.value.get(place) ?? { x: 0, y: 0 };
  const bendOf = (branch: string): Point | null =>
    mine("bend", branch) ?? (store.at(`/wiring/branches/${branch}/bend`) as Point | null | undefined) ?? null;
  const middle = (b: Branch): Point => ({ x: (at(b.start).x + at(b.end).x) / 2, y: (at(b.start).y + at(b.end).y) / 2 });
  const thick = (b: Branch) => Math.max(1.6, b.diameter_m * 550);
  /** Through its bend if it has one; else bowed so far that its length is the string's, as long as that can be drawn. */
  function points(b: Branch, width: number): [number, number][] {
    const [p, q, mid, bend] = [at(b.start), at(b.end), middle(b), bendOf(b.key)];
    const to = (m: Point): [number, number] => [scale(width)(m.x), y(m.y)];
    const chord = Math.hypot(q.x - p.x, q.y - p.y) || 1e-6;
    if (!bend && b.length_m <= chord * 1.01) return [to(p), to(mid), to(q)];
    const high = chord * Math.min(0.16, Math.sqrt((3 / 8) * Math.max(0, b.length_m / chord - 1)));
    const across = { x: -(q.y - p.y) / chord, y: (q.x - p.x) / chord };
    const out = across.y * mid.y >= 0 ? high : -high; // away from the middle of the car
    const top = bend ?? { x: mid.x + across.x * out, y: mid.y + across.y * out };
    const control = { x: 2 * top.x - mid.x, y: 2 * top.y - mid.y };
    return Array.from({ length: 15 }, (_, k) => {
      const t = k / 14;
      const [a, c, d] = [(1 - t) ** 2, 2 * t * (1 - t), t * t];
      return to({ x: a * p.x + c * control.x + d * q.x, y: a * p.y + c * control.y + d * q.y });
    });
  }
  function branchWords(b: Branch): string {
    if (!flows.value) return `${b.wires} wires, ${own.value.length.tell(b.diameter_m)}`;
    const f = flows.value.branches.find((r) => r.key === b.key);
    if (!f?.out_a && !f?.back_a) return "no current";
    return [f.out_a ? `${amps(f.out_a)} A out` : "", f.back_a ? `${amps(f.back_a)} A back` : ""].filter(Boolean).join(", ");
  }
  const partsAt = (place: string) =>
    (flows.value?.parts ?? []).filter((p) => p.place === place).map((p) => `${p.name} ${p.volts.toFixed(1)} V`);
  function letters(width: number): Lettered[] {
    const x = scale(width);
    const [left, right, top, under] = [x(-0.05), x(longest.value), y(0.85), y(-0.85)];
    const edges: [number, number, number, number][] = [
      [left, top, left, under],
      [right, top, right, under],
      [left, top, right, top],
      [left, under, right, under],
      ...ZONES.filter((z) => z.from > 0).map((z): [number, number, number, number] => [x(z.from), 34, x(z.from), height - 40]),
    ];
    const taken: Box[] = edges.flatMap(([a, b, c, d]) => along([[a, b], [c, d]], 2)); // prettier-ignore
    for (const b of props.wiring.branches) taken.push(...along(points(b, width), thick(b) + 4));
    for (const n of props.wiring.nodes) taken.push({ x: x(at(n.key).x) - 10, y: y(at(n.key).y) - 10, w: 20, h: 20 });
    const names: Wanted[] = props.wiring.nodes.map((n) => ({
      key: `n:${n.key}`,
      x: x(at(n.key).x),
      y: y(at(n.key).y),
      off: 9,
      lines: width < 480 ? [n.name] : [n.name, ...partsAt(n.key)], // on a telephone they stand below the drawing
      size: LETTERS.name,
    }));
    const branches: Wanted[] = props.wiring.branches
      .filter((b) => b.wires && width >= 480)
      .map((b) => {
        const pts = points(b, width);
        const [mx, my] = pts[Math.floor(pts.length / 2)]!;
        return { key: `b:${b.key}`, x: mx, y: my, off: thick(b) / 2 + 3, lines: [branchWords(b)], size: LETTERS.more };
      });
    const where = placed([...names, ...branches], taken, { x: 2, y: 4, w: width - 4, h: height - 30 });
    return [...names, ...branches].map((l) => ({ key: l.key, lines: l.lines, bold: l.key.startsWith("n:"), ...where.get(l.key)! }));
  }
  return {
    held,
    longest,
    x: (width) => (m) => scale(width)(m),
    y: (m) => y(m),
    metres: (width, px, py) => ({ x: scale(width).invert(px), y: y.invert(py) }),
    at,
    bendOf,
    middle,
    points,
    thick,
    branchWords,
    letters,
  };
}
