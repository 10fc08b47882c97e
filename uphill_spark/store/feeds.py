"""Private addresses at which calendars read the evenings of a build."""

from __future__ import annotations

import hashlib
import secrets
import uuid

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from .builds import NotFound, get
from .tables import FeedRow


def _kept(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def open_feed(session: Session, build_id: uuid.UUID, person: str) -> str:
    """A new address for a person's evenings (everybody's for an empty name): what stands in it. One that was there before is good no longer."""
    get(session, build_id)
    close_feed(session, build_id, person)
    token = secrets.token_urlsafe(24)
    session.add(FeedRow(token=_kept(token), build_id=build_id, person=person))
    session.flush()
    return token


def close_feed(session: Session, build_id: uuid.UUID, person: str) -> None:
    """Have an address answer no longer."""
    session.execute(delete(FeedRow).where(FeedRow.build_id == build_id, FeedRow.person == person))


def feeds(session: Session, build_id: uuid.UUID) -> list[str]:
    """Whose evenings have an address."""
    return list(session.scalars(select(FeedRow.person).where(FeedRow.build_id == build_id).order_by(FeedRow.person)))


def feed(session: Session, token: str) -> tuple[uuid.UUID, str]:
    """The build and the person behind an address. Raises NotFound."""
    row = session.get(FeedRow, _kept(token))
    if row is None:
        raise NotFound("There is no calendar at this address any more.")
    return row.build_id, row.person
