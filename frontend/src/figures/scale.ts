// A scale of a drawing, as d3-scale makes it: what the parts of a drawing need to know of it.
import type { ScaleContinuousNumeric } from "d3-scale";

export type Scale = ScaleContinuousNumeric<number, number>;
