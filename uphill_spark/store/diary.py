"""The diary: entries by day, searched by PostgreSQL's own text search, with the build's revisions beside them."""

from __future__ import annotations

import datetime as dt
import re
import uuid
from dataclasses import asdict, dataclass
from typing import Any

from sqlalchemy import Date, cast, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, defer

from .builds import IdTaken, NotFound, get
from .photos import Full
from .tables import DiaryRow, RevisionRow

#: Entries that a build's diary takes.
ENTRIES_MOST = 50_000


@dataclass(frozen=True, slots=True)
class Written:
    """What an entry says. `measured` are rows of what and how much."""

    day: dt.date
    kind: str
    words: str
    hours: float | None
    task: str
    photos: list[str]
    measured: list[dict[str, str]]

    @property
    def text(self) -> str:
        """All of it that is searched."""
        return " ".join([self.kind, self.words, self.task.replace("_", " "), *(f"{m['what']} {m['value']}" for m in self.measured)])

    def told(self) -> dict[str, Any]:
        """It as JSON."""
        return {**asdict(self), "day": self.day.isoformat()}


class Moved(Exception):
    """An entry that somebody else has changed since: it stands at `version`."""

    def __init__(self, version: int) -> None:
        super().__init__("Somebody has changed this entry since. Nothing was stored.")
        self.version = version


def write(session: Session, build_id: uuid.UUID, entry_id: uuid.UUID, entry: Written, who: str) -> DiaryRow:
    """A new entry; one that was sent before under its id is answered as it stands. Raises NotFound, Full, IdTaken where something else was stored under that id."""
    build = get(session, build_id)
    if (session.scalar(select(func.count()).select_from(DiaryRow).where(DiaryRow.build_id == build_id)) or 0) >= ENTRIES_MOST:
        raise Full(f"The diary of this build holds {ENTRIES_MOST:,} entries, which is what it takes.")
    values = {
        **asdict(entry),
        "id": entry_id,
        "build_id": build_id,
        "who": who,
        "revision": build.head,
        "version": 1,
        "was": [],
        "text": entry.text,
    }
    session.execute(insert(DiaryRow).values(values).on_conflict_do_nothing(index_elements=["id"]))
    row = session.get(DiaryRow, entry_id, populate_existing=True)
    if row is None or row.build_id != build_id or (row.version == 1 and said(row) != entry):
        raise IdTaken("Something else was stored under this id before. Nothing was stored now.")
    return row


def said(row: DiaryRow) -> Written:
    """What an entry says now."""
    return Written(row.day, row.kind, row.words, row.hours, row.task, list(row.photos), [dict(m) for m in row.measured])


def entry_of(session: Session, build_id: uuid.UUID, entry_id: uuid.UUID) -> DiaryRow:
    """An entry. Raises NotFound."""
    get(session, build_id)
    row = session.get(DiaryRow, entry_id, with_for_update=True)
    if row is None or row.build_id != build_id:
        raise NotFound("There is no such entry in this diary.")
    return row


def rewrite(
    session: Session, build_id: uuid.UUID, entry_id: uuid.UUID, base: int, entry: Written, who: str, *, struck: bool = False
) -> DiaryRow:
    """An entry said otherwise, or struck out; what it said before is kept. Sent twice it counts once. Raises NotFound and Moved."""
    row = entry_of(session, build_id, entry_id)
    if row.version == base + 1 and said(row) == entry and row.struck == struck:
        return row
    if row.version != base:
        raise Moved(row.version)
    row.was = [
        *row.was,
        {**said(row).told(), "struck": row.struck, "who": who, "changed": dt.datetime.now(dt.UTC).isoformat(timespec="seconds")},
    ]
    for name, value in asdict(entry).items():
        setattr(row, name, value)
    row.text, row.struck, row.version = entry.text, struck, row.version + 1
    session.flush()
    return row


def asked_for(search: str) -> str | None:
    """What a person looks for as a query of the text search: every word, or its beginning; None where there is no word."""
    words = re.findall(r"\w+", search)[:12]
    return " & ".join(f"{w}:*" for w in words) if words else None


def entries(
    session: Session, build_id: uuid.UUID, *, search: str = "", before: tuple[dt.date, dt.datetime] | None = None, limit: int = 40
) -> list[DiaryRow]:
    """Entries, newest first; those that hold all words of a search, or their beginnings."""
    get(session, build_id)
    query = select(DiaryRow).where(DiaryRow.build_id == build_id)
    asked = asked_for(search)
    if search.strip():
        if asked is None:
            return []
        query = query.where(DiaryRow.search.bool_op("@@")(func.to_tsquery("english", asked)), DiaryRow.struck.is_(False))
    if before is not None:
        query = query.where((DiaryRow.day < before[0]) | ((DiaryRow.day == before[0]) & (DiaryRow.written < before[1])))
    return list(session.scalars(query.order_by(DiaryRow.day.desc(), DiaryRow.written.desc()).limit(limit)))


@dataclass(frozen=True, slots=True)
class Changes:
    """Revisions of one day: the first and last number, how many, what the last few did."""

    day: dt.date
    first: int
    last: int
    many: int
    summaries: list[str]


_TOLD = 3  # revisions of a day that are told by name


def changes(session: Session, build_id: uuid.UUID, since: dt.date | None, until: dt.date | None, search: str = "") -> list[Changes]:
    """Revisions by day, newest first, in a stretch of days (open where none is given)."""
    day = cast(RevisionRow.written, Date)
    query = (
        select(RevisionRow, day.label("on_day"))
        .options(defer(RevisionRow.document), defer(RevisionRow.patch))
        .where(RevisionRow.build_id == build_id)
    )
    if since is not None:
        query = query.where(day >= since)
    if until is not None:
        query = query.where(day <= until)
    if asked := asked_for(search):
        query = query.where(
            func.to_tsvector("english", RevisionRow.summary + " " + RevisionRow.reason).bool_op("@@")(func.to_tsquery("english", asked))
        )
    found: dict[dt.date, list[RevisionRow]] = {}
    for row, on in session.execute(query.order_by(RevisionRow.number.desc()).limit(_REVISIONS_MOST)):
        found.setdefault(on, []).append(row)
    return [Changes(on, rows[-1].number, rows[0].number, len(rows), [r.summary for r in rows[:_TOLD]]) for on, rows in found.items()]


_REVISIONS_MOST = 600


def hours(session: Session, build_id: uuid.UUID) -> dict[str, float]:
    """Hours that are written down, by task; those of none under an empty name."""
    query = (
        select(DiaryRow.task, func.sum(DiaryRow.hours))
        .where(DiaryRow.build_id == build_id, DiaryRow.struck.is_(False), DiaryRow.hours.is_not(None))
        .group_by(DiaryRow.task)
    )
    return {task: round(float(total or 0.0), 2) for task, total in session.execute(query)}
