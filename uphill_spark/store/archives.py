"""All of a build as rows to be put away in an archive, and put back into a store that may be empty."""

from __future__ import annotations

import datetime as dt
import hashlib
import io
import re
import uuid
from collections.abc import Iterator
from itertools import islice
from typing import Annotated, Any, Literal, TypeVar

from PIL import Image
from pydantic import BaseModel, ConfigDict, Field, ValidationError
from sqlalchemy import select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, undefer

from ..core.errors import BuildError, FormatError, PhotoError, Problem
from ..core.given import parse
from ..core.given.document import problem_of
from ..core.live import Quantity
from ..formats import log_out
from ..formats import photo as photo_format
from ..formats.archive import Reader
from ..formats.raw_log import COLUMNS_MOST
from . import logs
from .builds import get
from .photos import room_for_build, room_for_photo
from .tables import BuildRow, BusRow, DiaryRow, LogRow, PhotoRow, PracticeRow, RevisionRow

_KEY = re.compile(r"[0-9a-f]{64}")
T = TypeVar("T", bound="_Kept")
_AT_ONCE = 20  # rows that are held at a time
Line = Annotated[str, Field(pattern=r"^[^\x00-\x1f\x7f]*$")]


class _Kept(BaseModel):
    model_config = ConfigDict(extra="forbid")


class Revision(_Kept):
    """A revision as an archive has it."""

    number: Annotated[int, Field(ge=1, le=2**31 - 1)]
    kind: Literal["start", "edit", "undo", "redo"]
    document: dict[str, Any]
    patch: list[dict[str, Any]]
    summary: Annotated[str, Field(max_length=300)]
    who: Annotated[Line, Field(max_length=80)]
    reason: Annotated[str, Field(max_length=600)]
    edit_id: Annotated[Line, Field(max_length=64)] | None
    undo_to: int | None
    redo_to: int | None
    written: dt.datetime
    asked: Annotated[str, Field(max_length=64)] | None


class Entry(_Kept):
    """An entry of the diary as an archive has it."""

    id: uuid.UUID
    day: dt.date
    kind: Annotated[str, Field(max_length=12)]
    words: Annotated[str, Field(max_length=8000)]
    hours: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] | None
    task: Annotated[str, Field(max_length=40)]
    photos: list[Annotated[str, Field(pattern="^[0-9a-f]{64}$")]]
    measured: list[dict[Literal["what", "value"], Annotated[str, Field(max_length=200)]]]
    who: Annotated[Line, Field(max_length=80)]
    revision: int
    version: int
    was: list[dict[str, Any]]
    struck: bool
    written: dt.datetime
    text: str


class Practice(_Kept):
    """A practice as an archive has it."""

    id: uuid.UUID
    revision: int
    who: Annotated[str, Field(max_length=80)]
    level: int
    seed: int
    before: Annotated[str, Field(max_length=40)]
    moves: list[dict[str, Any]]
    score: int | None
    fault: Annotated[str, Field(max_length=40)]
    found: bool | None
    began: dt.datetime


class Bus(_Kept):
    """The bus of the own unit as an archive has it."""

    place: Annotated[str, Field(max_length=120)]
    name: Annotated[str, Field(max_length=120)]
    dbc: str
    taken: list[dict[str, Any]]


Number = Annotated[float, Field(allow_inf_nan=False)]


class LogColumn(_Kept):
    """A column of a log in short, as an archive has it."""

    name: Annotated[Line, Field(max_length=120)]
    unit: Annotated[Line, Field(max_length=60)]
    low: Number
    middle: Number
    high: Number
    missing: Number
    strip_low: Annotated[list[Number], Field(max_length=400)]
    strip_high: Annotated[list[Number], Field(max_length=400)]


class LogColumnIs(_Kept):
    """A column taken for a quantity, as an archive has it."""

    column: Annotated[Line, Field(max_length=120)]
    quantity: Quantity
    factor: Number
    offset: Number
    why: Annotated[str, Field(max_length=600)]
    remembered: bool
    asks: Annotated[str, Field(max_length=600)]


class LogBroken(_Kept):
    """A line that was no row, as an archive has it."""

    line: int
    text: Annotated[str, Field(max_length=400)]
    why: Annotated[str, Field(max_length=400)]


class LogKept(_Kept):
    """A log as an archive has it; its rows stand beside it as Parquet."""

    id: uuid.UUID
    name: Annotated[Line, Field(min_length=1, max_length=120)]
    day: dt.date
    note: Annotated[str, Field(max_length=4000)]
    photos: list[Annotated[str, Field(pattern="^[0-9a-f]{64}$")]]
    who: Annotated[Line, Field(max_length=80)]
    revision: Annotated[int, Field(ge=1)]
    kind: Annotated[Line, Field(max_length=10)]
    size: Annotated[int, Field(ge=0)]
    state: Literal["asks", "kept"]
    source: Annotated[str, Field(pattern="^[0-9a-f]{64}$")]
    columns: Annotated[list[LogColumn], Field(max_length=COLUMNS_MOST)]
    taken: Annotated[list[LogColumnIs], Field(max_length=60)]
    broken: Annotated[list[LogBroken], Field(max_length=400)]
    broken_count: int
    cells_lost: int
    notes: list[Annotated[str, Field(max_length=600)]]
    came: dt.datetime


def logs_of(session: Session, build_id: uuid.UUID) -> Iterator[dict[str, Any]]:
    """Every log that is read in, without its rows."""
    for row in session.scalars(
        select(LogRow).where(LogRow.build_id == build_id, LogRow.state.in_(("asks", "kept"))).order_by(LogRow.came, LogRow.id)
    ):
        yield _dumped(LogKept, row)


def rows_of_log(session: Session, build_id: uuid.UUID, log_id: uuid.UUID) -> bytes:
    """The rows of a log, as Parquet."""
    row = logs.log_of(session, build_id, log_id)
    time, *columns = logs.columns_of(session, row, list(range(len(row.columns) + 1)))
    return log_out.written("parquet", time, [c["name"] for c in row.columns], [c["unit"] for c in row.columns], columns)


def revisions_of(session: Session, build_id: uuid.UUID) -> Iterator[dict[str, Any]]:
    """Every revision, the first first, a few at a time."""
    get(session, build_id)
    rows = session.scalars(
        select(RevisionRow).where(RevisionRow.build_id == build_id).order_by(RevisionRow.number).execution_options(yield_per=_AT_ONCE)
    )
    for row in rows:
        yield _dumped(Revision, row)
        session.expunge(row)


def entries_of(session: Session, build_id: uuid.UUID) -> Iterator[dict[str, Any]]:
    """Every entry of the diary, in the order in which they were written."""
    rows = session.scalars(
        select(DiaryRow).where(DiaryRow.build_id == build_id).order_by(DiaryRow.written, DiaryRow.id).execution_options(yield_per=_AT_ONCE)
    )
    for row in rows:
        yield _dumped(Entry, row)
        session.expunge(row)


def practices_of(session: Session, build_id: uuid.UUID) -> Iterator[dict[str, Any]]:
    """Every practice."""
    for row in session.scalars(select(PracticeRow).where(PracticeRow.build_id == build_id).order_by(PracticeRow.began, PracticeRow.id)):
        yield _dumped(Practice, row)


def bus_of(session: Session, build_id: uuid.UUID) -> dict[str, Any] | None:
    """The bus of its own unit."""
    row = session.scalar(select(BusRow).options(undefer(BusRow.dbc)).where(BusRow.build_id == build_id))
    return None if row is None else _dumped(Bus, row)


def _dumped(kind: type[_Kept], row: object) -> dict[str, Any]:
    return kind.model_validate({name: getattr(row, name) for name in kind.model_fields}).model_dump(mode="json")


def keys_in(*told: Any) -> set[str]:
    """Keys of photographs that stand anywhere in something."""
    return set(_KEY.findall(str(told)))


def photos_of(session: Session, keys: set[str]) -> Iterator[tuple[str, str, bytes]]:
    """Photographs by key, one at a time: key, ending, bytes. Those that are not kept here are passed over."""
    for key in sorted(keys):
        row = session.execute(select(PhotoRow.media_type, PhotoRow.data).where(PhotoRow.key == key)).first()
        if row is not None:
            yield key, "png" if row.media_type == "image/png" else "jpg", row.data


def put_back(session: Session, archive: Reader) -> tuple[BuildRow, dict[str, Any]]:
    """A build with all that belongs to it, out of an archive: its row, and its newest document, which has still to be worked out. Raises BuildError, naming file and line; Full.

    It keeps its id where no build here has it, so that what is printed on tags still finds it.
    """
    room_for_build(session)
    wanted = uuid.UUID(archive.manifest.build)
    build_id = wanted if session.get(BuildRow, wanted) is None else uuid.uuid4()
    row = BuildRow(id=build_id, name=archive.manifest.name or "build", head=1, demo=None)
    session.add(row)
    session.flush()
    head = _journal(session, row, archive)
    _diary(session, build_id, archive)
    for line, said in archive.lines("practices.jsonl") if "practices.jsonl" in archive.names() else ():
        practice = _read(Practice, said, f"practices.jsonl/line {line}").model_dump()
        taken = session.get(PracticeRow, practice["id"]) is not None
        session.add(PracticeRow(**{**practice, "id": uuid.uuid4() if taken else practice["id"]}, build_id=build_id))
    if "bus.json" in archive.names():
        from ..formats import strict_json

        session.add(BusRow(build_id=build_id, **_read(Bus, strict_json.loads(archive.whole("bus.json").decode()), "bus.json").model_dump()))
    _logs(session, build_id, archive)
    for name in archive.names("photos/"):
        _photo(session, name, archive.whole(name))
    for name in archive.names():
        if name.startswith(("papers/", "tables/", "build.json")):
            archive.check(name)
    session.flush()
    return row, head


def _logs(session: Session, build_id: uuid.UUID, archive: Reader) -> None:
    for line, said in archive.lines("logs.jsonl") if "logs.jsonl" in archive.names() else ():
        found = _read(LogKept, said, f"logs.jsonl/line {line}")
        at = f"logs/{found.id}.parquet"
        names = [c.name for c in found.columns]
        try:
            table = log_out.read_parquet(archive.whole(at))
        except FormatError as error:
            raise BuildError(
                "A log of this archive cannot be read. Nothing was stored.", (Problem(f"/archive/{at}", str(error), "the rows of a log"),)
            ) from error
        if len(table) != len(names) + 1:
            raise BuildError(
                "A log of this archive has other columns than are told. Nothing was stored.",
                (Problem(f"/archive/{at}", f"{len(table)} columns", f"{len(names) + 1}, the clock first"),),
            )
        log_id = uuid.uuid4() if session.get(LogRow, found.id) is not None else found.id
        time, *columns = table
        session.add(
            LogRow(
                **{**found.model_dump(mode="json", exclude={"day", "came", "id"}), "day": found.day, "came": found.came, "id": log_id},
                build_id=build_id,
                rows=len(time),
                seconds=float(time[-1]) if len(time) else 0.0,
                progress=1.0,
                why="",
                tries=0,
                packed=0,
                overview=logs.in_short(time, columns),
            )
        )
        session.flush()
        packed = sum(logs.put_column(session, log_id, k, values) for k, values in enumerate(table))
        session.execute(update(LogRow).where(LogRow.id == log_id).values(packed=packed))


#: Entries of the diary that are stored at once: a journey to the store for each would take most of the time.
_AT_ONCE = 100


def _diary(session: Session, build_id: uuid.UUID, archive: Reader) -> None:
    lines = iter(archive.lines("diary.jsonl") if "diary.jsonl" in archive.names() else ())
    while some := [_read(Entry, said, f"diary.jsonl/line {line}").model_dump() for line, said in islice(lines, _AT_ONCE)]:
        taken = set(session.scalars(select(DiaryRow.id).where(DiaryRow.id.in_([e["id"] for e in some]))))
        rows = []
        for entry in some:
            rows.append({**entry, "id": uuid.uuid4() if entry["id"] in taken else entry["id"], "build_id": build_id})
            taken.add(entry["id"])  # an id that stands there twice is good for the first
        session.execute(insert(DiaryRow), rows)


def _journal(session: Session, row: BuildRow, archive: Reader) -> dict[str, Any]:
    number, head = 0, {}
    for line, said in archive.lines("journal.jsonl"):
        found = _read(Revision, said, f"journal.jsonl/line {line}")
        number += 1
        at = f"/archive/journal.jsonl/line {line}"
        if found.number != number or any(n is not None and not 0 < n < number for n in (found.undo_to,)):
            raise BuildError(
                "The journal of this archive does not follow on itself. Nothing was stored.",
                (Problem(at, str(found.number), f"revision {number}"),),
            )
        try:
            build = parse(found.document)
        except BuildError as error:
            raise BuildError(
                "A revision of this archive is no build that can be taken. Nothing was stored.",
                tuple(Problem(f"{at}{p.at}", p.given, p.wants) for p in error.problems),
            ) from error
        values = found.model_dump()
        if (
            number == 1
            and found.edit_id is not None
            and session.scalar(select(RevisionRow.number).where(RevisionRow.edit_id == found.edit_id, RevisionRow.number == 1))
        ):
            values |= {"edit_id": None, "asked": None}  # the same build is here already, under its own name
        session.execute(insert(RevisionRow).values({**values, "build_id": row.id}))
        row.name, row.head, head = build.name, number, found.document
    if not number:
        raise BuildError(
            "The journal of this archive is empty. Nothing was stored.",
            (Problem("/archive/journal.jsonl", "no line", "a revision at least"),),
        )
    return head


def _read(kind: type[T], said: dict[str, Any], at: str) -> T:
    try:
        return kind.model_validate(said)
    except ValidationError as error:
        problems = tuple(problem_of(e) for e in error.errors(include_url=False)[:5])
        raise BuildError(
            "A line of this archive cannot be taken. Nothing was stored.",
            tuple(Problem(f"/archive/{at}{p.at}", p.given, p.wants) for p in problems),
        ) from error


def _photo(session: Session, name: str, data: bytes) -> None:
    """A photograph as it was kept: its name is its hash, and it is a picture."""
    key = name.removeprefix("photos/").partition(".")[0]
    at = f"/archive/{name}"
    if hashlib.sha256(data).hexdigest() != key:
        raise BuildError(
            "A photograph of this archive is not the one that it is called. Nothing was stored.",
            (Problem(at, "other bytes", f"those whose SHA-256 is {key[:12]}…"),),
        )
    room_for_photo(session, len(data))
    try:
        drawn = photo_format.read(data)
        with Image.open(io.BytesIO(data)) as found:
            kind, more = str(found.format), bool(found.getexif())
    except PhotoError as error:
        raise BuildError(
            "A photograph of this archive cannot be read. Nothing was stored.",
            (Problem(at, *(error.problems[0].given, error.problems[0].wants)),),
        ) from error
    if more:
        raise BuildError(
            "A photograph of this archive holds more than a picture: a place, a time, a name. Nothing was stored.",
            (Problem(at, "EXIF", "a photograph as this program keeps it"),),
        )
    values = {
        "key": key,
        "media_type": "image/png" if kind == "PNG" else "image/jpeg",
        "width": drawn.width,
        "height": drawn.height,
        "data": data,
        "small": drawn.small,
    }
    session.execute(insert(PhotoRow).values(values).on_conflict_do_nothing(index_elements=["key"]))
