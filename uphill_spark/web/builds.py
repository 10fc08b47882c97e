"""The builds: garage, one build, its changes, its journal."""

from __future__ import annotations

import json
from typing import Any

from flask import Response, current_app, request
from flask_openapi3 import APIBlueprint, Tag

from .. import demo, store
from ..core.fresh import new_document
from ..core.plan import open_stops
from ..core.ripple import ripple
from ..formats import build_file
from ..store.tables import RevisionRow
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
    NewBuild,
    RevisionLine,
    RevisionPath,
    State,
    StepRequest,
)  # fmt: skip
from .plans import Plans, joined

api = APIBlueprint(
    "builds",
    __name__,
    url_prefix="/api/builds",
    abp_tags=[Tag(name="builds")],
    abp_responses={404: ErrorBody, 422: ErrorBody, 503: ErrorBody},
)


def database() -> store.Database:
    found: store.Database = current_app.extensions["database"]
    return found


def plans() -> Plans:
    found: Plans = current_app.extensions["plans"]
    return found


def json_answer(text: str, status: int = 200) -> Response:
    """An answer that is JSON already."""
    return Response(text, status=status, mimetype="application/json")


def _state(head: int, rev: RevisionRow, **more: Any) -> str:
    plan = plans().of(rev)
    return joined(
        id=str(rev.build_id),
        revision=rev.number,
        head=head,
        can_undo=rev.undo_to is not None,
        can_redo=rev.redo_to is not None,
        build=rev.document,
        plan=plan,
        **more,
    )


def _changed(change: store.Change) -> Response:
    before, after = plans().of(change.before), plans().of(change.after)
    return json_answer(
        _state(change.after.number, change.after, summary=change.after.summary, ripple=ripple(before, after, change.after.summary))
    )


@api.get("", responses={200: Garage}, summary="The garage")
def garage() -> Response:
    with database().work() as session:
        heads = store.listing(session)
    rows = []
    for head in heads:
        plan = plans().of(head.revision)
        rows.append(
            GarageRow(
                id=head.row.id,
                name=head.row.name,
                notes=head.revision.document.get("notes", ""),
                demo=head.row.demo,
                revision=head.row.head,
                changed=head.row.changed,
                verdict=plan.verdict,
                stations=plan.stations,
                blocking=[f"{f.code} {f.title}" for f in open_stops(plan.findings)[:3]],
            )
        )
    return json_answer(Garage(builds=rows).model_dump_json())


@api.post("", responses={201: State}, summary="A new build from five answers")
def new(body: NewBuild) -> Response:
    document = new_document(body.answers)
    with database().work() as session:
        head = store.create(session, document, body.who, "New build from five answers")
    return json_answer(_state(1, head.revision), 201)


@api.post("/import", responses={201: State, 413: ErrorBody}, summary="A build from a file")
def upload(query: ImportQuery) -> Response:
    document, _ = build_file.read(request.get_data(cache=False))
    with database().work() as session:
        head = store.create(session, document, query.who, "Read from a file")
    return json_answer(_state(1, head.revision), 201)


@api.post("/demo", responses={201: Garage}, summary="The demo cars, afresh")
def demo_cars(body: DemoRequest) -> Response:
    with database().work() as session:
        for name in demo.NAMES:
            store.create(session, demo.document(name), body.who, "Demo car", demo=name)
    response = garage()
    response.status_code = 201
    return response


@api.get("/<uuid:build_id>", responses={200: State}, summary="A build at its newest revision")
def one(path: BuildPath) -> Response:
    with database().work() as session:
        head = store.head(session, path.build_id)
    return json_answer(_state(head.row.head, head.revision))


@api.patch("/<uuid:build_id>", responses={200: Changed, 409: ErrorBody}, summary="A change")
def edit(path: BuildPath, body: EditRequest) -> Response:
    with database().work() as session:
        change, build = store.edit(session, path.build_id, body.base, body.patch, body.who, body.reason, body.edit_id)
        plans().of(change.after, build)  # worked out before the commit: a build that cannot be worked out is not stored
    return _changed(change)


@api.post("/<uuid:build_id>/undo", responses={200: Changed, 409: ErrorBody}, summary="Undo, as a new revision")
def undo(path: BuildPath, body: StepRequest) -> Response:
    with database().work() as session:
        change = store.undo(session, path.build_id, body.base, body.who)
    return _changed(change)


@api.post("/<uuid:build_id>/redo", responses={200: Changed, 409: ErrorBody}, summary="Redo, as a new revision")
def redo(path: BuildPath, body: StepRequest) -> Response:
    with database().work() as session:
        change = store.redo(session, path.build_id, body.base, body.who)
    return _changed(change)


@api.delete("/<uuid:build_id>", responses={204: None}, summary="Put a build away; its journal stays")
def put_away(path: BuildPath) -> Response:
    with database().work() as session:
        store.put_away(session, path.build_id)
    return Response(status=204)


@api.get("/<uuid:build_id>/revisions", responses={200: Journal}, summary="The journal, newest first")
def revisions(path: BuildPath) -> Response:
    limit = 200
    below = request.args.get("below", type=int)
    with database().work() as session:
        rows = store.revisions(session, path.build_id, below if below is not None and 0 < below < 2**31 else None, limit + 1)
        lines = [
            RevisionLine(number=r.number, kind=r.kind, summary=r.summary, who=r.who, reason=r.reason, written=r.written)
            for r in rows[:limit]
        ]
    return json_answer(Journal(revisions=lines, more=len(rows) > limit).model_dump_json())


@api.get("/<uuid:build_id>/revisions/<int:number>", responses={200: State}, summary="A build at an earlier revision")
def revision(path: RevisionPath) -> Response:
    with database().work() as session:
        head = store.get(session, path.build_id).head
        rev = store.revision(session, path.build_id, path.number)
    return json_answer(_state(head, rev))


@api.get("/<uuid:build_id>/file", summary="The build as a file")
def download(path: BuildPath) -> Response:
    with database().work() as session:
        head = store.head(session, path.build_id)
    return Response(
        build_file.write(json.loads(json.dumps(head.revision.document))),
        mimetype="application/json",
        headers=attachment(head.row.name, "build.json"),
    )


def attachment(name: str, ending: str) -> dict[str, str]:
    """A header that names a download after the car."""
    safe = "-".join("".join(c if c.isascii() and c.isalnum() else " " for c in name).lower().split()) or "build"
    return {"Content-Disposition": f'attachment; filename="{safe}.{ending}"'}
