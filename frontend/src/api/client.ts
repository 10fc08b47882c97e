// The one place that talks to the server. Every failure becomes an ApiError with the server's own words.
import createClient from "openapi-fetch";
import type { components, paths } from "./schema";
import type {
  Asked,
  Changed,
  ErrorBody,
  FieldsOf,
  Journal,
  KeyState,
  MeterQuestion,
  Operation,
  StageName,
  Stages,
  State,
  Subject,
} from "./types";

type S = components["schemas"];

export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly body: ErrorBody,
  ) {
    super(body.message);
  }
  /** The server or its store is away: worth trying again with the same words. */
  get away(): boolean {
    return this.status === 0 || this.status === 502 || this.status === 503 || this.status === 504;
  }
}

const nobody: ErrorBody = {
  code: "no_answer",
  message: "The server does not answer.",
  problems: [],
  between: [],
  head: null,
  whole: true,
  heading: [],
  wanted: [],
};
export const client = createClient<paths>({ baseUrl: location.origin });

type Answered = Promise<{ data?: unknown; error?: unknown; response: Response }>;
/** What an answer holds, by its name in the description; an ApiError where it is none. */
export async function told<T>(asked: Answered): Promise<T> {
  let found: Awaited<Answered>;
  try {
    found = await asked;
  } catch {
    throw new ApiError(0, nobody);
  }
  const { response, data, error } = found;
  if (response.ok) return data as T;
  const body = { ...nobody, ...(typeof error === "object" ? (error as ErrorBody) : {}) };
  if (response.status === 401)
    location.assign(body.code === "not_paired" ? "/pair" : `/door?to=${encodeURIComponent(location.pathname + location.search)}`);
  throw new ApiError(response.status, body);
}

export const path = (build_id: string) => ({ build_id });
const operations = (patch: Operation[]) => patch as never; // an operation without a value has none: the description cannot say so

export const api = {
  figures: () => told<S["FigureSources"]>(client.GET("/api/figures")),
  catalogue: () => told<S["Catalogue"]>(client.GET("/api/catalogue")),
  words: () => told<S["Glossary"]>(client.GET("/api/words")),
  /** Fields of some stations; of all for none. */
  fields: (stations: FieldsOf[]) =>
    told<S["Fields"]>(client.GET("/api/fields", { params: { query: { stations: stations.join(",") } } })).then((r) => r.fields),
  read: (dimension: string, unit: string, texts: string[]) =>
    told<S["ReadAnswer"]>(client.POST("/api/read", { body: { dimension, unit, texts } })).then((r) => r.read),
  garage: (query: { search?: string; after?: number; limit?: number; away?: boolean }) =>
    told<S["Garage"]>(client.GET("/api/builds", { params: { query } })),
  questions: () => told<S["OpeningQuestions"]>(client.GET("/api/builds/questions")),
  /** A new build, a file, the demo cars: with an id, so that what is sent twice counts once. */
  demo: (who: string, edit_id: string) => told<S["Garage"]>(client.POST("/api/builds/demo", { body: { who, edit_id } })),
  create: (answers: Record<string, unknown>, who: string, edit_id: string) =>
    told<State>(client.POST("/api/builds", { body: { answers, who, edit_id } as never })),
  upload: (text: string, who: string, edit_id: string) =>
    told<State>(
      client.POST("/api/builds/import", {
        params: { query: { who, edit_id } },
        body: text as never,
        bodySerializer: (body: unknown) => body as string,
        headers: { "Content-Type": "application/json" },
      } as never),
    ),
  load: (id: string, shown: StageName[], revision?: number) =>
    told<State>(
      client.GET("/api/builds/{build_id}", { params: { path: path(id), query: { revision, shown: shown.join(","), light: true } } }),
    ),
  stages: (id: string, revision: number, shown: StageName[]) =>
    told<S["StagesShown"]>(
      client.GET("/api/builds/{build_id}/stages", { params: { path: path(id), query: { revision, shown: shown.join(",") } } }),
    ),
  journal: (id: string, below?: number) =>
    told<Journal>(client.GET("/api/builds/{build_id}/revisions", { params: { path: path(id), query: { below } } })),
  edit: (id: string, base: number, patch: Operation[], who: string, edit_id: string, reason: string, shown: StageName[]) =>
    told<Changed>(
      client.PATCH("/api/builds/{build_id}", {
        params: { path: path(id) },
        body: { base, patch: operations(patch), who, reason, edit_id, shown },
      }),
    ),
  step: (id: string, kind: "undo" | "redo", base: number, who: string, edit_id: string, shown: StageName[]) =>
    told<Changed>(client.POST(`/api/builds/{build_id}/${kind}`, { params: { path: path(id) }, body: { base, who, edit_id, shown } })),
  /** What takes a while: asked again as long as it runs, `tell` hears how far it is (null while it waits its turn). Null where the build has nothing of the kind. */
  async asked<K extends Subject>(
    id: string,
    revision: number,
    subject: K,
    tell: (progress: number | null) => void = () => undefined,
  ): Promise<Asked[K] | null> {
    for (;;) {
      const params = { path: { build_id: id, subject }, query: { revision } };
      const found = await told<S["AskedAnswer"]>(client.GET("/api/builds/{build_id}/asked/{subject}", { params }));
      if (found.state === "failed") throw new ApiError(422, { ...nobody, code: "not_worked_out", message: found.why ?? "" });
      if (found.state === "cancelled") throw new ApiError(422, { ...nobody, code: "cancelled", message: "" });
      if (found.state === "ready") return (found.answer ?? null) as Asked[K] | null;
      tell(found.progress ?? null);
      await new Promise((after) => setTimeout(after, 300));
    }
  },
  fuelTrial: (id: string, base: number, patch: Operation[]) =>
    told<Stages["fuel"]>(
      client.POST("/api/builds/{build_id}/fuel/trial", { params: { path: path(id) }, body: { base, patch: operations(patch) } }),
    ),
  /** Where a lead can be put, what a meter shows there, and what would explain what it showed. */
  terminals: (id: string, query: Pick<MeterQuestion, "revision" | "state" | "plugged">) =>
    told<S["Terminals"]>(client.GET("/api/builds/{build_id}/harness/terminals", { params: { path: path(id), query } })),
  circuits: (id: string, query: { revision: number; state: KeyState; key: string }) =>
    told<S["Circuits"]>(client.GET("/api/builds/{build_id}/harness/circuits", { params: { path: path(id), query } })),
  /** What flows where in a position of the key; a wire followed end to end; the plugs by their faces. */
  flows: (id: string, query: { revision: number; state: KeyState }) =>
    told<S["Flows"]>(client.GET("/api/builds/{build_id}/harness/flows", { params: { path: path(id), query } })),
  trace: (id: string, query: { revision: number; state: KeyState; wire: string }) =>
    told<S["Traced"]>(client.GET("/api/builds/{build_id}/harness/trace", { params: { path: path(id), query } })),
  faces: (id: string, query: { revision: number; state: KeyState }) =>
    told<S["Faces"]>(client.GET("/api/builds/{build_id}/harness/faces", { params: { path: path(id), query } })).then((r) => r.faces),
  meter: (id: string, query: MeterQuestion) =>
    told<S["Reading"]>(client.GET("/api/builds/{build_id}/harness/meter", { params: { path: path(id), query } })),
  explain: (id: string, revision: number, readings: S["ReadingTyped"][]) =>
    told<S["Explained"]>(
      client.POST("/api/builds/{build_id}/harness/explain", { params: { path: path(id) }, body: { revision, readings } as never }),
    ),
  table: (kind: string, text: string, columns?: Record<string, number>, points?: "decimal" | "thousands") =>
    told<S["TableRows"]>(
      client.POST("/api/tables/{kind}", { params: { path: { kind } }, body: { text, columns: columns ?? null, points: points ?? null } }),
    ).then((r) => r.rows),
  putAway: (id: string) => told<void>(client.DELETE("/api/builds/{build_id}", { params: { path: path(id) } })),
  bringBack: (id: string) => told<void>(client.POST("/api/builds/{build_id}/back", { params: { path: path(id) }, body: {} as never })),
  removeForGood: (id: string) => told<void>(client.DELETE("/api/builds/{build_id}/for-good", { params: { path: path(id) } })),
  keepPhoto: (file: File) =>
    told<S["PhotoKept"]>(
      client.POST("/api/photos", {
        body: file as never,
        bodySerializer: (body: unknown) => body as File,
        headers: { "Content-Type": file.type || "application/octet-stream" },
      } as never),
    ).then((r) => r.key),
  devices: () => told<S["Devices"]>(client.GET("/api/devices")),
  offerPairing: () => told<S["Offered"]>(client.POST("/api/devices", { body: {} as never })),
  forgetDevice: (device: string) => told<void>(client.DELETE("/api/devices/{device}", { params: { path: { device } } })),
  photo: (key: string, small = false) => `/api/photos/${key}${small ? "/small" : ""}`,
  paper: (id: string, name: string) => `/api/builds/${id}/papers/${name}`,
  file: (id: string) => `/api/builds/${id}/file`,
};
