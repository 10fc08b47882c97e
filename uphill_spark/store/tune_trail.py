"""The trail of the kept tune: the revisions of a build at which it, or what was found in the unit, changed. The build's journal is the one journal; this reads it."""

from __future__ import annotations

import datetime as dt
import uuid
from dataclasses import dataclass
from typing import Any

from sqlalchemy import Text, cast, or_, select
from sqlalchemy.orm import Session

from ..core.given import parse
from ..core.given.tune import Tune
from .builds import get, revision
from .tables import RevisionRow

TRAIL_MOST = 200  # revisions of a trail that are told, the newest


@dataclass(frozen=True, slots=True)
class Step:
    """A revision at which the tune changed: its number, what made it, by whom, when, why, and what the tune was after it."""

    number: int
    kind: str
    who: str
    written: dt.datetime
    summary: str
    reason: str
    tune: Tune


def trail(session: Session, build_id: uuid.UUID) -> list[Step]:
    """Newest first. Raises NotFound."""
    get(session, build_id)
    words = cast(RevisionRow.patch, Text)
    rows = session.scalars(
        select(RevisionRow)
        .where(
            RevisionRow.build_id == build_id,
            or_(RevisionRow.number == 1, words.like('%"/tune/kept%'), words.like('%"/tune/found%'), words.like('%"/tune"%')),
        )
        .order_by(RevisionRow.number.desc())
        .limit(TRAIL_MOST)
    )
    steps = [Step(r.number, r.kind, r.who, r.written, r.summary, r.reason, _tune(r.document)) for r in rows]
    return [s for s in steps if s.number > 1 or s.tune.kept is not None or s.tune.found is not None]


def tune_at(session: Session, build_id: uuid.UUID, number: int) -> Tune:
    """The tune as it stood at a revision. Raises NotFound."""
    get(session, build_id)
    return _tune(revision(session, build_id, number).document)


def _tune(document: dict[str, Any]) -> Tune:
    """The section of a stored document, which was valid when it was stored; read whole where it is of an older format."""
    found = document.get("tune")
    return Tune.model_validate(found) if isinstance(found, dict) else parse(document).tune
