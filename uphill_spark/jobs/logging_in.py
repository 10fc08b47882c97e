"""Logs beside the web process: a file read in, a drive of the stand-in, a log read against its build."""

from __future__ import annotations

import logging
import time
import uuid
from collections.abc import Callable, Sequence
from typing import Any

from .. import demo, store
from ..core.errors import SparkError
from ..core.given import parse
from ..core.live import QUANTITIES, SignalTaken
from ..core.logs import Log
from ..core.physics.air import Array
from ..core.plan import evaluated
from ..core.road import columns as guessing
from ..core.road.columns import Column, ColumnIs
from ..core.road.reading import LogSaid, read
from ..core.standin.drive import Drive, Truth, absolute, set_cycle
from ..core.worked import Worked
from ..formats import log_csv, log_mdf
from ..formats.raw_log import RawLog, of_quantities
from ..standin.frames import Frames
from ..standin.frames import own as own_frames
from ..standin.frames import read as read_frames
from ..store import buses, logs
from ..store.tables import LogRow
from .cancelled import Cancelled

log = logging.getLogger("uphill_spark")
TELLS = 0.25  # s between two words how far it is
_DIED = "Reading this log in has ended the worker three times: it is left alone. The server's log says more."
_WRONG = "Something went wrong in reading this log in. The server's log says what."


class Teller:
    """Says now and then how far it is, and raises Cancelled once nobody wants it any longer."""

    def __init__(self, database: store.Database, log_id: uuid.UUID, low: float = 0.0, high: float = 1.0) -> None:
        self.database, self.log_id, self.low, self.high, self._told = database, log_id, low, high, 0.0

    def __call__(self, share: float) -> None:
        if time.monotonic() - self._told < TELLS:
            return
        self._told = time.monotonic()
        with self.database.work() as session:
            if not logs.how_far(session, self.log_id, self.low + (self.high - self.low) * share):
                raise Cancelled

    def part(self, low: float, high: float) -> Teller:
        """A teller for a part of the way."""
        return Teller(self.database, self.log_id, low, high)


def take_in(database: store.Database, log_id: uuid.UUID) -> None:
    """Read a log in that waits. Raises StoreDown: then it is as if it had not been begun, and is taken up again."""
    with database.work() as session:
        row = logs.take_up(session, log_id)
        if row is None:
            return
        if row.tries > logs.TRIES_MOST:
            logs.failed(session, log_id, _DIED)
            return
        build_id, revision, kind = row.build_id, row.revision, row.kind
    tell = Teller(database, log_id)
    try:
        with database.work() as session:
            document = store.revision(session, build_id, revision).document
            name = store.get(session, build_id).demo
            frames = _frames(session, build_id)
            data = b"" if kind == "standin" else logs.data_of(session, log_id)
        if kind == "standin":
            raw = _driven(document, name, log_id, tell.part(0.0, 0.85))
        elif log_mdf.is_mdf(data):
            raw = log_mdf.read(data, frames, tell.part(0.0, 0.5))
        else:
            raw = log_csv.read(data, tell.part(0.0, 0.5))
        del data
        _keep(database, log_id, kind, document, raw, tell.part(0.85 if kind == "standin" else 0.5, 1.0))
    except Cancelled:
        return
    except (store.StoreDown, store.Busy):
        raise
    except SparkError as error:
        problems = getattr(error, "problems", ())
        _failed(database, log_id, f"{error}{f' {problems[0].sentence()}' if problems else ''}")
    except MemoryError:
        _failed(database, log_id, "This log is larger than the memory here. Cut it into drives.")
    except Exception:
        log.exception("reading in log %s", log_id)
        _failed(database, log_id, _WRONG)


def _failed(database: store.Database, log_id: uuid.UUID, why: str) -> None:
    with database.work() as session:
        logs.failed(session, log_id, why)


def _frames(session: Any, build_id: uuid.UUID) -> Frames:
    """How the frames of a build's bus are read: by its own file, else by that of the stand-in."""
    told = buses.bus_of(session, build_id)
    return own_frames() if told is None else read_frames(told.dbc, [SignalTaken.model_validate(x) for x in told.taken])


def _keep(database: store.Database, log_id: uuid.UUID, kind: str, document: dict[str, Any], raw: RawLog, tell: Teller) -> None:
    """Put what was read into the store, column by column."""
    packed = 0
    every: list[Array] = [raw.time, *raw.columns]
    for k, values in enumerate(every):
        with database.work() as session:
            packed += logs.put_column(session, log_id, k, values)
        tell(k / len(every))
    columns = [Column(n, u, v) for n, u, v in zip(raw.names, raw.units, raw.columns, strict=True)]
    seen = [guessing.seen(c).model_dump() for c in columns]
    source = logs.source_of(raw.names, raw.units)
    with database.work() as session:
        before = logs.remembered(session, source)
    known = [ColumnIs.model_validate(t) for t in before] if before else None
    taken = known or (_by_word(columns) if kind in ("standin", "record") else guessing.guess(parse(document), columns, _outside(document)))
    sure = known is not None or kind in ("standin", "record")
    overview = logs.in_short(raw.time, raw.columns)
    with database.work() as session:
        logs.kept(
            session, log_id, "kept" if sure and any(t.quantity == "speed" for t in taken) else "asks", overview, packed, rows=raw.rows, seconds=float(raw.time[-1]) if raw.rows else 0.0, source=source, columns=seen,
            taken=[t.model_dump() for t in taken], broken=[{"line": b.line, "text": b.text, "why": b.why} for b in raw.broken], broken_count=raw.broken_count, cells_lost=raw.cells_lost, notes=raw.notes[:20],
        )  # fmt: skip


def _by_word(columns: Sequence[Column]) -> list[ColumnIs]:
    """Columns of a log that was made here: they are called by the words of their quantities."""
    words = {info.word: key for key, info in QUANTITIES.items()}
    return [
        ColumnIs(column=c.name, quantity=words[c.name], factor=1.0, offset=0.0, why="made here", remembered=True)
        for c in columns
        if c.name in words
    ]


def _outside(document: dict[str, Any]) -> float:
    return evaluated(parse(document)).worked.engine.ambient_pressure_pa / 1e3


# The stand-in on the road
def hidden(w: Worked, name: str | None) -> tuple[Truth, Any]:
    """What is really so in a car of the stand-in, as the build stands: a demo car has errors that are not told; any other is as it was told, but for what its engine breathes."""
    if name is None:
        return Truth(), next(t for t in w.tune.tables if t.key == "ve")
    return absolute(w, evaluated(parse(demo.document(name))).worked, demo.truth(name))


def _driven(document: dict[str, Any], name: str | None, log_id: uuid.UUID, tell: Callable[[float], None]) -> RawLog:
    """A drive of the stand-in, as its unit logs it."""
    w = evaluated(parse(document)).worked
    truth, filling = hidden(w, name)
    seed = log_id.int % 100_000
    found = Drive(w, [truth], set_cycle(seed), seed=seed, fillings=[filling]).run(tell)[0]
    return of_quantities(found)


# A log read against its build
def said_of(database: store.Database, row: LogRow, document: dict[str, Any], tell: Callable[[float], None]) -> LogSaid:
    """All that a kept log says of the build on which it was driven. Raises NotReadable."""
    w = evaluated(parse(document)).worked
    with database.work() as session:
        found = quantities_of(session, row)
    tell(0.1)
    return read(w, found, name=row.name, key=str(row.id), on=row.day.isoformat(), told=tell)


def quantities_of(session: Any, row: LogRow) -> Log:
    """A kept log as quantities."""
    taken = [ColumnIs.model_validate(t) for t in row.taken]
    at = {c["name"]: k + 1 for k, c in enumerate(row.columns)}
    wanted = sorted({at[t.column] for t in taken if t.column in at})
    values = logs.columns_of(session, row, [0, *wanted])
    by_number = dict(zip(wanted, values[1:], strict=True))
    return guessing.log_of(
        values[0], [Column(c["name"], c["unit"], by_number[k + 1]) for k, c in enumerate(row.columns) if k + 1 in by_number], taken
    )
