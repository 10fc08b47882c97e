// The build that is open: its document, its plan, the last ripple, and the changes that wait to be stored.
import { useStorage } from "@vueuse/core";
import { defineStore } from "pinia";
import { computed, ref, shallowRef } from "vue";
import { api, ApiError } from "@/api/client";
import type { Build, Changed, FieldInfo, Finding, Operation, Plan, Ripple, State } from "@/api/types";
import type { components } from "@/api/schema";
import { clash, escape, generic, get, parent, within } from "./pointer";
import { useSettings } from "./settings";

interface Waiting {
  id: string;
  build: string;
  patch: Operation[];
  reason: string;
}
export interface Clash {
  waiting: Waiting;
  theirs: { who: string; summary: string }[];
}

/** An id of our own for a change. crypto.randomUUID is there only on a secure origin; a phone on the local network is not one. */
function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
}

export const useBuild = defineStore("build", () => {
  const settings = useSettings();
  const id = ref("");
  const revision = ref(0);
  const head = ref(0);
  const canUndo = ref(false);
  const canRedo = ref(false);
  const build = shallowRef<Build | null>(null);
  const plan = shallowRef<Plan | null>(null);
  const ripple = shallowRef<Ripple | null>(null);
  const summary = ref("");
  const fields = ref<Record<string, FieldInfo>>({});
  /** Why the build cannot be shown, if it cannot. */
  const trouble = ref("");
  /** The server or its store is away; what was typed waits here and in this browser's storage. */
  const away = ref(false);
  const saving = ref(false);
  const problems = ref<Record<string, string>>({});
  const clashing = ref<Clash | null>(null);
  const waiting = useStorage<Waiting[]>("uphill-spark.waiting", []);
  const mine = computed(() => waiting.value.filter((w) => w.build === id.value));
  const readOnly = computed(() => revision.value !== head.value);
  let timer: ReturnType<typeof setTimeout> | undefined;

  function take(state: State): void {
    id.value = state.id;
    revision.value = state.revision;
    head.value = state.head;
    canUndo.value = state.can_undo;
    canRedo.value = state.can_redo;
    build.value = state.build;
    plan.value = state.plan;
  }

  async function load(buildId: string, number?: number): Promise<void> {
    if (id.value !== buildId) {
      build.value = plan.value = ripple.value = null;
      problems.value = {};
    }
    id.value = buildId;
    trouble.value = "";
    try {
      if (!Object.keys(fields.value).length) fields.value = await api.fields();
      take(number ? await api.loadRevision(buildId, number) : await api.load(buildId));
      away.value = false;
      if (!number) void flush();
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      if (error.away) {
        away.value = true;
        clearTimeout(timer);
        timer = setTimeout(() => void load(buildId, number), 2000);
      } else trouble.value = error.message;
    }
  }

  /** Change values. The change is kept until the server has stored it. */
  function edit(patch: Operation[], reason = ""): Promise<void> {
    for (const op of patch) delete problems.value[op.path];
    waiting.value.push({ id: newId(), build: id.value, patch, reason: reason || settings.reason.trim() });
    return flush();
  }

  /** Set one value, or take it out with undefined. */
  function set(pointer: string, value: unknown): Promise<void> {
    if (value === undefined) return at(pointer) !== undefined ? edit([{ op: "remove", path: pointer }]) : Promise.resolve();
    const inList = Array.isArray(get(build.value, parent(pointer)));
    return edit([{ op: inList ? "replace" : "add", path: pointer, value }]);
  }

  /** The value at a pointer: what waits to be stored, itself or in a part that waits, else what is in the build. */
  function at(pointer: string): unknown {
    for (const w of [...mine.value].reverse()) {
      const op = [...w.patch].reverse().find((o) => within(pointer, o.path));
      if (op) return op.op === "remove" ? undefined : get(op.value, pointer.slice(op.path.length));
    }
    return get(build.value, pointer);
  }

  /**
   * The patch as it is sent: parts of the document that have to be there before a value can be put in them come first.
   * Worked out when it is sent, not when it was typed: a change that waited may have made them meanwhile.
   */
  function complete(patch: Operation[]): Operation[] {
    const made: string[] = [];
    return patch.flatMap((op) => {
      const tokens = op.path.split("/");
      const parents: Operation[] = [];
      for (let i = 2; op.op === "add" && i < tokens.length; i++) {
        const above = tokens.slice(0, i).join("/");
        if (get(build.value, above) != null || made.includes(above)) continue;
        made.push(above);
        parents.push({ op: "add", path: above, value: tokens[i] === "-" ? [] : {} });
      }
      return [...parents, op];
    });
  }

  async function flush(): Promise<void> {
    if (saving.value || clashing.value) return;
    saving.value = true;
    clearTimeout(timer);
    try {
      while (mine.value.length) {
        const next = mine.value[0]!;
        try {
          settle(next, await api.edit(id.value, revision.value, complete(next.patch), settings.who, next.id, next.reason));
        } catch (error) {
          if (!(error instanceof ApiError)) throw error;
          if (error.away) {
            away.value = true;
            timer = setTimeout(() => void flush(), 2000);
            return;
          }
          if (error.body.code === "stale") {
            const clashes = clash(next.patch, between(error));
            take(await api.load(id.value));
            if (clashes) {
              clashing.value = { waiting: next, theirs: (error.body.between ?? []).map((b) => ({ who: b.who, summary: b.summary })) };
              return;
            }
            continue; // nothing touched what we changed: the same change on the new revision
          }
          drop(next);
          refuse(next, error);
        }
      }
    } finally {
      saving.value = false;
    }
  }

  const between = (error: ApiError) => (error.body.between ?? []).flatMap((b) => b.patch as unknown as { path: string }[]);

  function settle(done: Waiting, changed: Changed): void {
    drop(done);
    takeChange(changed);
  }

  function takeChange(changed: Changed): void {
    away.value = false;
    take(changed);
    ripple.value = changed.ripple;
    summary.value = changed.summary;
  }

  function drop(done: Waiting): void {
    waiting.value = waiting.value.filter((w) => w.id !== done.id);
  }

  /** A change that the server will not take: say so at the field that was changed. */
  function refuse(change: Waiting, error: ApiError): void {
    const path = change.patch[change.patch.length - 1]!.path;
    const told = error.body.problems ?? [];
    const here = told.find((p) => within(p.at, path) || within(path, p.at)) ?? told[0];
    const words = here ? here.wants.charAt(0).toUpperCase() + here.wants.slice(1) : error.message;
    problems.value[path] = `${words}.`.replace("..", ".");
  }

  /** Settle a clash: keep what was typed here, or take what came from elsewhere. */
  function resolve(keep: boolean): Promise<void> {
    if (clashing.value && !keep) drop(clashing.value.waiting);
    clashing.value = null;
    return flush();
  }

  async function step(kind: "undo" | "redo"): Promise<void> {
    if (saving.value || readOnly.value) return;
    saving.value = true;
    try {
      takeChange(await api.step(id.value, kind, revision.value, settings.who));
      problems.value = {};
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      if (error.away) away.value = true;
      else if (error.body.code === "stale") take(await api.load(id.value));
    } finally {
      saving.value = false;
    }
  }

  const info = (pointer: string): FieldInfo | undefined => fields.value[generic(pointer, fields.value)];
  /** The assumed mark that covers a field: its own, or that of a part it is in. */
  /** The marks of the document. Its keys are pointers, which the generated type cannot say. */
  const marks = computed(() => (build.value?.marks ?? {}) as Record<string, components["schemas"]["Mark"]>);
  const pencil = (pointer: string): string | null => {
    return Object.keys(marks.value).find((m) => marks.value[m]!.kind === "assumed" && within(pointer, m)) ?? null;
  };
  /** Who measured a value, when and how, if that was written down. */
  const story = (pointer: string): string => {
    const mark = marks.value[pointer];
    if (mark?.kind !== "measured") return "";
    const by = [mark.by && `by ${mark.by}`, mark.when].filter(Boolean).join(", ");
    return `Measured ${by}${mark.how ? `: ${mark.how}` : ""}`.trim();
  };
  const accept = (pointer: string) => edit([{ op: "remove", path: `/marks/${escape(pointer)}` }]);
  const findings = (stage: string): Finding[] => (plan.value?.findings ?? []).filter((f) => f.stage === stage);

  return {
    id, revision, head, canUndo, canRedo, build, plan, ripple, summary, fields, trouble, away, saving, problems, clashing, mine, readOnly,
    load, at, edit, set, flush, resolve, undo: () => step("undo"), redo: () => step("redo"), info, pencil, marks, story, accept, findings,
  }; // prettier-ignore
});
