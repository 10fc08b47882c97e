// What only this station asks the server: the work as of a day, calendars, lists of parts, private addresses, archives.
import { client, path, told } from "@/api/client";
import type { components } from "@/api/schema";

export type S = components["schemas"];
export type Work = S["WorkResult"];
export type Task = S["TaskRow"];
export type PartRow = S["PartRow"];
export type Seen = S["WorkSeen"];
export type Plan = S["Schedule"];
export type Entry = S["DiaryEntry"];
export type Diary = S["Diary"];

const file = (body: File) =>
  ({ body: body as never, bodySerializer: (b: unknown) => b as File, headers: { "Content-Type": "application/octet-stream" } }) as never;
export const asks = {
  seen: (id: string, on: string, revision: number) =>
    told<Seen>(client.GET("/api/builds/{build_id}/work", { params: { path: path(id), query: { on, revision } } })),
  calendar: (id: string, person: string, zone: string, body: File) =>
    told<S["CalendarRead"]>(
      client.POST("/api/builds/{build_id}/work/calendar", {
        params: { path: path(id), query: { person, zone } },
        ...(file(body) as object),
      } as never),
    ),
  parts: (id: string, body: File) =>
    told<S["PartsRead"]>(
      client.POST("/api/builds/{build_id}/work/parts", { params: { path: path(id), query: {} }, ...(file(body) as object) } as never),
    ),
  feeds: (id: string) => told<S["FeedList"]>(client.GET("/api/builds/{build_id}/work/feeds", { params: { path: path(id) } })),
  openFeed: (id: string, person: string) =>
    told<S["FeedMade"]>(client.POST("/api/builds/{build_id}/work/feeds", { params: { path: path(id) }, body: { person } })),
  closeFeed: (id: string, person: string) =>
    told<S["FeedList"]>(client.DELETE("/api/builds/{build_id}/work/feeds", { params: { path: path(id), query: { person } } })),
  diary: (id: string, query: { search?: string; before?: string; limit?: number }) =>
    told<Diary>(client.GET("/api/builds/{build_id}/diary", { params: { path: path(id), query } })),
  write: (id: string, body: S["NewEntry"]) =>
    told<Entry>(client.POST("/api/builds/{build_id}/diary", { params: { path: path(id) }, body })),
  rewrite: (id: string, entry_id: string, body: S["EntryAgain"]) =>
    told<Entry>(client.PUT("/api/builds/{build_id}/diary/{entry_id}", { params: { path: { build_id: id, entry_id } }, body })),
  at: (id: string, name: string) => `/api/builds/${id}/work/${name}`,
  archive: (id: string) => `/api/builds/${id}/archive.zip`,
};
