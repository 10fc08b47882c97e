"""What a bus says, kept as a log: a process of its own, which ends when its log is no longer arriving. Run with a build and a log; the store's address comes on standard input."""

from __future__ import annotations

import sys
import time
import uuid
from typing import Any

import numpy as np

from .. import store
from ..core.errors import NoBus
from ..core.live import QUANTITIES, Quantity, SignalTaken, stale
from ..formats import log_mdf
from ..standin.bus import Reader, of_build, opened, where
from ..standin.frames import own, read
from ..store import buses, logs
from ..store.tables import LogRow
from .queue import Queue

EVERY, LOOKS = 0.05, 1.0  # s between two samples, between two looks whether it is to end
LONGEST, SILENCE = 3600.0, 120.0  # s that are kept at most, of silence after which it ends by itself


def main(arguments: list[str], url: str) -> int:
    """Keep what is said until it is to end; then hand it to whoever reads logs in."""
    build_id, log_id = (uuid.UUID(x) for x in arguments)
    database = store.Database(url)
    try:
        return _record(database, build_id, log_id)
    finally:
        database.close()


def _record(database: store.Database, build_id: uuid.UUID, log_id: uuid.UUID) -> int:
    with database.work() as session:
        told = buses.bus_of(session, build_id)
    at, frames = (
        (of_build(build_id), own())
        if told is None
        else (where(told.place), read(told.dbc, [SignalTaken.model_validate(x) for x in told.taken]))
    )
    try:
        reader = Reader(opened(at), frames).begin()
    except NoBus as error:
        with database.work() as session:
            logs.failed(session, log_id, str(error))
        return 1
    begun = heard = looked = time.monotonic()
    times: list[float] = []
    rows: list[dict[Quantity, float]] = []
    try:
        while True:
            now = time.monotonic()
            seen = reader.seen()
            if seen.age is not None and not stale(seen.age):
                heard = now
                times.append(now - begun)
                rows.append({key: value for key, value in seen.now.items() if key not in seen.old and key != "key"})
            if now - looked >= LOOKS:
                looked = now
                if not _wanted(database, log_id, now - begun, len(rows)) or now - begun > LONGEST or now - heard > SILENCE:
                    break
            time.sleep(EVERY)
    finally:
        reader.close()
    return _hand_over(database, log_id, times, rows)


def _wanted(database: store.Database, log_id: uuid.UUID, seconds: float, many: int) -> bool:
    """Whether it is still to be kept; says how much there is."""
    try:
        with database.work() as session:
            row = session.get(LogRow, log_id)
            if row is None or row.state != "arriving":
                return False
            row.seconds, row.rows = seconds, many
            return True
    except (store.StoreDown, store.Busy):
        return True  # it is asked again in a second


def _hand_over(database: store.Database, log_id: uuid.UUID, times: list[float], rows: list[dict[Quantity, float]]) -> int:
    with database.work() as session:
        row = session.get(LogRow, log_id)
        if row is None or row.state not in ("arriving", "waiting"):
            return 0
        if len(rows) < 20:
            logs.failed(session, log_id, "The bus said nothing while it was listened to. Is the key on, is it the right bus?")
            return 0
        keys = [key for key in QUANTITIES if any(key in r for r in rows)]
        data = log_mdf.written(
            np.array(times),
            [QUANTITIES[k].word for k in keys],
            [QUANTITIES[k].unit for k in keys],
            [np.array([r.get(k, np.nan) for r in rows]) for k in keys],
        )
        logs.file_in(session, row, logs.cut(data))
    queue: Any = Queue(database.url)
    try:
        queue.take_in(log_id)
    finally:
        queue.close()
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:], sys.stdin.read()))
