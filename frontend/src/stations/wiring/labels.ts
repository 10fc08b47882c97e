// Labels of a drawing put where there is room: off its lines, off each other, inside its frame; as near to what they name as that allows.

export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}
export interface Wanted {
  key: string;
  /** What it names, and how far from that it may begin. */
  x: number;
  y: number;
  off: number;
  /** Lines of text and the size of their letters [px]. */
  lines: string[];
  size: number;
}
export interface Put {
  x: number;
  /** The first line's base. */
  y: number;
}
const LEAD = 1.18; // of the letters' size, from line to line
const WIDE = 0.54; // of the letters' size, an average letter's width
const PAD = 2;
const TURNS = 16;
const AWAY = [0, 7, 16, 28, 42];

const overlap = (a: Box, b: Box) =>
  Math.max(0, Math.min(a.x + a.w, b.x + b.w) - Math.max(a.x, b.x)) * Math.max(0, Math.min(a.y + a.h, b.y + b.h) - Math.max(a.y, b.y));

/** Points of a line as small boxes, to keep off. */
export function along(points: [number, number][], thick: number): Box[] {
  const found: Box[] = [];
  const half = Math.max(thick / 2, 1.5);
  for (let i = 1; i < points.length; i++) {
    const [[x1, y1], [x2, y2]] = [points[i - 1]!, points[i]!];
    const n = Math.max(1, Math.ceil(Math.hypot(x2 - x1, y2 - y1) / 5));
    for (let k = 0; k <= n; k++)
      found.push({ x: x1 + ((x2 - x1) * k) / n - half, y: y1 + ((y2 - y1) * k) / n - half, w: 2 * half, h: 2 * half });
  }
  return found;
}

/** Where each label goes, the first wanted first. Text is set from its middle. */
export function placed(wanted: Wanted[], taken: Box[], frame: Box): Map<string, Put> {
  const found = new Map<string, Put>();
  const there = [...taken];
  for (const label of wanted) {
    const w = Math.max(...label.lines.map((l) => l.length)) * label.size * WIDE + 2 * PAD;
    const h = label.lines.length * label.size * LEAD + 2 * PAD;
    let best: { box: Box; cost: number } | null = null;
    for (const away of AWAY) {
      for (let k = 0; k < TURNS; k++) {
        const turn = -Math.PI / 2 + (k % 2 ? 1 : -1) * Math.ceil(k / 2) * ((2 * Math.PI) / TURNS); // above first, then to both sides
        const [c, s] = [Math.cos(turn), Math.sin(turn)];
        const box = { x: label.x + c * (label.off + away + w / 2) - w / 2, y: label.y + s * (label.off + away + h / 2) - h / 2, w, h };
        const out = w * h - overlap(box, frame);
        const cost = there.reduce((sum, b) => sum + overlap(box, b), 0) * 4 + out * 20 + away * 6 + Math.abs(c) * 3;
        if (!best || cost < best.cost - 1e-9) best = { box, cost };
      }
      if (best && best.cost < away * 6 + 4) break; // nothing is in its way: farther is not better
    }
    const { box } = best!;
    there.push(box);
    found.set(label.key, { x: box.x + box.w / 2, y: box.y + PAD + label.size * 0.92 });
  }
  return found;
}
