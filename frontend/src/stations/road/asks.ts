// What only this station asks the server: logs, what each says, what of it is put right.
import { client, path, told } from "@/api/client";
import type { components } from "@/api/schema";

export type S = components["schemas"];
export type LogLine = S["LogLine"];
export type LogTold = S["LogTold"];
export type LogSaid = S["LogSaid"];
export type LogAnswer = S["LogAnswer"];
export type CauseTold = S["CauseTold"];
export type Deeds = S["Deeds"];
export type DeedsAsked = S["DeedsAsked"];
export type Proposed = S["Proposed"];
export type RoadLine = S["RoadLine"];
export type Strip = S["Strip"];
export type Sieve = S["Sieve"];

const log = (build_id: string, log_id: string) => ({ path: { build_id, log_id } });
export const roadApi = {
  logs: (id: string) => told<S["LogList"]>(client.GET("/api/builds/{build_id}/logs", { params: { path: path(id) } })),
  send: (id: string, file: File, query: { id: string; name: string; day: string; who: string }) =>
    told<LogTold>(
      client.POST("/api/builds/{build_id}/logs", {
        params: { path: path(id), query },
        body: file as never,
        bodySerializer: (b: unknown) => b as File,
        headers: { "Content-Type": "application/octet-stream" },
      } as never),
    ),
  drive: (id: string, body: S["DriveAsked"]) =>
    told<LogTold>(client.POST("/api/builds/{build_id}/logs/drive", { params: { path: path(id) }, body })),
  record: (id: string, body: S["RecordAsked"]) =>
    told<S["Recording"]>(client.POST("/api/builds/{build_id}/logs/record", { params: { path: path(id) }, body })),
  one: (id: string, log_id: string) => told<LogTold>(client.GET("/api/builds/{build_id}/logs/{log_id}", { params: log(id, log_id) })),
  rewrite: (id: string, log_id: string, body: S["LogChange"]) =>
    told<LogTold>(client.PATCH("/api/builds/{build_id}/logs/{log_id}", { params: log(id, log_id), body })),
  take: (id: string, log_id: string, taken: S["ColumnTaken"][]) =>
    told<LogTold>(client.PUT("/api/builds/{build_id}/logs/{log_id}/columns", { params: log(id, log_id), body: { taken } })),
  away: (id: string, log_id: string) =>
    told<S["LogList"]>(client.DELETE("/api/builds/{build_id}/logs/{log_id}", { params: log(id, log_id) })),
  said: (id: string, log_id: string) =>
    told<LogAnswer>(client.GET("/api/builds/{build_id}/logs/{log_id}/said", { params: log(id, log_id) })),
  deeds: (id: string, log_id: string, body: DeedsAsked) =>
    told<Deeds>(client.POST("/api/builds/{build_id}/logs/{log_id}/deeds", { params: log(id, log_id), body })),
  strip: (id: string, log_id: string, query: { columns: string; begin?: number; end?: number; points?: number }) =>
    told<Strip>(client.GET("/api/builds/{build_id}/logs/{log_id}/strip", { params: { ...log(id, log_id), query } })),
  file: (id: string, log_id: string, kind: string) => `/api/builds/${id}/logs/${log_id}/file?kind=${kind}`,
  paper: (id: string, log_id: string, name: string) => `/api/builds/${id}/logs/${log_id}/${name}`,
};
