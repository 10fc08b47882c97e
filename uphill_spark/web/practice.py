"""Questions at the first start, and practice: both answered from the table of what each fault looks like on this car."""

from __future__ import annotations

import json
import secrets
from collections.abc import Sequence

from flask import Response

from .. import store
from ..core.asked.diagnosis import Evidence, diagnose, from_steps, taken
from ..core.asked.faults import FaultTable
from ..core.asked.practice import Meter, NotAMove, PracticeMove, harder, play
from ..core.circuit.states import KeyState
from ..core.errors import BuildError, Problem, UnitError
from ..core.figures import told_again
from ..core.reference import car_faults
from ..core.standin.case import Case
from ..core.standin.script import makes
from ..store import answers, practices
from ..store.tables import PracticeRow
from .asked import key_of
from .door import Opened, database, json_answer, opened, queue
from .errors import ErrorBody, answer
from .interface import Interface
from .models import BuildPath
from .practice_models import (
    BeginRequest,
    DiagnosisAnswer,
    DiagnosisRequest,
    MoveRequest,
    PracticeAnswer,
    PracticeList,
    PracticePath,
    PracticeRowOut,
    SeenRequest,
    WhoQuery,
)

api = Interface("practice", __name__, "/api/builds/<uuid:build_id>")


def table_of(found: Opened) -> FaultTable | tuple[str, float | None, str]:
    """What each fault looks like on a build: put into the queue where nobody asked; while it is not there, its state, how far it is, and why not."""
    key = key_of(found, "faults")
    with database().work() as session:
        row = answers.ask(session, key, "faults")
    state = answers.state_of(row)
    if state == "ready":
        return told_again(FaultTable, json.loads(answers.written(row)))
    if state == "waiting":
        queue().put(key, "faults", found.row.id, found.revision.number)
    return ("failed" if state in ("failed", "cancelled") else "running"), row.progress if state == "running" else None, row.why


@api.post(
    "/diagnosis",
    responses={200: DiagnosisAnswer},
    summary="It does not run as it should: likely causes of what was seen, and what to look at next",
)
def diagnosis(path: BuildPath, body: DiagnosisRequest) -> Response:
    found = opened(path.build_id, body.revision)
    table = table_of(found)
    if not isinstance(table, FaultTable):
        state, progress, why = table
        return json_answer(DiagnosisAnswer.model_validate({"state": state, "progress": progress, "why": why}).model_dump_json())
    told = [_evidence(table, k, seen) for k, seen in enumerate(body.seen)]
    names = {e.look for e in told}
    evidence = [*(e for e in (from_steps(found.standing.worked, table) if body.steps else ()) if e.look not in names), *told]
    said = DiagnosisAnswer(
        state="ready",
        diagnosis=diagnose(table, evidence),
        looks=table.looks,
        evidence=evidence,
        faults=[(f.key, f.words) for f in table.faults],
    )
    return json_answer(said.model_dump_json())


def _evidence(table: FaultTable, k: int, seen: SeenRequest) -> Evidence:
    """A look as it was typed. Raises BuildError naming it."""
    try:
        return taken(table, seen.look, seen.shown)
    except UnitError as error:
        raise BuildError("That look cannot be taken.", (Problem(f"/seen/{k}", str(seen.shown), str(error)),)) from error


@api.get("/practice", responses={200: PracticeList}, summary="A person's practices on a car, and the level to try next")
def listed(path: BuildPath, query: WhoQuery) -> Response:
    with database().work() as session:
        store.get(session, path.build_id)
        rows = practices.of_person(session, path.build_id, query.who)
    return json_answer(PracticeList(rows=[_row(r) for r in rows], level=_next_level(rows)).model_dump_json())


def _next_level(rows: Sequence[PracticeRow]) -> int:
    return harder([(r.level, r.score) for r in reversed(rows) if r.score is not None])


def _row(r: PracticeRow) -> PracticeRowOut:
    words = car_faults()[r.fault].words if r.fault in car_faults() else ""
    return PracticeRowOut(id=r.id, level=r.level, seed=r.seed, began=r.began, moves=len(r.moves), score=r.score, found=r.found, fault=words)


@api.post("/practice", responses={200: PracticeAnswer}, summary="A fault is hidden in this car: begin")
def begin(path: BuildPath, body: BeginRequest) -> Response:
    found = opened(path.build_id)
    with database().work() as session:
        rows = practices.of_person(session, path.build_id, body.who)
        row = practices.begin(session, path.build_id, found.revision.number, body.who, body.level or _next_level(rows), body.seed if body.seed is not None else secrets.randbelow(2**40))  # fmt: skip
    return _stands(found, row)


@api.get("/practice/<uuid:practice_id>", responses={200: PracticeAnswer}, summary="A practice as it stands")
def stands(path: PracticePath) -> Response:
    with database().work() as session:
        row = practices.practice(session, path.build_id, path.practice_id)
    return _stands(opened(path.build_id, row.revision), row)


@api.post("/practice/<uuid:practice_id>/move", responses={200: PracticeAnswer, 409: ErrorBody}, summary="A move of a practice")
def move(path: PracticePath, body: MoveRequest) -> Response:
    with database().work() as session:
        revision = practices.practice(session, path.build_id, path.practice_id).revision
    found = opened(path.build_id, revision)
    table = table_of(found)
    if not isinstance(table, FaultTable):
        return _waits(*table)
    made = PracticeMove(kind=body.kind, key=body.key)
    with database().work() as session:
        row = practices.practice(session, path.build_id, path.practice_id, to_write=True)
        try:
            moves = practices.moved(session, row, body.known, made.model_dump())
        except practices.MovedOn as error:
            return answer(409, ErrorBody(code="moved_on", message=str(error)))
        try:
            told = play(table, row.level, row.seed, [PracticeMove.model_validate(m) for m in moves], row.before, _meter(found))
        except NotAMove as error:
            raise BuildError("That is no move.", (Problem("/key", body.key, str(error)),)) from error
        if told.ended is not None:
            row.score, row.fault, row.found = told.ended.score, told.ended.key, told.ended.found
        said = PracticeAnswer(state="ready", id=row.id, revision=row.revision, practice=told, looks=table.looks)
    return json_answer(said.model_dump_json())


def _meter(found: Opened) -> Meter:
    """A meter on the harness of a build with a fault in it; the harness is made ready when it is first put on."""
    held: list[Case] = []

    def read(fault: str, red: str, black: str, state: KeyState) -> float:
        if not held:
            held.append(Case(found.standing.worked, found.revision.document))
        return held[0].meter(makes(held[0], fault), red, black, state)

    return read


def _stands(found: Opened, row: PracticeRow) -> Response:
    table = table_of(found)
    if not isinstance(table, FaultTable):
        return _waits(*table, row)
    told = play(table, row.level, row.seed, [PracticeMove.model_validate(m) for m in row.moves], row.before, _meter(found))
    return json_answer(PracticeAnswer(state="ready", id=row.id, revision=row.revision, practice=told, looks=table.looks).model_dump_json())


def _waits(state: str, progress: float | None, why: str, row: PracticeRow | None = None) -> Response:
    said = {"state": state, "progress": progress, "why": why, "id": row.id if row else None, "revision": row.revision if row else None}
    return json_answer(PracticeAnswer.model_validate(said).model_dump_json())
