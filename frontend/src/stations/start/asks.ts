// What the benches of the first start ask, fetched with them.
import { client, path, told } from "@/api/client";
import type { components } from "@/api/schema";

type S = components["schemas"];
export type Look = S["LookRow"];
export type Diagnosed = S["DiagnosisAnswer"];
export type Practised = S["PracticeAnswer"];
export type LiveTold = S["LiveTold"];
export type BusTold = S["BusAnswer"];
export type Move = { kind: S["MoveRequest"]["kind"]; key: string };
export type Key = S["HandRequest"]["key"];

const one = (build_id: string, practice_id: string) => ({ build_id, practice_id });
export const startApi = {
  diagnosis: (id: string, seen: { look: string; shown: string | null }[], steps: boolean) =>
    told<Diagnosed>(client.POST("/api/builds/{build_id}/diagnosis", { params: { path: path(id) }, body: { seen, steps } as never })),
  practices: (id: string, who: string) =>
    told<S["PracticeList"]>(client.GET("/api/builds/{build_id}/practice", { params: { path: path(id), query: { who } } })),
  begin: (id: string, who: string, level: number | null, seed: number | null) =>
    told<Practised>(client.POST("/api/builds/{build_id}/practice", { params: { path: path(id) }, body: { who, level, seed } as never })),
  practice: (id: string, practice: string) =>
    told<Practised>(client.GET("/api/builds/{build_id}/practice/{practice_id}", { params: { path: one(id, practice) } })),
  move: (id: string, practice: string, move: Move, known: number) =>
    told<Practised>(
      client.POST("/api/builds/{build_id}/practice/{practice_id}/move", { params: { path: one(id, practice) }, body: { ...move, known } }),
    ),
  stream: (id: string, step: number) => `/api/builds/${id}/live/stream?step=${step}`,
  standIn: (id: string, body: { practice?: string; fault?: string; warm?: boolean }) =>
    told<S["Begun"]>(client.POST("/api/builds/{build_id}/live", { params: { path: path(id) }, body: body as never })),
  endStandIn: (id: string) => told<S["Begun"]>(client.DELETE("/api/builds/{build_id}/live", { params: { path: path(id) } })),
  hand: (id: string, key: Key, pedal: number, injectors_off: boolean) =>
    told<S["Begun"]>(client.POST("/api/builds/{build_id}/live/hand", { params: { path: path(id) }, body: { key, pedal, injectors_off } })),
  bus: (id: string) => told<BusTold>(client.GET("/api/builds/{build_id}/live/bus", { params: { path: path(id) } })),
  tellBus: (id: string, body: S["BusRequest"]) =>
    told<BusTold>(client.PUT("/api/builds/{build_id}/live/bus", { params: { path: path(id) }, body })),
  forgetBus: (id: string) => told<BusTold>(client.DELETE("/api/builds/{build_id}/live/bus", { params: { path: path(id) } })),
};
