"""The bus of a build's own control unit, as it was told."""

from __future__ import annotations

import uuid
from typing import Any

from sqlalchemy import delete
from sqlalchemy.orm import Session, undefer

from .builds import get
from .tables import BusRow


def bus_of(session: Session, build_id: uuid.UUID) -> BusRow | None:
    """What was told of a build's bus; None where nothing was. Raises NotFound for a build that is not there."""
    get(session, build_id)
    return session.get(BusRow, build_id, options=[undefer(BusRow.dbc)])


def tell(session: Session, build_id: uuid.UUID, place: str, name: str, dbc: str, taken: list[dict[str, Any]]) -> None:
    """Keep what is told of a build's bus, in place of what was told before. Raises NotFound."""
    get(session, build_id)
    session.merge(BusRow(build_id=build_id, place=place, name=name, dbc=dbc, taken=taken))


def forget(session: Session, build_id: uuid.UUID) -> None:
    """Forget it: the stand-in is listened to again. Raises NotFound."""
    get(session, build_id)
    session.execute(delete(BusRow).where(BusRow.build_id == build_id))
