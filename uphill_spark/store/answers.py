"""Answers that take seconds: who asked first has it worked out, who asks after gets the same. A row is in one of five states, and only the worker makes it ready."""

from __future__ import annotations

import zlib
from typing import Literal, cast

from sqlalchemy import delete, func, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from .tables import AnswerRow

AnswerState = Literal["waiting", "running", "ready", "failed", "cancelled"]
#: Answers that are kept, the last asked for: each is some tens of kilobytes.
KEPT_MOST = 300
_TO_DO = ("waiting", "running")


def state_of(row: AnswerRow) -> AnswerState:
    """Its state."""
    return cast(AnswerState, row.state)


def answer_row(session: Session, key: str) -> AnswerRow | None:
    """The answer under a key, asked for or ready; None where nobody asked."""
    return session.get(AnswerRow, key)


def ask(session: Session, key: str, subject: str, *, again: bool = False) -> AnswerRow:
    """The answer under a key, waiting where nobody asked before; with `again` also where it was cancelled or failed."""
    session.execute(
        insert(AnswerRow).values(key=key, subject=subject, state="waiting", asked=func.clock_timestamp()).on_conflict_do_nothing()
    )
    if again:
        session.execute(
            update(AnswerRow).where(AnswerRow.key == key, AnswerRow.state.in_(("cancelled", "failed"))).values(state="waiting", progress=0)
        )
    session.execute(update(AnswerRow).where(AnswerRow.key == key).values(asked=func.clock_timestamp()))
    session.execute(delete(AnswerRow).where(AnswerRow.key.in_(select(AnswerRow.key).order_by(AnswerRow.asked.desc()).offset(KEPT_MOST))))
    return session.scalars(select(AnswerRow).where(AnswerRow.key == key).execution_options(populate_existing=True)).one()


def cancel(session: Session, key: str) -> bool:
    """Give up an answer that is not there yet; whether there was one to give up."""
    return _moved(session, key, state="cancelled", progress=0.0)


def begin(session: Session, key: str) -> bool:
    """The worker's word that it begins; False where nobody wants it any longer, or it is there."""
    return _moved(session, key, state="running", progress=0.0)


def how_far(session: Session, key: str, share: float) -> bool:
    """The worker's word how far it is (0 to 1); False where nobody wants it any longer."""
    return _moved(session, key, progress=share)


def finish(session: Session, key: str, text: str | None, why: str = "") -> bool:
    """What came of it: JSON, or None and why."""
    packed = None if text is None else zlib.compress(text.encode(), 6)
    return _moved(session, key, state="failed" if packed is None else "ready", answer=packed, why=why[:600], progress=1.0)


def written(row: AnswerRow) -> str:
    """The JSON of an answer that is ready."""
    return zlib.decompress(row.answer or zlib.compress(b"null")).decode()


def _moved(session: Session, key: str, **values: object) -> bool:
    found = session.execute(
        update(AnswerRow).where(AnswerRow.key == key, AnswerRow.state.in_(_TO_DO)).values(**values).returning(AnswerRow.key)
    )
    return found.first() is not None
