"""The builds: garage, one build, its changes, its journal."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from flask import Response, request
from flask_openapi3 import APIBlueprint, Tag
from sqlalchemy.orm import Session

from .. import demo, store
from ..core.errors import SparkError
from ..core.fresh import new_document
from ..core.plan import open_stops
from ..formats import build_file
from ..store.tables import RevisionRow
from .door import attachment, database, json_answer, opened, remembered
from .errors import ErrorBody
from .models import (
    BuildPath,
    Changed,
    DemoRequest,
    EditRequest,
    Garage,
    GarageRow,
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
from .moved import difference, joined, stages, whole
from .standing import Standing

api = APIBlueprint(
    "builds",
    __name__,
    url_prefix="/api/builds",
    abp_tags=[Tag(name="builds")],
    abp_responses={404: ErrorBody, 422: ErrorBody, 503: ErrorBody},
)


def _head(head: int, rev: RevisionRow) -> dict[str, Any]:
    return {
        "id": str(rev.build_id),
        "revision": rev.number,
        "head": head,
        "can_undo": rev.undo_to is not None,
        "can_redo": rev.redo_to is not None,
    }


def _state(head: int, rev: RevisionRow, standing: Standing, shown: Sequence[str], status: int = 200) -> Response:
    return json_answer(joined(**_head(head, rev), **whole(standing, shown)), status)


def _created(document: dict[str, Any], who: str, summary: str) -> Response:
    """A new build: worked out first, then stored."""
    standing = remembered().of(document)
    with database().work() as session:
        head = store.create(session, document, who, summary)
    return _state(1, head.revision, standing, (), 201)


@api.get("", responses={200: Garage}, summary="The garage")
def garage() -> Response:
    with database().work() as session:
        heads = store.listing(session)
    return json_answer(Garage(builds=[_row(head) for head in heads]).model_dump_json())


def _row(head: store.Head) -> GarageRow:
    """A build in the garage; one that cannot be worked out says so and can still be opened as a file."""
    told: dict[str, Any] = {"verdict": "", "stations": [], "blocking": [], "trouble": ""}
    try:
        plan = remembered().of(head.revision.document).plan
        told |= {
            "verdict": plan.verdict,
            "stations": plan.stations,
            "blocking": [f"{f.code} {f.title}" for f in open_stops(plan.findings)[:3]],
        }
    except SparkError as error:
        told["trouble"] = str(error).split("\n")[0]
    return GarageRow(
        id=head.row.id,
        name=head.row.name,
        notes=str(head.revision.document.get("notes", "")),
        demo=head.row.demo,
        revision=head.row.head,
        changed=head.row.changed,
        **told,
    )


@api.post("", responses={201: State}, summary="A new build from five answers")
def new(body: NewBuild) -> Response:
    return _created(new_document(body.answers), body.who, "New build from five answers")


@api.post("/import", responses={201: State, 413: ErrorBody}, summary="A build from a file")
def upload(query: ImportQuery) -> Response:
    document, _ = build_file.read(request.get_data(cache=False))
    return _created(document, query.who, "Read from a file")


@api.post("/demo", responses={201: Garage}, summary="The demo cars, afresh")
def demo_cars(body: DemoRequest) -> Response:
    documents = {name: demo.document(name) for name in demo.NAMES}
    for document in documents.values():
        remembered().of(document)
    with database().work() as session:
        for name, document in documents.items():
            store.create(session, document, body.who, "Demo car", demo=name)
    response: Response = garage()
    response.status_code = 201
    return response


@api.get(
    "/<uuid:build_id>", responses={200: State}, summary="A build at a revision, the newest if none is named, with the stages that are shown"
)
def one(path: BuildPath, query: StateQuery) -> Response:
    found = opened(path.build_id, query.revision)
    return _state(found.row.head, found.revision, found.standing, query.stages())


@api.get("/<uuid:build_id>/stages", responses={200: StagesShown}, summary="Results of some stages at a revision")
def some_stages(path: BuildPath, query: StateQuery) -> Response:
    found = opened(path.build_id, query.revision)
    return json_answer(joined(revision=found.revision.number, stages=stages(found.standing, query.stages())))


@api.patch("/<uuid:build_id>", responses={200: Changed, 409: ErrorBody}, summary="A change")
def edit(path: BuildPath, body: EditRequest) -> Response:
    patch = [op.told() for op in body.patch]
    return _change(body.shown, lambda session: store.edit(session, path.build_id, body.base, patch, body.who, body.reason, body.edit_id))


@api.post("/<uuid:build_id>/undo", responses={200: Changed, 409: ErrorBody}, summary="Undo, as a new revision")
def undo(path: BuildPath, body: StepRequest) -> Response:
    return _change(body.shown, lambda session: store.undo(session, path.build_id, body.base, body.who))


@api.post("/<uuid:build_id>/redo", responses={200: Changed, 409: ErrorBody}, summary="Redo, as a new revision")
def redo(path: BuildPath, body: StepRequest) -> Response:
    return _change(body.shown, lambda session: store.redo(session, path.build_id, body.base, body.who))


def _change(shown: Sequence[str], make: Callable[[Session], store.Change]) -> Response:
    """A change stored, once it is worked out: a build that cannot be worked out is rolled back. What moved is the answer."""
    with database().work() as session:
        change = make(session)
        before = remembered().of(change.before.document)
        after = remembered().of(change.after.document, before)
    return json_answer(
        joined(**_head(change.head, change.after), against=change.before.number, **difference(before, after, shown, change.after.summary))
    )


@api.delete("/<uuid:build_id>", responses={204: None}, summary="Put a build away; its journal stays")
def put_away(path: BuildPath) -> Response:
    with database().work() as session:
        store.put_away(session, path.build_id)
    return Response(status=204)


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
