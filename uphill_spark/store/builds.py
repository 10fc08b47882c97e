"""The journal of a build: every change a revision, undo and redo as new revisions, stale changes refused with what came between."""

from __future__ import annotations

import hashlib
import json
import uuid
from dataclasses import dataclass
from typing import Any

import jsonpatch
from sqlalchemy import func, select
from sqlalchemy.orm import Session, defer

from ..core.carried import edited
from ..core.given import parse
from ..core.ripple import describe
from ..core.units import Units
from .tables import BuildRow, RevisionRow

#: Of what came in between, at most so many revisions and bytes are told.
BETWEEN_MOST, BETWEEN_SIZE = 50, 100_000


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


class IdTaken(Exception):
    """An id under which something else was stored before."""


class Stale(Exception):
    """The change was made on an older revision. `between` holds what came since: the newest of it, `whole` where that is all."""

    def __init__(self, head: int, between: list[Came], *, whole: bool) -> None:
        super().__init__(f"the build is at revision {head}")
        self.head = head
        self.between = between
        self.whole = whole


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


def create(session: Session, document: dict[str, Any], who: str, summary: str, demo: str | None = None, edit_id: str | None = None) -> Head:
    """A new build with its first revision. The document must be valid; it is checked again here.

    An `edit_id` that was stored before is answered with the build it made, as it stands: sent twice, it counts once. Raises IdTaken where another
    document was sent under it.
    """
    build = parse(document)
    asked = _sum(document)
    if edit_id is not None:
        first = session.scalar(select(RevisionRow).where(RevisionRow.edit_id == edit_id, RevisionRow.number == 1))
        if first is not None:
            return head(session, _same(first, asked).build_id)
    row = BuildRow(id=uuid.uuid4(), name=build.name, head=1, demo=demo)
    rev = RevisionRow(
        build_id=row.id,
        number=1,
        kind="start",
        document=document,
        patch=[],
        summary=summary,
        who=who,
        undo_to=None,
        redo_to=None,
        edit_id=edit_id,
        asked=asked if edit_id else None,
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


def edit(
    session: Session,
    build_id: uuid.UUID,
    base: int,
    patch: Any,
    who: str,
    reason: str = "",
    edit_id: str | None = None,
    units: Units = "as_written",
) -> Change:
    """Apply a patch made on revision `base` by somebody who thinks in `units`. Raises Stale, PatchError, BuildError; nothing is stored then.

    An `edit_id` that was stored before is answered with the revision it made: sent twice, it counts once. Raises IdTaken where another patch was
    sent under it.
    """
    row = get(session, build_id, lock=True)
    asked = _sum(patch)
    if (before := _stored_before(session, row, edit_id, asked)) is not None:
        return before
    now = _current(session, row, base)
    document, full, build = edited(now.document, patch, units=units)
    after = _append(
        session, row, now, "edit", document, full, describe(now.document, full), who, reason, edit_id, undo_to=now.number, redo_to=None
    )
    after.asked = asked if edit_id else None
    row.name = build.name
    return Change(now, after, after.number)


def _stored_before(session: Session, row: BuildRow, edit_id: str | None, asked: str) -> Change | None:
    """The change that was stored under an id, if one was."""
    if edit_id is None:
        return None
    found = session.scalar(select(RevisionRow).where(RevisionRow.build_id == row.id, RevisionRow.edit_id == edit_id))
    return None if found is None else Change(revision(session, row.id, found.number - 1), _same(found, asked), row.head)


def undo(session: Session, build_id: uuid.UUID, base: int, who: str, edit_id: str | None = None) -> Change:
    """Bring back the document before the last change, as a new revision; sent twice under an id it counts once. Raises NothingToDo or Stale."""
    return _step(session, build_id, base, who, "undo", edit_id)


def redo(session: Session, build_id: uuid.UUID, base: int, who: str, edit_id: str | None = None) -> Change:
    """Bring back what the last undo took away, as a new revision; sent twice under an id it counts once. Raises NothingToDo or Stale."""
    return _step(session, build_id, base, who, "redo", edit_id)


def _current(session: Session, row: BuildRow, base: int) -> RevisionRow:
    """The newest revision, if the change was made on it."""
    if base != row.head:
        between = session.scalars(
            select(RevisionRow)
            .options(defer(RevisionRow.document))
            .where(RevisionRow.build_id == row.id, RevisionRow.number > base)
            .order_by(RevisionRow.number.desc())
            .limit(BETWEEN_MOST)
        )
        came = [Came(r.number, r.who, r.summary, r.patch) for r in between]
        while came and len(json.dumps([c.patch for c in came])) > BETWEEN_SIZE:
            came.pop()
        raise Stale(row.head, came[::-1], whole=len(came) == row.head - base)
    return revision(session, row.id, row.head)


def _sum(asked: Any) -> str:
    """A sum of what was asked, whatever the order of its keys."""
    return hashlib.sha256(json.dumps(asked, sort_keys=True).encode()).hexdigest()


def _same(found: RevisionRow, asked: str) -> RevisionRow:
    """A revision that was stored under the same id, if it was asked for in the same words (of older ones that is not known)."""
    if found.asked is not None and found.asked != asked:
        raise IdTaken("Something else was stored under this id before. Nothing was stored now.")
    return found


def _step(session: Session, build_id: uuid.UUID, base: int, who: str, kind: str, edit_id: str | None) -> Change:
    row = get(session, build_id, lock=True)
    asked = _sum(kind)
    if (before := _stored_before(session, row, edit_id, asked)) is not None:
        return before
    now = _current(session, row, base)
    goal = now.undo_to if kind == "undo" else now.redo_to
    if goal is None:
        raise NothingToDo(f"There is nothing to {kind}.")
    target = revision(session, build_id, goal)
    patch = jsonpatch.make_patch(now.document, target.document).patch
    undo_to, redo_to = (target.undo_to, now.number) if kind == "undo" else (target.undo_to, target.redo_to)
    summary = f"{kind.capitalize()}: {describe(now.document, patch) if patch else 'no difference'}"
    after = _append(session, row, now, kind, target.document, patch, summary, who, "", edit_id, undo_to=undo_to, redo_to=redo_to)
    after.asked = asked if edit_id else None
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
