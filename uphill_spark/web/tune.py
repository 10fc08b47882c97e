"""The kept tune: made, held against another, its trail, a cell of it; tables read in."""

from __future__ import annotations

import json

import numpy as np
from flask import Response

from .. import store
from ..core.asked.cycle import CycleDepth
from ..core.errors import BuildError, Problem
from ..core.figures import told_again
from ..core.given.edit import put
from ..core.given.tune import Tune
from ..core.keeping import Proposal, Source, cell_history, differences, proposed, tables_of
from ..core.stages.tune import Table
from ..core.stages.tune.in_use import read, tables_in_use
from ..core.stages.tune.landmarks import told
from ..core.stages.tune.walk import walk
from ..formats.tune_read import ReadTables, read_tables
from ..store import answers, tune_trail
from .asked import key_of
from .builds import changed
from .door import Opened, database, json_answer, opened, theirs
from .errors import ErrorBody
from .interface import Interface
from .models import BuildPath, Changed, PaperQuery
from .tune_models import (
    BackRequest,
    CellAnswer,
    CellQuery,
    CellStep,
    Compared,
    CompareQuery,
    KeepRequest,
    ReadIn,
    SourcePath,
    Trail,
    TrailStep,
    Walk,
)

api = Interface("tune", __name__, "/api/builds/<uuid:build_id>/tune")


@api.get("/trail", responses={200: Trail}, summary="The trail of the kept tune, newest first")
def trail(path: BuildPath, query: PaperQuery) -> Response:
    with database().work() as session:
        steps = tune_trail.trail(session, path.build_id)
    told = [
        TrailStep(
            number=s.number, kind=s.kind, who=s.who, written=s.written, summary=s.summary, reason=s.reason, made=s.tune.kept.made if s.tune.kept else "",
            cells=sum(len(t.ink) for t in s.tune.kept.tables.values()) if s.tune.kept else 0, in_unit=bool(s.tune.kept and s.tune.kept.in_unit),
        )
        for s in steps
    ]  # fmt: skip
    return json_answer(Trail(steps=told, found=bool(steps and steps[0].tune.found)).model_dump_json())


@api.get("/compare", responses={200: Compared}, summary="Two tunes held against each other, table by table")
def compare(path: BuildPath, query: CompareQuery) -> Response:
    found = opened(path.build_id, query.revision)
    before, after = (_tables(found, name) for name in (query.before, query.after))
    said = Compared(before=_name(query.before), after=_name(query.after), tables=differences(before, after))
    return json_answer(said.model_dump_json())


def _name(which: str) -> str:
    names = {"found": "as found", "quick": "the quick tables", "worked": "the worked engine", "now": "the tables in use"}
    return names.get(which, f"revision {which}")


def _tables(found: Opened, which: str) -> list[Table]:
    w = found.standing.worked
    if which == "now":
        return tables_in_use(w.tune.tables, w.in_use)
    if which == "quick":
        return w.tune.tables
    if which == "worked":
        made = proposed(w, "worked", _depth(found), mine=False).value
        return tables_of(Tune.model_validate({"kept": made}).kept)
    if which == "found":
        return tables_of(w.build.tune.found)
    with database().work() as session:
        return tables_of(tune_trail.tune_at(session, found.row.id, int(which)).kept)


def _depth(found: Opened) -> CycleDepth:
    """The worked engine of a build as it stands. Raises BuildError where it is not worked yet."""
    with database().work() as session:
        row = answers.answer_row(session, key_of(found, "cycle"))
    if row is None or answers.state_of(row) != "ready":
        raise BuildError(
            "The engine is not worked yet for this build.",
            (Problem("/tune/kept", "nothing", "the worked engine: open Worked, and wait until it is there"),),
        )
    return told_again(CycleDepth, json.loads(answers.written(row)))


@api.get(
    "/proposal/<string:source>",
    responses={200: Proposal},
    summary="A tune as it would be kept, and where it differs from the person's own cells by more than their doubt",
)
def proposal(path: SourcePath, query: PaperQuery) -> Response:
    found = opened(path.build_id, query.revision)
    return json_answer(_proposed(found, path.source, mine=True).model_dump_json())


def _proposed(found: Opened, source: Source, *, mine: bool) -> Proposal:
    depth = _depth(found) if source == "worked" else None
    return proposed(found.standing.worked, source, depth, mine=mine)


@api.post(
    "/keep", responses={200: Changed, 409: ErrorBody}, summary="Keep a tune: of the quick tables, the worked engine, or what was found"
)
def keep(path: BuildPath, body: KeepRequest) -> Response:
    found = opened(path.build_id, body.base)
    patch = [put("/tune/kept", _proposed(found, body.source, mine=body.mine).value)]
    return changed(
        body.shown, lambda session: store.edit(session, path.build_id, body.base, patch, body.who, body.reason, body.edit_id, theirs())
    )


@api.post("/back", responses={200: Changed, 409: ErrorBody}, summary="Roll back: the tune of an earlier revision, as a new one")
def back(path: BuildPath, body: BackRequest) -> Response:
    with database().work() as session:
        then = store.revision(session, path.build_id, body.to).document.get("tune", {}).get("kept")
    if then is None:
        raise BuildError("No tune was kept then.", (Problem("/tune/kept", f"revision {body.to}", "a revision at which one was kept"),))
    patch = [put("/tune/kept", then)]
    why = f"Rolled back to revision {body.to}"
    return changed(body.shown, lambda session: store.edit(session, path.build_id, body.base, patch, body.who, why, body.edit_id, theirs()))


@api.get("/cell", responses={200: CellAnswer}, summary="A cell of a table in use: what it does in the car, what it held before")
def cell(path: BuildPath, query: CellQuery) -> Response:
    found = opened(path.build_id, query.revision)
    w = found.standing.worked
    tables = {t.key: t for t in tables_in_use(w.tune.tables, w.in_use)}
    table = tables[query.table]
    if query.row >= len(table.rows) or query.column >= len(table.x):
        raise store.NotFound(f"{table.title} has {len(table.rows)} rows of {len(table.x)} cells.")
    here = None
    x, y = table.x[query.column], table.y[query.row] if table.y else 0.0
    if table.y:
        ve = tables["ve"]
        near = (int(np.argmin(np.abs(np.array(ve.y) - y))), int(np.argmin(np.abs(np.array(ve.x) - x))))
        spark = tables["advance"]
        lamda = read(tables["lambda"], ve.x[near[1]], ve.y[near[0]])
        advance = None if spark.hidden else read(spark, ve.x[near[1]], ve.y[near[0]])
        here = told(w.build, w.engine, w.injectors, w.tune.landmarks, ve, near, lamda, advance)
    with database().work() as session:
        steps = {s.number: s for s in tune_trail.trail(session, found.row.id) if s.number <= found.revision.number}
    held = cell_history({n: s.tune.kept for n, s in steps.items()}, query.table, x, y if table.y else None)
    history = [
        CellStep(number=n, value=value, who=steps[n].who, written=steps[n].written, summary=steps[n].summary) for n, value in reversed(held)
    ]
    return json_answer(CellAnswer(told=here, history=history).model_dump_json())


@api.post("/read", responses={200: ReadTables}, summary="Tables read from text, with what was guessed and what has to be said first")
def read_in(path: BuildPath, body: ReadIn) -> Response:
    w = opened(path.build_id).standing.worked
    return json_answer(read_tables(body.text, w, body.choices).model_dump_json())


@api.get("/walk", responses={200: Walk}, summary="The warm-up walk: what the unit does from frost to hot")
def warm_up(path: BuildPath, query: PaperQuery) -> Response:
    w = opened(path.build_id, query.revision).standing.worked
    tables = tables_in_use(w.tune.tables, w.in_use)
    return json_answer(Walk(steps=walk(w.build, w.tune, w.injectors, tables, w.engine.idle_manifold_pressure_pa / 1e3)).model_dump_json())
