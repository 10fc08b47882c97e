"""The diary: entries in and out, a search over all of it, a timeline with the build's revisions."""

from __future__ import annotations

import datetime as dt

from flask import Response

from .. import store
from ..core.errors import BuildError, Problem
from ..store import diary
from ..store.diary import Moved, Written
from ..store.tables import DiaryRow
from .door import database, json_answer
from .errors import ErrorBody, answer
from .interface import Interface
from .models import BuildPath
from .work_models import (
    DayChanges,
    Diary,
    DiaryEntry,
    DiaryQuery,
    EntryAgain,
    EntryBefore,
    EntryPath,
    EntryRequest,
    MeasuredRow,
    NewEntry,
    OffFound,
    read_hours,
)

api = Interface("diary", __name__, "/api/builds/<uuid:build_id>/diary")


def _written(body: EntryRequest) -> Written:
    try:
        hours = read_hours(body.hours)
    except ValueError as error:
        raise BuildError("The hours cannot be read.", (Problem("/hours", body.hours, str(error)),)) from error
    if not (body.words.strip() or body.photos or body.measured or hours):
        raise BuildError(
            "There is nothing in this entry.", (Problem("/words", "nothing", "words, a photograph, something measured, or hours"),)
        )
    return Written(body.day, body.kind, body.words.strip(), hours, body.task, body.photos, [m.model_dump() for m in body.measured])


def _shown(row: DiaryRow) -> DiaryEntry:
    before = [EntryBefore.model_validate({k: w.get(k) for k in EntryBefore.model_fields}) for w in row.was]
    return DiaryEntry(
        id=row.id, day=row.day, kind=row.kind, words=row.words, hours=row.hours, task=row.task, photos=row.photos, measured=[MeasuredRow(**m) for m in row.measured], who=row.who, revision=row.revision,  # type: ignore[arg-type]
        version=row.version, struck=row.struck, written=row.written, before=before,
    )  # fmt: skip


def _place(text: str) -> tuple[dt.date, dt.datetime] | None:
    """Where a page of the diary begins, as the page before told it."""
    if not text:
        return None
    day, _, moment = text.partition("~")
    try:
        return dt.date.fromisoformat(day), dt.datetime.fromisoformat(moment)
    except ValueError as error:
        raise BuildError("That is no place in a diary.", (Problem("/before", text[:40], "what the page before gave as `more`"),)) from error


@api.get(
    "",
    responses={200: Diary},
    summary="The diary, newest first, with the build's changes of the same days; or what a search finds in all of it",
)
def timeline(path: BuildPath, query: DiaryQuery) -> Response:
    place = _place(query.before)
    with database().work() as session:
        rows = diary.entries(session, path.build_id, search=query.search, before=place, limit=query.limit)
        last = len(rows) < query.limit
        until = place[0] if place else None
        found = diary.changes(session, path.build_id, None if last or query.search.strip() else rows[-1].day, until, query.search)
        hours = diary.hours(session, path.build_id)
        document = store.head(session, path.build_id).revision.document if query.search.strip() and place is None else {}
    off = _off(document, query.search)
    return json_answer(
        Diary(
            entries=[_shown(r) for r in rows], changes=[DayChanges(day=c.day, first=c.first, last=c.last, many=c.many, summaries=c.summaries) for c in found], off=off,
            more="" if last else f"{rows[-1].day.isoformat()}~{rows[-1].written.isoformat()}", hours=round(sum(hours.values()), 2), by_task=hours,
        ).model_dump_json()
    )  # fmt: skip


def _off(document: dict[str, object], search: str) -> list[OffFound]:
    """What is off the car and holds every word of a search, or is called by it."""
    work = document.get("work")
    things = work.get("off", {}) if isinstance(work, dict) else {}
    words = search.casefold().split()
    found = []
    for code, x in things.items():
        told = " ".join(str(x.get(k, "")) for k in ("what", "goes", "bag", "box", "words")).casefold() + f" {code}"
        if words and all(w in told for w in words):
            found.append(OffFound(code=code, what=x.get("what", ""), goes=x.get("goes", "")))
    return found


@api.post("", responses={201: DiaryEntry}, summary="A new entry, with the id that its device gave it: sent twice it counts once")
def write(path: BuildPath, body: NewEntry) -> Response:
    entry = _written(body)
    with database().work() as session:
        row = diary.write(session, path.build_id, body.id, entry, body.who)
        return json_answer(_shown(row).model_dump_json(), 201)


@api.put(
    "/<uuid:entry_id>",
    responses={200: DiaryEntry, 409: ErrorBody},
    summary="An entry said otherwise, or struck out; what it said before is kept",
)
def rewrite(path: EntryPath, body: EntryAgain) -> Response:
    entry = _written(body)
    try:
        with database().work() as session:
            row = diary.rewrite(session, path.build_id, path.entry_id, body.base, entry, body.who, struck=body.struck)
            return json_answer(_shown(row).model_dump_json())
    except Moved as error:
        return answer(409, ErrorBody(code="entry_moved", message=str(error), head=error.version))
