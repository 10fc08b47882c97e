"""The builds: new ones, one of them, its changes, its journal. The garage, which shows them all, shares their address."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from flask import Response, request
from sqlalchemy.orm import Session

from .. import demo, store
from ..core.fresh import OpeningQuestions, new_document, questions
from ..formats import build_file
from ..rules import rules
from ..store.tables import RevisionRow
from .door import attachment, database, json_answer, opened, remembered, theirs
from .errors import ErrorBody
from .garage import api, page_of, told_of
from .models import (
    BuildPath,
    Changed,
    DemoRequest,
    EditRequest,
    Garage,
    GarageQuery,
    ImportQuery,
    Journal,
    JournalQuery,
    NewBuild,
    RevisionLine,
    StagesShown,
    State,
    StateQuery,
    StepRequest,
)
from .moved import difference, joined, sections, stages, whole
from .standing import Standing

__all__ = ["api"]


def _head(head: int, rev: RevisionRow) -> dict[str, Any]:
    return {
        "id": str(rev.build_id),
        "revision": rev.number,
        "head": head,
        "can_undo": rev.undo_to is not None,
        "can_redo": rev.redo_to is not None,
    }


def _state(head: int, rev: RevisionRow, standing: Standing, shown: Sequence[str], status: int = 200, *, light: bool = False) -> Response:
    return json_answer(joined(**_head(head, rev), **whole(standing, shown, light=light)), status)


def _created(document: dict[str, Any], who: str, summary: str, edit_id: str | None) -> Response:
    """A new build: worked out first, then stored."""
    standing = remembered().of(document)
    with database().work() as session:
        head = _stored(session, standing, who, summary, edit_id)
    return _state(head.row.head, head.revision, remembered().of(head.revision.document, units=theirs()), (), 201)


def _stored(session: Session, standing: Standing, who: str, summary: str, edit_id: str | None, demo: str | None = None) -> store.Head:
    """A build stored with what the garage says of it."""
    store.room_for_build(session)
    head = store.create(session, standing.document, who, summary, demo=demo, edit_id=edit_id)
    if head.revision.rules is None:
        head.revision.told, head.revision.rules = told_of(standing.plan, standing.document), rules()
    return head


@api.get("/questions", responses={200: OpeningQuestions}, summary="What a new build asks")
def asked_of_a_new_build() -> Response:
    return json_answer(questions().model_dump_json())


@api.post("", responses={201: State}, summary="A new build from a few answers")
def new(body: NewBuild) -> Response:
    return _created(new_document(body.answers), body.who, "New build from a few answers", body.edit_id)


@api.post("/import", responses={201: State, 413: ErrorBody}, summary="A build from a file")
def upload(query: ImportQuery) -> Response:
    document, _ = build_file.read(request.get_data(cache=False))
    return _created(document, query.who, "Read from a file", query.edit_id)


@api.post("/demo", responses={201: Garage}, summary="The demo cars, afresh")
def demo_cars(body: DemoRequest) -> Response:
    standings = {name: remembered().of(demo.document(name)) for name in demo.NAMES}
    with database().work() as session:
        for name, standing in standings.items():
            _stored(session, standing, body.who, "Demo car", f"{body.edit_id}-{name}" if body.edit_id else None, demo=name)
    return json_answer(page_of(GarageQuery()).model_dump_json(), 201)


@api.get(
    "/<uuid:build_id>", responses={200: State}, summary="A build at a revision, the newest if none is named, with the stages that are shown"
)
def one(path: BuildPath, query: StateQuery) -> Response:
    found = opened(path.build_id, query.revision)
    return _state(found.row.head, found.revision, found.standing, query.stages(), light=query.light)


@api.get("/<uuid:build_id>/stages", responses={200: StagesShown}, summary="Results of some stages at a revision")
def some_stages(path: BuildPath, query: StateQuery) -> Response:
    found = opened(path.build_id, query.revision)
    shown = query.stages()
    return json_answer(
        joined(revision=found.revision.number, stages=stages(found.standing, shown), sections=sections(found.standing, shown))
    )


@api.patch("/<uuid:build_id>", responses={200: Changed, 409: ErrorBody}, summary="A change")
def edit(path: BuildPath, body: EditRequest) -> Response:
    patch = [op.told() for op in body.patch]
    return changed(
        body.shown, lambda session: store.edit(session, path.build_id, body.base, patch, body.who, body.reason, body.edit_id, theirs())
    )


@api.post("/<uuid:build_id>/undo", responses={200: Changed, 409: ErrorBody}, summary="Undo, as a new revision")
def undo(path: BuildPath, body: StepRequest) -> Response:
    return changed(body.shown, lambda session: store.undo(session, path.build_id, body.base, body.who, body.edit_id))


@api.post("/<uuid:build_id>/redo", responses={200: Changed, 409: ErrorBody}, summary="Redo, as a new revision")
def redo(path: BuildPath, body: StepRequest) -> Response:
    return changed(body.shown, lambda session: store.redo(session, path.build_id, body.base, body.who, body.edit_id))


def changed(shown: Sequence[str], make: Callable[[Session], store.Change]) -> Response:
    """A change stored, once it is worked out: a build that cannot be worked out is rolled back. What moved is the answer."""
    with database().work() as session:
        change = make(session)
        before = remembered().of(change.before.document, units=theirs())
        after = remembered().of(change.after.document, before, units=theirs())
        if change.after.rules is None:
            change.after.told, change.after.rules = told_of(after.plan, after.document), rules()
    return json_answer(
        joined(**_head(change.head, change.after), against=change.before.number, **difference(before, after, shown, change.after.summary))
    )


@api.get("/<uuid:build_id>/revisions", responses={200: Journal}, summary="The journal, newest first")
def revisions(path: BuildPath, query: JournalQuery) -> Response:
    limit = 200
    with database().work() as session:
        rows = store.revisions(session, path.build_id, query.below, limit + 1)
        lines = [
            RevisionLine(number=r.number, kind=r.kind, summary=r.summary, who=r.who, reason=r.reason, written=r.written)
            for r in rows[:limit]
        ]
    return json_answer(Journal(revisions=lines, more=len(rows) > limit).model_dump_json())


@api.get("/<uuid:build_id>/file", summary="The build as a file")
def download(path: BuildPath) -> Response:
    found = opened(path.build_id)
    return Response(
        build_file.write(found.revision.document), mimetype="application/json", headers=attachment(found.row.name, "build.json")
    )
