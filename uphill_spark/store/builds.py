"""The journal of a build: every change a revision, undo and redo as new revisions, stale changes refused with what came between."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from typing import Any

import jsonpatch
from sqlalchemy import func, select
from sqlalchemy.orm import Session, defer

from ..core.given import apply_edit, parse
from ..core.ripple import describe
from .tables import BuildRow, RevisionRow


class NotFound(Exception):
    """No such build or revision."""


class NothingToDo(Exception):
    """There is nothing to undo or redo."""


@dataclass(frozen=True, slots=True)
class Came:
    """A revision that came since, free of its session."""

    number: int
    who: str
    summary: str
    patch: list[dict[str, Any]]


class Stale(Exception):
    """The change was made on an older revision. `between` holds what came since."""

    def __init__(self, head: int, between: list[Came]) -> None:
        super().__init__(f"the build is at revision {head}")
        self.head = head
        self.between = between


@dataclass(frozen=True, slots=True)
class Head:
    """A build at its newest revision."""

    row: BuildRow
    revision: RevisionRow


@dataclass(frozen=True, slots=True)
class Change:
    """A change as stored: the revision before, the revision it made, where the build stands now: beyond it when it had been stored before."""

    before: RevisionRow
    after: RevisionRow
    head: int


def listing(session: Session) -> list[Head]:
    """Every build that is not put away, in the order in which they came."""
    rows = session.execute(
        select(BuildRow, RevisionRow)
        .join(RevisionRow, (RevisionRow.build_id == BuildRow.id) & (RevisionRow.number == BuildRow.head))
        .where(BuildRow.put_away.is_(None))
        .order_by(BuildRow.place)
    )
    return [Head(row, rev) for row, rev in rows]


def create(session: Session, document: dict[str, Any], who: str, summary: str, demo: str | None = None) -> Head:
    """A new build with its first revision. The document must be valid; it is checked again here."""
    build = parse(document)
    row = BuildRow(id=uuid.uuid4(), name=build.name, head=1, demo=demo)
    rev = RevisionRow(
        build_id=row.id, number=1, kind="start", document=document, patch=[], summary=summary, who=who, undo_to=None, redo_to=None
    )
    session.add(row)
    session.flush()
    session.add(rev)
    session.flush()
    return Head(row, rev)


def ever_used(session: Session) -> bool:
    """Whether any build was ever stored, put away or not."""
    return session.scalar(select(BuildRow.id).limit(1)) is not None


def get(session: Session, build_id: uuid.UUID, *, lock: bool = False) -> BuildRow:
    """The build's row. Raises NotFound."""
    query = select(BuildRow).where(BuildRow.id == build_id, BuildRow.put_away.is_(None))
    row = session.scalar(query.with_for_update() if lock else query)
    if row is None:
        raise NotFound("There is no such build.")
    return row


def head(session: Session, build_id: uuid.UUID) -> Head:
    """The build at its newest revision. Raises NotFound."""
    row = get(session, build_id)
    return Head(row, revision(session, build_id, row.head))


def revision(session: Session, build_id: uuid.UUID, number: int) -> RevisionRow:
    """One revision. Raises NotFound."""
    row = session.get(RevisionRow, (build_id, number)) if 0 < number < 2**31 else None
    if row is None:
        raise NotFound(f"There is no revision {number} of this build.")
    return row


def revisions(session: Session, build_id: uuid.UUID, below: int | None = None, limit: int = 100) -> list[RevisionRow]:
    """The journal, newest first, without the documents."""
    get(session, build_id)
    query = select(RevisionRow).options(defer(RevisionRow.document)).where(RevisionRow.build_id == build_id)
    if below is not None:
        query = query.where(RevisionRow.number < below)
    return list(session.scalars(query.order_by(RevisionRow.number.desc()).limit(limit)))


def edit(session: Session, build_id: uuid.UUID, base: int, patch: Any, who: str, reason: str = "", edit_id: str | None = None) -> Change:
    """Apply a patch made on revision `base`. Raises Stale, PatchError, BuildError; nothing is stored then.

    An `edit_id` that was stored before is answered with the revision it made: sent twice, it counts once.
    """
    row = get(session, build_id, lock=True)
    if edit_id is not None:
        found = session.scalar(select(RevisionRow).where(RevisionRow.build_id == build_id, RevisionRow.edit_id == edit_id))
        if found is not None:
            return Change(revision(session, build_id, found.number - 1), found, row.head)
    now = _current(session, row, base)
    document, full, build = apply_edit(now.document, patch)
    after = _append(
        session, row, now, "edit", document, full, describe(now.document, full), who, reason, edit_id, undo_to=now.number, redo_to=None
    )
    row.name = build.name
    return Change(now, after, after.number)


def undo(session: Session, build_id: uuid.UUID, base: int, who: str) -> Change:
    """Bring back the document before the last change, as a new revision. Raises NothingToDo or Stale."""
    return _step(session, build_id, base, who, "undo")


def redo(session: Session, build_id: uuid.UUID, base: int, who: str) -> Change:
    """Bring back what the last undo took away, as a new revision. Raises NothingToDo or Stale."""
    return _step(session, build_id, base, who, "redo")


def put_away(session: Session, build_id: uuid.UUID) -> None:
    """Take a build out of the garage. Its journal stays in the database."""
    get(session, build_id, lock=True).put_away = func.now()


def _current(session: Session, row: BuildRow, base: int) -> RevisionRow:
    """The newest revision, if the change was made on it."""
    if base != row.head:
        between = session.scalars(
            select(RevisionRow)
            .options(defer(RevisionRow.document))
            .where(RevisionRow.build_id == row.id, RevisionRow.number > base)
            .order_by(RevisionRow.number)
        )
        raise Stale(row.head, [Came(r.number, r.who, r.summary, r.patch) for r in between])
    return revision(session, row.id, row.head)


def _step(session: Session, build_id: uuid.UUID, base: int, who: str, kind: str) -> Change:
    row = get(session, build_id, lock=True)
    now = _current(session, row, base)
    goal = now.undo_to if kind == "undo" else now.redo_to
    if goal is None:
        raise NothingToDo(f"There is nothing to {kind}.")
    target = revision(session, build_id, goal)
    patch = jsonpatch.make_patch(now.document, target.document).patch
    undo_to, redo_to = (target.undo_to, now.number) if kind == "undo" else (target.undo_to, target.redo_to)
    summary = f"{kind.capitalize()}: {describe(now.document, patch) if patch else 'no difference'}"
    after = _append(session, row, now, kind, target.document, patch, summary, who, "", None, undo_to=undo_to, redo_to=redo_to)
    row.name = target.document["name"]
    return Change(now, after, after.number)


def _append(
    session: Session,
    row: BuildRow,
    now: RevisionRow,
    kind: str,
    document: dict[str, Any],
    patch: list[dict[str, Any]],
    summary: str,
    who: str,
    reason: str,
    edit_id: str | None,
    *,
    undo_to: int | None,
    redo_to: int | None,
) -> RevisionRow:
    after = RevisionRow(
        build_id=row.id, number=now.number + 1, kind=kind, document=document, patch=patch, summary=summary[:300], who=who, reason=reason, edit_id=edit_id,
        undo_to=undo_to, redo_to=redo_to,
    )  # fmt: skip
    session.add(after)
    row.head = after.number
    row.changed = func.now()
    session.flush()
    return after
