// Names for the types that come from the server's own description; regenerate with ./spark generate.
import type { components } from "./schema";

type S = components["schemas"];
export type Build = S["Build"];
export type Plan = S["Plan"];
export type Figure = S["Figure"];
export type Finding = S["Finding"];
export type Station = S["Station"];
export type StationKey = Station["key"];
export type Severity = Finding["severity"];
export type Stages = S["Stages"];
export type State = S["State"];
export type Changed = S["Changed"];
export type Ripple = S["Ripple"];
export type FieldInfo = S["FieldInfo"];
export type GarageRow = S["GarageRow"];
export type Journal = S["Journal"];
export type ErrorBody = S["ErrorBody"];
export type WireRow = S["WireRow"];
export type Table = S["Table"];
export type FuelDepth = S["FuelDepth"];
export type TriggerDepth = S["TriggerDepth"];
export type Questions = S["Questions"];
export type Fitness = S["Fitness"];
export type Choice = S["Choice"];
export type SheetStep = S["SheetStep"];
export type PathPart = S["Run"] | S["Filter"] | S["CheckValve"] | S["Damper"];
export type Operation = { op: "add" | "remove" | "replace"; path: string; value?: unknown };
