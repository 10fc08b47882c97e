// Places on a car, seen from above, nose to the left: where each lies on the drawing, in a field of 300 by 150.
export const PLACES = [
  { key: "front", label: "front", word: "front of the engine", x: 34, y: 75, w: 34, h: 62 },
  { key: "top", label: "top", word: "top of the engine", x: 82, y: 75, w: 50, h: 34 },
  { key: "left", label: "left", word: "left of the engine", x: 82, y: 115, w: 50, h: 26 },
  { key: "right", label: "right", word: "right of the engine", x: 82, y: 35, w: 50, h: 26 },
  { key: "rear", label: "rear", word: "rear of the engine", x: 122, y: 75, w: 18, h: 62 },
  { key: "bulkhead", label: "bulkhead", word: "bulkhead", x: 143, y: 75, w: 14, h: 104 },
  { key: "cabin", label: "cabin", word: "cabin", x: 184, y: 75, w: 58, h: 96 },
  { key: "tank", label: "tank", word: "tank", x: 249, y: 52, w: 46, h: 44 },
  { key: "underneath", label: "under", word: "underneath", x: 249, y: 102, w: 46, h: 40 },
  { key: "not_noted", label: "", word: "no place noted", x: 0, y: 0, w: 0, h: 0 },
] as const;
export type Place = (typeof PLACES)[number]["key"];
