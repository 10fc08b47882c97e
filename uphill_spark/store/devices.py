"""Devices that may come in besides the machine itself: each was paired once, by a word that is good for one of them. Of words and tokens only sums are kept."""

from __future__ import annotations

import datetime as dt
import hashlib
import secrets
import uuid

from sqlalchemy import delete, func, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from .builds import NotFound
from .tables import DeviceRow, PairingWordRow

#: How long a word waits to be used, and how often it is noted that a device was seen.
WAITS, NOTED = dt.timedelta(hours=1), dt.timedelta(minutes=10)


def _sum(secret: str) -> str:
    return hashlib.sha256(secret.encode()).hexdigest()


def plain(word: str) -> str:
    """A word as it was meant, however it was typed."""
    return "-".join(word.lower().replace("-", " ").split())


def offer(session: Session, word: str) -> None:
    """A word that pairs one device within the hour; one that was offered before, used or not, stays as it is. Words that nobody used in time go."""
    now = dt.datetime.now(dt.UTC)
    session.execute(delete(PairingWordRow).where(PairingWordRow.until < now - dt.timedelta(days=30)))
    session.execute(
        insert(PairingWordRow).values(word=_sum(plain(word)), until=now + WAITS).on_conflict_do_nothing(index_elements=["word"])
    )


def waits(session: Session, word: str) -> bool:
    """Whether a word would still pair a device."""
    row = session.get(PairingWordRow, _sum(plain(word)))
    return row is not None and not row.used and row.until > dt.datetime.now(dt.UTC)


def pair(session: Session, word: str, name: str) -> str | None:
    """The token of a newly paired device; None where the word is not one, was used, or is too old."""
    used = session.execute(
        update(PairingWordRow)
        .where(PairingWordRow.word == _sum(plain(word)), PairingWordRow.used.is_(False), PairingWordRow.until > func.now())
        .values(used=True)
        .returning(PairingWordRow.word)
    ).first()
    if used is None:
        return None
    token = secrets.token_urlsafe(32)
    session.add(DeviceRow(id=uuid.uuid4(), name=name.strip()[:80] or "a device", token=_sum(token)))
    return token


def is_paired(session: Session, token: str) -> bool:
    """Whether a token is that of a paired device; now and then it is noted that it was seen."""
    row = session.scalar(select(DeviceRow).where(DeviceRow.token == _sum(token)))
    if row is None:
        return False
    now = dt.datetime.now(dt.UTC)
    if now - row.seen > NOTED:
        row.seen = now
    return True


def devices(session: Session) -> list[DeviceRow]:
    """Paired devices, the newest first."""
    return list(session.scalars(select(DeviceRow).order_by(DeviceRow.paired.desc())))


def forget(session: Session, device: uuid.UUID) -> None:
    """Let a device in no more. Raises NotFound."""
    if session.execute(delete(DeviceRow).where(DeviceRow.id == device).returning(DeviceRow.id)).first() is None:
        raise NotFound("There is no such device.")
