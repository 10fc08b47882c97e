"""Practices as they are kept: begun, moved on by one move at a time, listed for a person."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from typing import Any

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from .builds import NotFound
from .tables import PracticeRow

#: Of a person on a build, that are kept; moves of one.
KEPT_MOST, MOVES_MOST = 200, 120


class MovedOn(Exception):
    """Somebody made a move in between, on another page: `moves` of them stand now."""

    def __init__(self, moves: int) -> None:
        super().__init__(f"This practice has moved on to {moves} moves on another page.")
        self.moves = moves


def begin(session: Session, build_id: uuid.UUID, revision: int, who: str, level: int, seed: int) -> PracticeRow:
    """A new practice; the fault of the last one that ended is not hidden again. The oldest beyond what is kept go."""
    last = next((row for row in of_person(session, build_id, who) if row.fault), None)
    row = PracticeRow(
        id=uuid.uuid4(), build_id=build_id, revision=revision, who=who, level=level, seed=seed, before=last.fault if last else "", moves=[]
    )
    session.add(row)
    session.flush()
    old = select(PracticeRow.id).where(PracticeRow.build_id == build_id, PracticeRow.who == who).order_by(PracticeRow.began.desc(), PracticeRow.id).offset(KEPT_MOST)  # fmt: skip
    session.execute(delete(PracticeRow).where(PracticeRow.id.in_(old)))
    return row


def practice(session: Session, build_id: uuid.UUID, practice_id: uuid.UUID, *, to_write: bool = False) -> PracticeRow:
    """A practice of a build. Raises NotFound."""
    wanted = select(PracticeRow).where(PracticeRow.id == practice_id, PracticeRow.build_id == build_id)
    row = session.scalar(wanted.with_for_update() if to_write else wanted)
    if row is None:
        raise NotFound("There is no such practice on this car.")
    return row


def moved(session: Session, row: PracticeRow, known: int, move: dict[str, Any]) -> Sequence[dict[str, Any]]:
    """The moves with one more, where `known` of them were known to whoever made it; sent twice it counts once. Raises MovedOn, NotFound."""
    moves = list(row.moves)
    if len(moves) == known + 1 and moves[-1] == move:
        return moves
    if len(moves) != known:
        raise MovedOn(len(moves))
    if len(moves) >= MOVES_MOST:
        raise NotFound(f"A practice has at most {MOVES_MOST} moves: name it, or give up.")
    row.moves = [*moves, move]
    return row.moves


def of_person(session: Session, build_id: uuid.UUID, who: str) -> Sequence[PracticeRow]:
    """Practices of a person on a build, the newest first."""
    return session.scalars(
        select(PracticeRow).where(PracticeRow.build_id == build_id, PracticeRow.who == who).order_by(PracticeRow.began.desc(), PracticeRow.id).limit(KEPT_MOST)
    ).all()  # fmt: skip
