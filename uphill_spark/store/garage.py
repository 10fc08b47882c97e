"""The garage: every build by what is told of its newest revision, without reading a document; what was put away, and the way back."""

from __future__ import annotations

import datetime as dt
import uuid
from dataclasses import dataclass
from typing import Any

from sqlalchemy import ColumnElement, delete, func, or_, select, update
from sqlalchemy.orm import Session

from .builds import NotFound, get
from .tables import BuildRow, RevisionRow

#: How long what was put away is kept before it may go for good.
KEPT = dt.timedelta(days=30)

Told = dict[str, Any]
#: A build with its newest revision.
_NEWEST = (RevisionRow.build_id == BuildRow.id) & (RevisionRow.number == BuildRow.head)


class TooEarly(Exception):
    """A build that was put away lately is not taken out for good."""


@dataclass(frozen=True, slots=True)
class Entry:
    """A build in the garage: its row, and what was told of its newest revision, by rules of some version; None where nothing was yet."""

    row: BuildRow
    told: Told | None
    rules: str | None


def entries(session: Session, *, search: str = "", after: int = 0, limit: int = 60, away: bool = False) -> tuple[list[Entry], int]:
    """Builds in the order in which they came, those behind the place `after`, and how many there are in all. `away` asks for those put away instead."""
    wanted: list[ColumnElement[bool]] = [BuildRow.put_away.is_not(None) if away else BuildRow.put_away.is_(None)]
    if search:
        like = _like(search)
        wanted.append(or_(BuildRow.name.ilike(like, escape="\\"), RevisionRow.told["notes"].as_string().ilike(like, escape="\\")))
    many = session.scalar(select(func.count()).select_from(BuildRow).join(RevisionRow, _NEWEST).where(*wanted)) or 0
    query = select(BuildRow, RevisionRow.told, RevisionRow.rules).join(RevisionRow, _NEWEST)
    rows = session.execute(query.where(*wanted, BuildRow.place > after).order_by(BuildRow.place).limit(limit))
    return [Entry(row, told, rules) for row, told, rules in rows], many


def _like(text: str) -> str:
    """A pattern that holds a text wherever it stands, with nothing special in it."""
    for sign in ("\\", "%", "_"):
        text = text.replace(sign, f"\\{sign}")
    return f"%{text}%"


def unworked(session: Session, rules: str, limit: int) -> list[tuple[uuid.UUID, int, dict[str, Any]]]:
    """Newest revisions of which nothing is told by these rules: build, number, document. The oldest builds first."""
    query = select(RevisionRow).join(BuildRow, _NEWEST).where(*_stale(rules)).order_by(BuildRow.place).limit(limit)
    return [(r.build_id, r.number, r.document) for r in session.scalars(query)]


def count_unworked(session: Session, rules: str) -> int:
    """How many there are."""
    return session.scalar(select(func.count()).select_from(BuildRow).join(RevisionRow, _NEWEST).where(*_stale(rules))) or 0


def _stale(rules: str) -> tuple[ColumnElement[bool], ColumnElement[bool]]:
    """What is in the garage and was told by other rules, or by none."""
    return BuildRow.put_away.is_(None), or_(RevisionRow.rules.is_(None), RevisionRow.rules != rules)


def tell(session: Session, build_id: uuid.UUID, number: int, told: Told, rules: str) -> None:
    """Keep what is told of a revision."""
    session.execute(
        update(RevisionRow).where(RevisionRow.build_id == build_id, RevisionRow.number == number).values(told=told, rules=rules)
    )


def put_away(session: Session, build_id: uuid.UUID) -> None:
    """Take a build out of the garage. Its journal stays in the database."""
    get(session, build_id, lock=True).put_away = func.now()


def bring_back(session: Session, build_id: uuid.UUID) -> None:
    """Put a build that was put away into the garage again. Raises NotFound."""
    _away(session, build_id).put_away = None


def remove(session: Session, build_id: uuid.UUID, now: dt.datetime) -> None:
    """Take a build out for good, with its journal, once it was put away long enough. Raises NotFound or TooEarly."""
    row = _away(session, build_id)
    if not removable(row, now):
        raise TooEarly(f"It was put away less than {KEPT.days} days ago and is kept until then.")
    session.execute(delete(RevisionRow).where(RevisionRow.build_id == build_id))
    session.delete(row)


def removable(row: BuildRow, now: dt.datetime) -> bool:
    """Whether a build was put away long enough to go for good."""
    return row.put_away is not None and now - row.put_away >= KEPT


def _away(session: Session, build_id: uuid.UUID) -> BuildRow:
    row = session.scalar(select(BuildRow).where(BuildRow.id == build_id, BuildRow.put_away.is_not(None)).with_for_update())
    if row is None:
        raise NotFound("No such build was put away.")
    return row
