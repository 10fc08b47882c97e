// The one place that talks to the server. Every failure becomes an ApiError with the server's own words.
import type {
  Changed,
  ErrorBody,
  FieldInfo,
  FuelDepth,
  GarageRow,
  Journal,
  Operation,
  Questions,
  Stages,
  State,
  StationKey,
  TriggerDepth,
} from "./types";

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

const nobody: ErrorBody = { code: "no_answer", message: "The server does not answer.", problems: [], between: [], head: null };

async function call<T>(method: string, path: string, body?: unknown): Promise<T> {
  let response: Response;
  const file = body instanceof File;
  const type = file ? body.type || "application/octet-stream" : "application/json";
  try {
    response = await fetch(path, {
      method,
      headers: body === undefined ? {} : { "Content-Type": type },
      body: body === undefined ? undefined : file || typeof body === "string" ? body : JSON.stringify(body),
    });
  } catch {
    throw new ApiError(0, nobody);
  }
  if (response.status === 204) return undefined as T;
  let answer: unknown;
  try {
    answer = await response.json();
  } catch {
    throw new ApiError(response.ok ? 0 : response.status, nobody);
  }
  if (!response.ok) throw new ApiError(response.status, { ...nobody, ...(answer as ErrorBody) });
  return answer as T;
}

const at = (id: string) => `/api/builds/${id}`;

export const api = {
  fields: () => call<{ fields: Record<string, FieldInfo> }>("GET", "/api/fields").then((r) => r.fields),
  garage: () => call<{ builds: GarageRow[] }>("GET", "/api/builds").then((r) => r.builds),
  demo: (who: string) => call<{ builds: GarageRow[] }>("POST", "/api/builds/demo", { who }).then((r) => r.builds),
  create: (answers: Record<string, unknown>, who: string) => call<State>("POST", "/api/builds", { answers, who }),
  upload: (text: string, who: string) => call<State>("POST", `/api/builds/import?who=${encodeURIComponent(who)}`, text),
  load: (id: string) => call<State>("GET", at(id)),
  loadRevision: (id: string, n: number) => call<State>("GET", `${at(id)}/revisions/${n}`),
  journal: (id: string, below?: number) => call<Journal>("GET", `${at(id)}/revisions${below ? `?below=${below}` : ""}`),
  edit: (id: string, base: number, patch: Operation[], who: string, editId: string, reason = "") =>
    call<Changed>("PATCH", at(id), { base, patch, who, reason, edit_id: editId }),
  step: (id: string, kind: "undo" | "redo", base: number, who: string) => call<Changed>("POST", `${at(id)}/${kind}`, { base, who }),
  questions: (id: string, revision: number, station: StationKey) =>
    call<Questions>("GET", `${at(id)}/questions/${station}?revision=${revision}`),
  triggerDepth: (id: string, revision: number) => call<TriggerDepth>("GET", `${at(id)}/trigger?revision=${revision}`),
  fuelDepth: (id: string, revision: number) => call<FuelDepth>("GET", `${at(id)}/fuel?revision=${revision}`),
  fuelTrial: (id: string, base: number, patch: Operation[]) => call<Stages["fuel"]>("POST", `${at(id)}/fuel/trial`, { base, patch }),
  table: (kind: string, text: string) =>
    call<{ rows: Record<string, unknown>[] }>("POST", `/api/tables/${kind}`, { text }).then((r) => r.rows),
  putAway: (id: string) => call<void>("DELETE", at(id)),
  keepPhoto: (file: File) => call<{ key: string }>("POST", "/api/photos", file).then((r) => r.key),
  photo: (key: string, small = false) => `/api/photos/${key}${small ? "/small" : ""}`,
  paper: (id: string, name: string) => `${at(id)}/papers/${name}`,
  file: (id: string) => `${at(id)}/file`,
};
