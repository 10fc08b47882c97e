"""All of a build as one archive, the book of the build, and an archive put back."""

from __future__ import annotations

import dataclasses
import json
import tempfile
import uuid
from collections.abc import Callable, Iterator
from typing import IO, Any, cast

from flask import Response, request

from .. import __version__
from ..core.asked import FuelDepth
from ..formats import book, fuel_sheet, parts_table, start_sheet, station_sheet, wire_list
from ..formats.archive import Reader, Writer
from ..formats.cells import written
from ..formats.printing import Printed
from ..store import archives, diary
from .door import Opened, attachment, database, json_answer, opened, press, remembered
from .errors import ErrorBody
from .interface import Interface
from .models import BuildPath, PaperQuery
from .papers import SHEETS, small_photos, today
from .work_models import ArchiveRead

api = Interface("archives", __name__, "/api")
#: Memory that an archive takes before it goes to a file of its own.
_HELD = 4_000_000
_PIECE = 1 << 18
#: Sheets of the book, in its order, by their key in `SHEETS`.
_IN_BOOK = ("engine", "flow", "air", "sensors", "trigger", "timing", "fuses", "connectors", "tests", "tune", "road", "hand-over")
DIARY_MOST = 2000  # entries that go into the book


@api.get("/builds/<uuid:build_id>/papers/book.pdf", summary="The book of the build as one PDF")
def book_pdf(path: BuildPath, query: PaperQuery) -> Response:
    found = opened(path.build_id, query.revision)
    return Response(_book(found), mimetype="application/pdf", headers=attachment(found.row.name, "book.pdf"))


def _book(found: Opened) -> bytes:
    """Every chapter printed by itself, so that one that did not change is not printed again, and bound."""
    plan, build = found.standing.plan, found.standing.build
    rev, on = f"revision {found.revision.number}", today()

    def of(make: Callable[..., station_sheet.Sheet]) -> Printed:
        bare = make(plan, build, {})
        photos = small_photos([key for pictures in bare.pictures for key, _ in pictures.shown])
        return press()(station_sheet.html(dataclasses.replace(bare, photos=photos), plan, rev, on))

    chapters: list[tuple[str, Printed]] = [("What differs", of(book.differs))]
    depth = cast(FuelDepth, remembered().answer(found.standing, "fuel"))
    for key in _IN_BOOK:
        printed = of(SHEETS[key])
        chapters.append((SHEETS[key](plan, build, {}).title, printed))
        if key == "engine":
            chapters.append(("Fuel", press()(fuel_sheet.html(plan, depth, rev, on))))
    chapters += [
        ("Wires", of(book.wires)),
        ("First start", press()(start_sheet.html(plan, rev, on, explained=False))),
        ("Parts", of(book.parts)),
    ]
    entries = _told(found)
    if entries:
        chapters.append(("Diary", press()(station_sheet.html(book.diary(plan, entries), plan, rev, on))))
    first = press()(book.cover(plan, build, _contents(chapters, 1), rev, on))
    if len(first.sheets) > 1:
        first = press()(book.cover(plan, build, _contents(chapters, len(first.sheets)), rev, on))
    return book.bound(plan, first, chapters, press())


def _contents(chapters: list[tuple[str, Printed]], before: int) -> list[tuple[str, int]]:
    rows, page = [], before + 1
    for title, paper in chapters:
        rows.append((title, page))
        page += len(paper.sheets)
    return rows


def _told(found: Opened) -> list[book.Told]:
    with database().work() as session:
        rows = diary.entries(session, found.row.id, limit=DIARY_MOST)
    return [
        book.Told(r.day.isoformat(), r.kind, r.words, r.who, r.hours, [(m["what"], m["value"]) for m in r.measured])
        for r in rows
        if not r.struck
    ]


@api.get(
    "/builds/<uuid:build_id>/archive.zip",
    summary="All of a build as one archive: journal, diary, photographs, tables, book, with a manifest of hashes",
)
def archive(path: BuildPath) -> Response:
    found = opened(path.build_id)
    file = tempfile.SpooledTemporaryFile(_HELD)  # noqa: SIM115  closed when the last piece is sent
    try:
        _write(found, cast("IO[bytes]", file))
    except BaseException:
        file.close()
        raise
    size = file.tell()
    file.seek(0)
    headers = attachment(found.row.name, "archive.zip") | {"Content-Length": str(size)}
    return Response(_pieces(cast("IO[bytes]", file)), mimetype="application/zip", headers=headers)


def _pieces(file: IO[bytes]) -> Iterator[bytes]:
    with file:
        while piece := file.read(_PIECE):
            yield piece


def _write(found: Opened, file: IO[bytes]) -> None:
    """The archive, a row at a time."""
    plan, work = found.standing.plan, found.standing.plan.stages.work
    writer = Writer(file)
    writer.add("build.json", [json.dumps(found.revision.document, ensure_ascii=False, indent=1).encode()])
    writer.add("papers/book.pdf", [_book(found)], packed=True)
    tasks = {t.key: t.what for t in work.tasks}
    writer.add("tables/parts.csv", [parts_table.write_csv(work.parts, tasks).encode()])
    writer.add("tables/wires.csv", [wire_list.write(plan).encode()])
    writer.add("tables/figures.csv", [wire_list.figures(plan).encode()])
    rows = [(t.key, t.what, t.stands, t.done_on, t.by, f"{t.work_s[1] / 3600:g}", t.why) for t in work.tasks]
    writer.add("tables/tasks.csv", [written([("key", "what", "stands", "done on", "by", "usual hours", "why"), *rows]).encode()])
    keys: set[str] = set()

    def noted(rows: Iterator[dict[str, Any]]) -> Iterator[dict[str, Any]]:
        for row in rows:
            keys.update(archives.keys_in(row))
            yield row

    with database().work() as session:
        writer.lines("journal.jsonl", noted(archives.revisions_of(session, found.row.id)))
        writer.lines("diary.jsonl", noted(archives.entries_of(session, found.row.id)))
        writer.lines("practices.jsonl", archives.practices_of(session, found.row.id))
        told = list(noted(archives.logs_of(session, found.row.id)))
        writer.lines("logs.jsonl", iter(told))
        for log in told:
            writer.add(f"logs/{log['id']}.parquet", [archives.rows_of_log(session, found.row.id, uuid.UUID(log["id"]))], packed=True)
        bus = archives.bus_of(session, found.row.id)
        if bus is not None:
            writer.add("bus.json", [json.dumps(bus, ensure_ascii=False).encode()])
        for key, ending, data in archives.photos_of(session, keys):
            writer.add(f"photos/{key}.{ending}", [data], packed=True)
    writer.end(found.row.name, str(found.row.id), today(), __version__)


@api.post(
    "/archives",
    responses={201: ArchiveRead, 413: ErrorBody},
    summary="An archive put back, whole or not at all; the body is the file itself",
)
def put_back() -> Response:
    with tempfile.SpooledTemporaryFile(_HELD) as file:
        while piece := request.stream.read(_PIECE):
            file.write(piece)
        file.seek(0)
        reader = Reader(cast("IO[bytes]", file))
        with database().work() as session:
            row, document = archives.put_back(session, reader)
            remembered().of(document)  # it is worked out before it is stored
            told = ArchiveRead(id=row.id, name=row.name, revisions=row.head, same_id=str(row.id) == reader.manifest.build)
    return json_answer(told.model_dump_json(), 201)
