// What the tune's own benches ask, fetched with them.
import { client, path, told } from "@/api/client";
import type { components } from "@/api/schema";

type S = components["schemas"];
export const tuneApi = {
  trail: (id: string, revision: number) =>
    told<S["Trail"]>(client.GET("/api/builds/{build_id}/tune/trail", { params: { path: path(id), query: { revision } } })),
  compare: (id: string, query: { before: string; after: string; revision: number }) =>
    told<S["Compared"]>(client.GET("/api/builds/{build_id}/tune/compare", { params: { path: path(id), query } })),
  proposal: (id: string, revision: number, source: "quick" | "worked" | "found") =>
    told<S["Proposal"]>(
      client.GET("/api/builds/{build_id}/tune/proposal/{source}", { params: { path: { build_id: id, source }, query: { revision } } }),
    ),
  walk: (id: string, revision: number) =>
    told<S["Walk"]>(client.GET("/api/builds/{build_id}/tune/walk", { params: { path: path(id), query: { revision } } })).then(
      (r) => r.steps,
    ),
  readTables: (id: string, text: string, choices: Record<number, string>) =>
    told<S["ReadTables"]>(
      client.POST("/api/builds/{build_id}/tune/read", { params: { path: path(id) }, body: { text, choices: choices as never } }),
    ),
};
