"""The one door: by which a handler gets at a build, and where it will be asked who may."""

from __future__ import annotations

import uuid
from dataclasses import dataclass

from flask import Response, current_app, request

from .. import store
from ..core.units import UNITS, Units
from ..jobs import Queue
from ..store.tables import BuildRow, RevisionRow
from .printing import Press
from .standing import Remembered, Standing

#: Where a browser says in whose units it is told.
UNITS_COOKIE = "uphill-spark-units"


@dataclass(frozen=True, slots=True)
class Opened:
    """A build at a revision: its row, the revision, and all that is worked out from it when that is asked for."""

    row: BuildRow
    revision: RevisionRow

    @property
    def standing(self) -> Standing:
        """The revision worked out. Raises CannotBeWorkedOut."""
        return remembered().of(self.revision.document, units=theirs())


def theirs() -> Units:
    """The units of the person who asks: as his browser remembers them, in a cookie so that papers follow too."""
    said = request.cookies.get(UNITS_COOKIE)
    return next((units for units in UNITS if units == said), "as_written")


def database() -> store.Database:
    """The store of this application."""
    found: store.Database = current_app.extensions["database"]
    return found


def queue() -> Queue:
    """Where what takes seconds is put."""
    found: Queue = current_app.extensions["queue"]
    return found


def remembered() -> Remembered:
    """What was worked out lately."""
    found: Remembered = current_app.extensions["remembered"]
    return found


def press() -> Press:
    """Where papers are printed."""
    found: Press = current_app.extensions["press"]
    return found


def opened(build_id: uuid.UUID, number: int | None = None) -> Opened:
    """A build at a revision, the newest if none is named. Raises NotFound for one that is put away or was never there."""
    with database().work() as session:
        row = store.get(session, build_id)
        return Opened(row, store.revision(session, build_id, number or row.head))


def json_answer(text: str, status: int = 200) -> Response:
    """An answer that is JSON already."""
    return Response(text, status=status, mimetype="application/json")


def attachment(name: str, ending: str) -> dict[str, str]:
    """A header that names a download after the car."""
    safe = "-".join("".join(c if c.isascii() and c.isalnum() else " " for c in name).lower().split()) or "build"
    return {"Content-Disposition": f'attachment; filename="{safe}.{ending}"'}
