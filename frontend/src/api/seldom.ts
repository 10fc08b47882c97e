// What is seldom asked, fetched when it is: work given up or begun again, a tune made or brought back.
import { client, path, told } from "./client";
import type { components } from "./schema";
import type { Changed, StageName, Subject } from "./types";
import type { TuneAct } from "@/stores/queue";

type S = components["schemas"];
export const seldomApi = {
  /** What is worked out beside the server given up, or begun again. */
  giveUp: (id: string, revision: number, subject: Subject) =>
    told<S["AskedAnswer"]>(
      client.DELETE("/api/builds/{build_id}/asked/{subject}", { params: { path: { build_id: id, subject }, query: { revision } } }),
    ),
  askAgain: (id: string, revision: number, subject: Subject) =>
    told<S["AskedAnswer"]>(
      client.POST("/api/builds/{build_id}/asked/{subject}", {
        params: { path: { build_id: id, subject }, query: { revision } },
        body: {} as never,
      }),
    ),
};

/** All of a build out of an archive. */
export const putBack = (file: File) =>
  told<S["ArchiveRead"]>(
    client.POST("/api/archives", {
      body: file as never,
      bodySerializer: (body: unknown) => body as File,
      headers: { "Content-Type": "application/octet-stream" },
    } as never),
  );

/** The kept tune: made of something, or an earlier one brought back. */
export const tuneAct = (
  id: string,
  act: TuneAct,
  with_: { base: number; who: string; edit_id: string; shown: StageName[] },
  reason: string,
) =>
  act.do === "keep"
    ? told<Changed>(
        client.POST("/api/builds/{build_id}/tune/keep", {
          params: { path: path(id) },
          body: { ...with_, reason, source: act.source, mine: act.mine },
        }),
      )
    : told<Changed>(client.POST("/api/builds/{build_id}/tune/back", { params: { path: path(id) }, body: { ...with_, to: act.to } }));
