// Names for the types that come from the server's own description; regenerate with ./spark generate.
import type { components } from "./schema";

type S = components["schemas"];
export type Build = S["Build"];
export type Figure = S["FigureSeen"];
export type Finding = S["Finding"];
export type Station = S["StationState"];
export type StationKey = Station["key"];
/** A station whose fields are wanted, or a part of one. */
export type FieldsOf = StationKey | `${StationKey}/${string}`;
export type Bench = S["BenchEntry"];
export type Severity = Finding["severity"];
/** Results of every stage, each there once a screen has asked for it. */
export type Stages = { [K in keyof S["SomeStages"]]-?: NonNullable<S["SomeStages"][K]> };
export type StageName = keyof Stages;
export type State = S["State"];
export type PlanHead = S["PlanHead"];
export type Changed = S["Changed"];
export type Ripple = S["Ripple"];
export type KeyState = S["KeyWord"]["key"];
export type Reading = S["Reading"];
export type Circuits = S["Circuits"];
export type Flows = S["Flows"];
export type Traced = S["Traced"];
export type Face = S["Face"];
export type Explained = S["Explained"];
export type Terminals = S["Terminals"];
export type ReadingTyped = S["ReadingTyped"];
/** What a meter is asked. */
export interface MeterQuestion {
  revision: number;
  red: string;
  black: string;
  state: KeyState;
  quantity: Reading["quantity"];
  plugged: boolean;
}
export type FieldInfo = S["FieldInfo"];
export type Catalogue = S["Catalogue"];
export type Size = S["Size"];
export type GarageRow = S["GarageRow"];
export type Garage = S["Garage"];
export type Journal = S["Journal"];
export type ErrorBody = S["ErrorBody"];
export type WireRow = S["WireRow"];
export type Table = S["Table"];
export type FuelDepth = S["FuelDepth"];
export type CycleDepth = S["CycleDepth"];
export type TriggerDepth = S["TriggerDepth"];
export type Questions = S["Questions"];
export type Fitness = S["Fitness"];
export type Choice = S["Choice"];
export type SheetStep = S["SheetStep"];
export type PathPart = S["Run"] | S["Filter"] | S["CheckValve"] | S["Damper"];
/** What is done to cells of a kept table. */
export interface CellsAct {
  do: S["CellsAct"]["do"];
  from?: [number, number];
  to?: [number, number];
  typed?: string;
}
export type Trail = S["Trail"];
export type Compared = S["Compared"];
export type Difference = S["Difference"];
export type CellAnswer = S["CellAnswer"];
export type Proposal = S["Proposal"];
export type ReadTables = S["ReadTables"];
export type WarmStep = S["WarmStep"];
export type Landmark = S["Landmark"];
/** An operation on the build; `typed` holds what a person typed, which the server reads; `usual` makes a field's usual value the person's own. */
export type Operation = Pick<S["Operation"], "op" | "path"> & {
  value?: unknown;
  typed?: string;
  usual?: true;
  cells?: CellsAct;
  stands?: true;
};
/** SI value and unit as written, by place. */
export type Readings = Record<string, [number, string] | [number, string, string, string]>;
/** What takes a while, by the name it is asked for under. */
export interface Asked {
  fuel: FuelDepth;
  cycle: CycleDepth;
  rehearsal: S["Rehearsal"];
  schedule: S["Levelled"];
  trigger: TriggerDepth;
  turns: S["Turns"];
  guesses: S["Guesses"];
  "ways-engine": Questions;
  "ways-fuel": Questions;
  "ways-sensors": Questions;
  "ways-wiring": Questions;
  "ways-ignition": Questions;
}
export type Subject = keyof Asked;
