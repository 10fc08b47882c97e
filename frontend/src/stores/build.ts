// The build that is open: its document, what the core read in it, its plan, the last ripple, and the changes that wait to be stored.
import { useSessionStorage, useStorage } from "@vueuse/core";
import { defineStore } from "pinia";
import { computed, ref, shallowRef } from "vue";
import { api, ApiError } from "@/api/client";
import type {
  Build,
  Changed,
  FieldInfo,
  Finding,
  Operation,
  PlanHead,
  Readings,
  Ripple,
  StageName,
  Stages,
  State,
  FieldsOf,
} from "@/api/types";
import type { components } from "@/api/schema";
import { withChange } from "./changes";
import { clash, escape, generic, get, parent, within } from "./pointer";
import { complete, newId, waitingAt, type TuneAct, type Waiting } from "./queue";
import { useSettings } from "./settings";

export interface Clash {
  waiting: Waiting;
  theirs: { who: string; summary: string }[];
}
const AGAIN = 2000; // ms before a store that is away is asked again

export const useBuild = defineStore("build", () => {
  const settings = useSettings();
  const id = ref("");
  const revision = ref(0);
  const head = ref(0);
  const canUndo = ref(false);
  const canRedo = ref(false);
  const build = shallowRef<Build | null>(null);
  const read = shallowRef<Readings>({});
  const planHead = shallowRef<PlanHead | null>(null);
  const stages = shallowRef<Partial<Stages>>({});
  /** The plan, with those results of stages that were asked for. */
  const plan = computed(() => planHead.value && { ...planHead.value, stages: stages.value as Stages });
  const ripple = shallowRef<Ripple | null>(null);
  const summary = ref("");
  const fields = shallowRef<Record<string, FieldInfo>>({});
  /** Stages that the screen shows, and stations whose fields were asked for. */
  let shown: StageName[] = [];
  const known = ref(new Set<string>());
  /** Why the build cannot be shown, if it cannot. */
  const trouble = ref("");
  /** The server or its store is away; what was typed waits here and in this browser's storage. */
  const away = ref(false);
  const saving = ref(false);
  const problems = ref<Record<string, string>>({});
  /** What was refused, as it was typed, of every build: it stays through a reload. */
  const refusals = useSessionStorage<Record<string, Record<string, { typed: string; told: string }>>>("uphill-spark.refused", {});
  const refused = (pointer: string): string | undefined => refusals.value[id.value]?.[pointer]?.typed;
  const clashing = ref<Clash | null>(null);
  const waiting = useStorage<Waiting[]>("uphill-spark.waiting", []);
  const mine = computed(() => waiting.value.filter((w) => w.build === id.value));
  const readOnly = computed(() => revision.value !== head.value);
  let timer: ReturnType<typeof setTimeout> | undefined;

  function stand(at: Pick<State, "id" | "revision" | "head" | "can_undo" | "can_redo">): void {
    id.value = at.id;
    revision.value = at.revision;
    head.value = at.head;
    canUndo.value = at.can_undo;
    canRedo.value = at.can_redo;
  }

  function take(state: State): void {
    stand(state);
    build.value = state.build;
    read.value = state.read as unknown as Readings;
    planHead.value = state.plan;
    stages.value = state.stages as Partial<Stages>;
  }

  async function whole(buildId = id.value, number?: number): Promise<void> {
    take(await api.load(buildId, shown, number));
  }

  /** Open a build, with the results of the stages that the screen shows. */
  async function load(buildId: string, number?: number, needs: StageName[] = shown): Promise<void> {
    shown = needs;
    if (id.value !== buildId) {
      build.value = planHead.value = ripple.value = null;
      stages.value = {};
      problems.value = Object.fromEntries(Object.entries(refusals.value[buildId] ?? {}).map(([at, one]) => [at, one.told]));
    }
    id.value = buildId;
    trouble.value = "";
    try {
      await whole(buildId, number);
      away.value = false;
      if (!number) void flush();
    } catch (error) {
      later(error, () => void load(buildId, number));
    }
  }

  /** Look whether the build has moved on elsewhere, and show it as it stands: by how many revisions it had. What waits here is stored on top. */
  async function refresh(): Promise<number> {
    if (mine.value.length || saving.value) return 0;
    const before = revision.value;
    try {
      const newest = (await api.journal(id.value)).revisions[0]?.number ?? before;
      if (newest === before) return 0;
      await whole();
      return revision.value - before;
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      return 0;
    }
  }
  /** Results and fields of every screen, fetched while nobody waits. */
  async function fetchAhead(names: StageName[]): Promise<void> {
    try {
      await needStages([...new Set(names)]);
      await needFields(null);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
    }
  }

  /** A store that is away is asked again; any other refusal is told. */
  function later(error: unknown, again: () => void): void {
    if (!(error instanceof ApiError)) throw error;
    if (error.away) {
      away.value = true;
      clearTimeout(timer);
      timer = setTimeout(again, AGAIN);
    } else trouble.value = error.message;
  }

  /** What a screen shows: results of these stages, fields of these stations (all for null). What is not here yet is asked for. */
  async function show(names: StageName[], stations: FieldsOf[] | null): Promise<void> {
    shown = names;
    try {
      await Promise.all([needStages(names), needFields(stations)]);
    } catch (error) {
      later(error, () => void show(names, stations));
    }
  }
  /** Fields that were asked for and are on their way. */
  const coming = new Map<FieldsOf | "all", Promise<void>>();
  const knows = (part: FieldsOf | "all") => known.value.has("all") || known.value.has(part) || known.value.has(part.split("/")[0]!);
  /** Whether all that a screen shows is here. */
  const ready = (names: StageName[], stations: FieldsOf[]) => stations.every(knows) && names.every((n) => n in stages.value);
  async function needStages(names: StageName[]): Promise<void> {
    const missing = names.filter((n) => !(n in stages.value));
    if (!missing.length || !planHead.value) return;
    const found = await api.stages(id.value, revision.value, missing);
    if (found.revision !== revision.value) return;
    stages.value = { ...stages.value, ...(found.stages as Partial<Stages>) };
    build.value = { ...build.value!, ...(found.sections as Partial<Build>) };
  }
  async function needFields(stations: FieldsOf[] | null): Promise<void> {
    const missing = (stations ?? ["all" as const]).filter((s) => !knows(s));
    const fresh = missing.filter((s) => !coming.has(s));
    if (fresh.length) {
      const answer = api.fields(fresh.filter((s) => s !== "all")).then((found) => {
        known.value = new Set([...known.value, ...fresh]);
        fields.value = { ...fields.value, ...found };
      });
      for (const s of fresh)
        coming.set(
          s,
          answer.finally(() => coming.delete(s)),
        );
    }
    await Promise.all(missing.map((s) => coming.get(s)));
  }

  /** Change values. The change is kept until the server has stored it. */
  /** A change. `made` is one that the server made of the whole document: it is sent as it is. */
  function edit(patch: Operation[], reason = "", made = false): Promise<void> {
    for (const op of patch) accepted(op.path);
    waiting.value.push({ id: newId(), build: id.value, patch, reason: reason || settings.reason.trim(), ...(made ? { sent: patch } : {}) });
    return flush();
  }

  const put = (pointer: string): Operation["op"] => (Array.isArray(get(build.value, parent(pointer))) ? "replace" : "add");
  /** Set one value, or take it out with undefined. */
  function set(pointer: string, value: unknown): Promise<void> {
    if (value === undefined) return at(pointer) !== undefined ? edit([{ op: "remove", path: pointer }]) : Promise.resolve();
    return edit([{ op: put(pointer), path: pointer, value }]);
  }
  /** Set one value as it was typed: the server reads it. `sure` where it is meant, however far from what stood there. */
  const type = (pointer: string, typed: string, sure = false): Promise<void> =>
    edit([{ op: put(pointer), path: pointer, typed, ...(sure ? { sure } : {}) }]);
  /** A field has nothing refused in it any more. */
  function accepted(pointer: string): void {
    delete problems.value[pointer];
    if (refused(pointer) !== undefined)
      refusals.value = {
        ...refusals.value,
        [id.value]: Object.fromEntries(Object.entries(refusals.value[id.value]!).filter(([at]) => at !== pointer)),
      };
  }

  const at = (pointer: string): unknown => waitingAt(build.value, mine.value, pointer);
  /** A quantity as the core read it, in SI; what stands for it while it is empty; null where nothing is known. */
  /** What a field shows where the person is told otherwise than it was written, and what stands behind it. */
  const told = (pointer: string): { shown?: string; also?: string } => {
    const found = read.value[pointer];
    return found && found.length > 2 && waitingAt(undefined, mine.value, pointer) === undefined ? { shown: found[2], also: found[3] } : {};
  };
  const si = (pointer: string): number | null => read.value[pointer]?.[0] ?? info(pointer)?.usual_si ?? null;

  async function flush(): Promise<void> {
    if (saving.value || clashing.value) return;
    saving.value = true;
    clearTimeout(timer);
    try {
      while (mine.value.length) if (!(await send(mine.value[0]!))) return;
    } finally {
      saving.value = false;
    }
  }

  /** Send one change. False where what waits has to wait on. */
  async function send(next: Waiting): Promise<boolean> {
    try {
      const changed = next.step
        ? await api.step(id.value, next.step, revision.value, settings.who, next.id, shown)
        : next.tune
          ? await (
              await import("@/api/seldom")
            ).tuneAct(id.value, next.tune, { base: revision.value, who: settings.who, edit_id: next.id, shown }, next.reason)
          : await api.edit(
              id.value,
              revision.value,
              (next.sent ??= complete(build.value, next.patch)),
              settings.who,
              next.id,
              next.reason,
              shown,
            );
      drop(next);
      await takeChange(changed);
      return true;
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      if (error.away) {
        away.value = true;
        timer = setTimeout(() => void flush(), AGAIN);
        return false;
      }
      if (error.body.code === "stale") return stale(next, error);
      drop(next);
      if (next.tune) problems.value["/tune/kept"] = error.message;
      else if (!next.step) refuse(next, error);
      return true;
    }
  }

  /** Somebody else was quicker: sent again on the new revision if nothing touched what we changed, else the person is asked. */
  async function stale(next: Waiting, error: ApiError): Promise<boolean> {
    delete next.sent; // it was not stored
    const between = (error.body.between ?? []).flatMap((b) => b.patch as unknown as { path: string }[]);
    const clashes = error.body.whole === false || clash(next.patch, between); // where not all is told, the person is asked
    await whole();
    if (clashes) clashing.value = { waiting: next, theirs: (error.body.between ?? []).map((b) => ({ who: b.who, summary: b.summary })) };
    return !clashes;
  }

  async function takeChange(changed: Changed): Promise<void> {
    away.value = false;
    if (changed.against !== revision.value || !build.value || !planHead.value) await whole();
    else {
      const next = withChange({ build: build.value, read: read.value, plan: planHead.value, stages: stages.value }, changed);
      stand(changed);
      build.value = next.build;
      read.value = next.read;
      planHead.value = next.plan;
      stages.value = next.stages;
    }
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
    const said = (problems.value[path] = `${words}.`.replace("..", "."));
    const typed = change.patch[change.patch.length - 1]!.typed;
    if (typed !== undefined)
      refusals.value = { ...refusals.value, [id.value]: { ...refusals.value[id.value], [path]: { typed, told: said } } };
  }

  /** Settle a clash: keep what was typed here, or take what came from elsewhere. */
  function resolve(keep: boolean): Promise<void> {
    if (clashing.value && !keep) drop(clashing.value.waiting);
    clashing.value = null;
    return flush();
  }

  /** Undo and redo wait in the same queue as edits: pressed five times they go five steps, and none is lost while the store is away. */
  function step(kind: "undo" | "redo"): Promise<void> {
    if (readOnly.value) return Promise.resolve();
    problems.value = {};
    refusals.value = { ...refusals.value, [id.value]: {} };
    waiting.value.push({ id: newId(), build: id.value, patch: [], reason: "", step: kind });
    return flush();
  }

  /** A tune made, or an earlier one brought back: it waits in the same queue. */
  function tuneAct(act: TuneAct, reason = ""): Promise<void> {
    if (readOnly.value) return Promise.resolve();
    delete problems.value["/tune/kept"];
    waiting.value.push({ id: newId(), build: id.value, patch: [], reason, tune: act });
    return flush();
  }

  const info = (pointer: string): FieldInfo | undefined => fields.value[generic(pointer, fields.value)];
  /** Places where a usual value stands for what was left empty. */
  const usual = computed(() => new Set(Object.keys(planHead.value?.pencil ?? {}).filter((p) => !(p in marks.value))));
  /** What a place in pencil is called. */
  const label = (pointer: string): string => planHead.value?.pencil[pointer] ?? pointer;
  /** The marks of the document. Its keys are pointers, which the generated type cannot say. */
  const marks = computed(() => (build.value?.marks ?? {}) as Record<string, components["schemas"]["Mark"]>);
  /** The assumed mark that covers a field: its own, or that of a part it is in. */
  const pencil = (pointer: string): string | null => {
    if (usual.value.has(pointer)) return pointer;
    return Object.keys(marks.value).find((m) => marks.value[m]!.kind === "assumed" && within(pointer, m)) ?? null;
  };
  /** Who measured a value, when and how, if that was written down. */
  const story = (pointer: string): string => {
    const mark = marks.value[pointer];
    if (mark?.kind !== "measured") return "";
    const by = [mark.by && `by ${mark.by}`, mark.when].filter(Boolean).join(", ");
    return `Measured ${by}${mark.how ? `: ${mark.how}` : ""}`.trim();
  };
  /** Values in pencil taken as they are: marks come off, and usual values that stand for empty fields become the person's own. */
  const acceptAll = (places: string[]) =>
    edit(
      places.map((path) =>
        path in marks.value && !(usualAt(path) && at(path) === undefined)
          ? { op: "remove" as const, path: `/marks/${escape(path)}` }
          : { op: "add" as const, path, usual: true as const },
      ),
    );
  const usualAt = (pointer: string) => info(pointer)?.default != null;
  const accept = (pointer: string) => edit([{ op: "remove", path: `/marks/${escape(pointer)}` }]);
  const findings = (station: string): Finding[] => (planHead.value?.findings ?? []).filter((f) => f.station === station);

  return {
    id, revision, head, canUndo, canRedo, build, read, plan, stages, ripple, summary, fields, trouble, away, saving, problems, refused, accepted, told, clashing, mine, readOnly,
    load, refresh, fetchAhead, show, ready, at, si, edit, set, type, tuneAct, flush, resolve, undo: () => step("undo"), redo: () => step("redo"), info, pencil, usual, label, marks, story, accept, acceptAll, findings,
  }; // prettier-ignore
});
