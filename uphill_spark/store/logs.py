"""Logs of drives: a file taken in by pieces, columns kept packed, and read again by column and stretch."""

from __future__ import annotations

import datetime as dt
import hashlib
import uuid
import zlib
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any, Literal, cast

import numpy as np
from sqlalchemy import delete, func, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, undefer

from ..core.physics.air import Array
from ..formats import log_columns
from ..formats.log_columns import ROWS
from .builds import IdTaken, NotFound, get
from .photos import Full
from .tables import LogChunkRow, LogPieceRow, LogRow, LogSourceRow

LogState = Literal["arriving", "waiting", "reading", "asks", "kept", "failed", "cancelled"]
PIECE = 1_000_000  # bytes of a file on its way
LOGS_MOST = 400  # of a build
NAME_MOST = 120  # letters of its name
STRETCHES = 2_000  # of a whole log, for its overview
TRIES_MOST = 3
#: What may still be given up.
_ON_ITS_WAY = ("arriving", "waiting", "reading")


def source_of(names: Sequence[str], units: Sequence[str]) -> str:
    """A sum over the columns of a log, by which its source is known again."""
    return hashlib.sha256(repr(sorted(zip(names, units, strict=True))).encode()).hexdigest()


def begin(
    session: Session, build_id: uuid.UUID, log_id: uuid.UUID, *, name: str, day: dt.date, who: str, kind: str, revision: int | None = None
) -> LogRow:
    """A log that is on its way. Sent twice under its id it is the same one, if it is not further than that. Raises NotFound, Full, IdTaken."""
    build = get(session, build_id)
    there = session.get(LogRow, log_id)
    if there is not None:
        raise IdTaken("A log was sent under this id before. Nothing was stored now.")
    if (session.scalar(select(func.count()).select_from(LogRow).where(LogRow.build_id == build_id)) or 0) >= LOGS_MOST:
        raise Full(f"This build holds {LOGS_MOST} logs, which is what it takes. Take some away first.")
    row = LogRow(
        id=log_id,
        build_id=build_id,
        name=_apart(session, build_id, name),
        day=day,
        photos=[],
        who=who,
        revision=revision or build.head,
        kind=kind,
        size=0,
        state="arriving",
        columns=[],
        taken=[],
        broken=[],
        notes=[],
    )
    session.add(row)
    session.flush()
    return row


def _apart(session: Session, build_id: uuid.UUID, name: str) -> str:
    """A name by which the log can be told from the build's others: with a number behind it where one is called so already."""
    taken = set(session.scalars(select(LogRow.name).where(LogRow.build_id == build_id)))
    numbered = (f"{name[: NAME_MOST - 5]}, {n}" for n in range(2, LOGS_MOST + 2))
    return name if name not in taken else next(x for x in numbered if x not in taken)


def file_in(session: Session, log: LogRow, pieces: Iterable[bytes]) -> int:
    """All of its file, piece by piece: from then on it waits to be read in. Returns its bytes."""
    size = 0
    for number, data in enumerate(pieces):
        size += len(data)
        session.execute(insert(LogPieceRow).values(log_id=log.id, number=number, data=zlib.compress(data, 1)))
    log.size, log.state = size, "waiting"
    session.flush()
    return size


def cut(data: bytes) -> Iterator[bytes]:
    """A file that is at hand, in pieces."""
    return (data[at : at + PIECE] for at in range(0, len(data), PIECE))


def data_of(session: Session, log_id: uuid.UUID) -> bytes:
    """The file as it came."""
    rows = session.scalars(
        select(LogPieceRow.data).where(LogPieceRow.log_id == log_id).order_by(LogPieceRow.number).execution_options(yield_per=8)
    )
    return b"".join(zlib.decompress(data) for data in rows)


def logs_of(session: Session, build_id: uuid.UUID) -> list[LogRow]:
    """The logs of a build, newest first. Raises NotFound."""
    get(session, build_id)
    return list(session.scalars(select(LogRow).where(LogRow.build_id == build_id).order_by(LogRow.day.desc(), LogRow.came.desc())))


def log_of(session: Session, build_id: uuid.UUID, log_id: uuid.UUID) -> LogRow:
    """A log. Raises NotFound."""
    get(session, build_id)
    row = session.get(LogRow, log_id)
    if row is None or row.build_id != build_id:
        raise NotFound("There is no such log with this build.")
    return row


def take_up(session: Session, log_id: uuid.UUID) -> LogRow | None:
    """The worker's word that it begins to read one in; None where nobody wants it any longer. What an earlier try left of columns is taken away."""
    row = session.get(LogRow, log_id, with_for_update=True)
    if row is None or row.state not in ("waiting", "reading"):
        return None
    row.tries += 1
    row.state, row.progress = "reading", 0.0
    session.execute(delete(LogChunkRow).where(LogChunkRow.log_id == log_id))
    return row


def how_far(session: Session, log_id: uuid.UUID, share: float) -> bool:
    """The worker's word how far it is (0 to 1); False where nobody wants it any longer."""
    found = session.execute(
        update(LogRow).where(LogRow.id == log_id, LogRow.state == "reading").values(progress=share).returning(LogRow.id)
    )
    return found.first() is not None


def failed(session: Session, log_id: uuid.UUID, why: str) -> None:
    """It cannot be read: nothing of it is kept but what is told of it."""
    session.execute(
        update(LogRow).where(LogRow.id == log_id, LogRow.state.in_(_ON_ITS_WAY)).values(state="failed", why=why[:600], progress=1.0)
    )
    _swept(session, log_id)


def cancel(session: Session, log: LogRow) -> None:
    """Give up one that is on its way; nothing of it is kept."""
    if log.state in _ON_ITS_WAY:
        log.state = "cancelled"
        session.flush()
        _swept(session, log.id)


def take_away(session: Session, log: LogRow) -> None:
    """Take a log away, and all of it."""
    session.delete(log)


def _swept(session: Session, log_id: uuid.UUID) -> None:
    session.execute(delete(LogPieceRow).where(LogPieceRow.log_id == log_id))
    session.execute(delete(LogChunkRow).where(LogChunkRow.log_id == log_id))


def put_column(session: Session, log_id: uuid.UUID, column: int, values: Array) -> int:
    """Keep a column, packed in pieces. Returns its bytes."""
    size = 0
    for number, at in enumerate(range(0, len(values), ROWS)):
        data = log_columns.packed(values[at : at + ROWS])
        size += len(data)
        session.execute(insert(LogChunkRow).values(log_id=log_id, column=column, number=number, data=data))
    return size


def put_packed(session: Session, log_id: uuid.UUID, chunks: Iterable[tuple[int, int, bytes]]) -> None:
    """Pieces of columns that are packed already."""
    for column, number, data in chunks:
        session.execute(insert(LogChunkRow).values(log_id=log_id, column=column, number=number, data=data))


def packed_of(session: Session, log_id: uuid.UUID) -> Iterator[tuple[int, int, bytes]]:
    """Every piece of every column, packed as it is kept."""
    rows = session.execute(
        select(LogChunkRow.column, LogChunkRow.number, LogChunkRow.data)
        .where(LogChunkRow.log_id == log_id)
        .order_by(LogChunkRow.column, LogChunkRow.number)
        .execution_options(yield_per=20)
    )
    yield from ((column, number, data) for column, number, data in rows)


def kept(session: Session, log_id: uuid.UUID, state: LogState, overview: bytes, packed: int, **values: Any) -> bool:
    """All of it is in the store; its file is let go of. False where nobody wants it any longer."""
    found = session.execute(
        update(LogRow)
        .where(LogRow.id == log_id, LogRow.state == "reading")
        .values(state=state, overview=overview, packed=packed, progress=1.0, why="", **values)
        .returning(LogRow.id)
    )
    if found.first() is None:
        return False
    session.execute(delete(LogPieceRow).where(LogPieceRow.log_id == log_id))
    return True


def columns_of(session: Session, log: LogRow, wanted: Sequence[int], first: int = 0, last: int | None = None) -> list[Array]:
    """Columns by number (0 is the clock), of rows [first, last)."""
    end = log.rows if last is None else min(last, log.rows)
    low, high = first // ROWS, max((end - 1) // ROWS, 0)
    rows = session.execute(
        select(LogChunkRow.column, LogChunkRow.number, LogChunkRow.data)
        .where(LogChunkRow.log_id == log.id, LogChunkRow.column.in_(wanted), LogChunkRow.number.between(low, high))
        .order_by(LogChunkRow.column, LogChunkRow.number)
    )
    found: dict[int, list[Array]] = {}
    for column, _, data in rows:
        found.setdefault(column, []).append(log_columns.unpacked(data))
    return [np.concatenate(found[c])[first - low * ROWS : end - low * ROWS] if c in found else np.full(end - first, np.nan) for c in wanted]


# The overview
@dataclass(frozen=True, slots=True)
class Overview:
    """Every column in short: times at which stretches begin [s], and least and most of each column in each stretch (the clock not among them)."""

    time: Array
    low: Array
    high: Array


def in_short(time: Array, columns: Sequence[Array]) -> bytes:
    """The overview of a log, packed."""
    n = len(time)
    edges = np.unique(np.linspace(0, n, min(STRETCHES, n) + 1).astype(int))[:-1]
    lows, highs = [], []
    for column in columns:
        there = np.isfinite(column)
        lows.append(np.minimum.reduceat(np.where(there, column, np.inf), edges))
        highs.append(np.maximum.reduceat(np.where(there, column, -np.inf), edges))
    stacked = np.array([time[edges], *lows, *highs], dtype=np.float32)
    return zlib.compress(
        np.array(stacked.shape, dtype=np.int32).tobytes() + np.where(np.isfinite(stacked), stacked, np.nan).astype(np.float32).tobytes(), 4
    )


def overview_of(session: Session, log: LogRow) -> Overview:
    """The overview of a log that is kept."""
    row = session.get(LogRow, log.id, options=[undefer(LogRow.overview)], populate_existing=True)
    if row is None or row.overview is None:
        raise NotFound("This log is not read in.")
    data = zlib.decompress(row.overview)
    many, wide = np.frombuffer(data[:8], dtype=np.int32)
    table = np.frombuffer(data[8:], dtype=np.float32).reshape(int(many), int(wide)).astype(np.float64)
    half = (int(many) - 1) // 2
    return Overview(table[0], table[1 : 1 + half], table[1 + half :])


# Sources
def remembered(session: Session, source: str) -> list[dict[str, Any]]:
    """Which columns of a source were taken for what, last time; empty where nobody said."""
    row = session.get(LogSourceRow, source)
    return list(row.taken) if row is not None else []


def remember(session: Session, source: str, taken: list[dict[str, Any]]) -> None:
    """Remember which columns of a source are which quantities."""
    session.execute(
        insert(LogSourceRow)
        .values(source=source, taken=taken)
        .on_conflict_do_update(index_elements=["source"], set_={"taken": taken, "told": func.now()})
    )


def state_of(log: LogRow) -> LogState:
    """Its state."""
    return cast(LogState, log.state)
