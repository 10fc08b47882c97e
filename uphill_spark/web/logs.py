"""Logs of drives: sent, driven by the stand-in or kept off the bus, taken for what they are, looked at, written out. What they say is `log_said`."""

from __future__ import annotations

import datetime as dt
import subprocess
import sys
import threading
import uuid
from collections.abc import Iterator

import numpy as np
from flask import Response, request
from sqlalchemy.orm import Session

from .. import demo, store
from ..core.errors import BuildError, Problem
from ..core.live import QUANTITIES
from ..core.physics.air import Array
from ..core.road.columns import ColumnIs
from ..formats import log_out
from ..formats.log_out import MEDIA
from ..formats.raw_log import LARGEST
from ..store import logs
from ..store.tables import LogRow
from .door import attachment, database, json_answer, opened, queue
from .interface import Interface
from .log_models import (
    BrokenLine,
    ColumnsTaken,
    DriveAsked,
    FileQuery,
    LogChange,
    LogLine,
    LogList,
    LogPath,
    LogQuery,
    LogTold,
    RecordAsked,
    Recording,
    Strip,
    StripColumn,
    StripQuery,
)
from .models import BuildPath

api = Interface("logs", __name__, "/api/builds/<uuid:build_id>/logs", refuses=(404, 409, 413, 422, 503))
_AT_ONCE = 2.0  # of the points asked for, in stretches of the overview, from where on that will do


def _line(row: LogRow) -> LogLine:
    return LogLine(
        id=row.id, name=row.name, day=row.day, note=row.note, photos=row.photos, who=row.who, kind=row.kind, state=logs.state_of(row), progress=round(row.progress, 3), why=row.why, rows=row.rows, seconds=round(row.seconds, 1),
        bytes=row.size, packed=row.packed, revision=row.revision, broken=row.broken_count, taken_in=row.state == "kept",
    )  # fmt: skip


def _told(row: LogRow) -> LogTold:
    return LogTold(
        line=_line(row), columns=row.columns, taken=row.taken, quantities=list(QUANTITIES.values()), broken=[BrokenLine.model_validate(b) for b in row.broken], broken_count=row.broken_count, cells_lost=row.cells_lost, notes=row.notes  # type: ignore[arg-type]
    )  # fmt: skip


def _read_in(session: Session, path: LogPath) -> LogRow:
    """A log whose rows are here. Raises BuildError while they are not."""
    row = logs.log_of(session, path.build_id, path.log_id)
    if row.state not in ("asks", "kept"):
        raise BuildError("This log is not read in yet.", (Problem("/log", row.state, "a log that is read in"),))
    return row


@api.get("", responses={200: LogList}, summary="The logs of a build, newest first")
def every(path: BuildPath) -> Response:
    return _every(path.build_id)


def _every(build_id: uuid.UUID) -> Response:
    with database().work() as session:
        ships = store.get(session, build_id).demo is not None
        lines = [_line(row) for row in logs.logs_of(session, build_id)]
    return json_answer(LogList(logs=lines, ships=ships, most=LARGEST).model_dump_json())


@api.post(
    "",
    responses={201: LogTold},
    summary="A log sent; the body is the file itself. It is read in beside this, and its own address says how far that is",
)
def send(path: BuildPath, query: LogQuery) -> Response:
    log_id = query.id or uuid.uuid4()
    with database().work() as session:
        row = logs.begin(
            session,
            path.build_id,
            log_id,
            name=query.name.rsplit(".", 1)[0][: logs.NAME_MOST] or "log",
            day=query.day or dt.date.today(),
            who=query.who,
            kind="file",
        )
        if not logs.file_in(session, row, _pieces()):
            raise BuildError("The file is empty.", (Problem("/file", "0 bytes", "a log as CSV or MDF 4"),))
        told = _told(row)
    queue().take_in(log_id)
    return json_answer(told.model_dump_json(), 201)


def _pieces() -> Iterator[bytes]:
    while data := request.stream.read(logs.PIECE):
        yield data


@api.post(
    "/drive",
    responses={201: LogTold},
    summary="Have the stand-in drive this car as it stands, or bring the drive that ships with a demo car",
)
def drive(path: BuildPath, body: DriveAsked) -> Response:
    if body.what == "standin":
        opened(path.build_id).standing  # noqa: B018  # a build that cannot be worked out is told, and nothing of its drive stored
    with database().work() as session:
        build = store.get(session, path.build_id)
        if body.what == "shipped" and build.demo is None:
            raise store.NotFound("No drive ships for this car: only the demo cars have one.")
        name = "Drive that ships" if body.what == "shipped" else "Drive of the stand-in"
        row = logs.begin(
            session,
            path.build_id,
            body.id,
            name=name,
            day=body.day or dt.date.today(),
            who=body.who,
            kind="file" if body.what == "shipped" else "standin",
            revision=1 if body.what == "shipped" else None,
        )
        if body.what == "shipped":
            logs.file_in(session, row, logs.cut(demo.drive(build.demo or "")[1]))
        else:
            logs.file_in(session, row, ())
        told = _told(row)
    queue().take_in(body.id)
    return json_answer(told.model_dump_json(), 201)


@api.post("/record", responses={200: Recording}, summary="Keep what the bus of First start says, as a log; or end that, and read it in")
def record(path: BuildPath, body: RecordAsked) -> Response:
    with database().work() as session:
        going = next((row for row in logs.logs_of(session, path.build_id) if row.kind == "record" and row.state == "arriving"), None)
        if not body.on:
            if going is None:
                return json_answer(Recording(on=False, seconds=0.0, samples=0).model_dump_json())
            going.state = "waiting"
            return json_answer(Recording(on=False, seconds=going.seconds, samples=going.rows, log=going.id).model_dump_json())
        if going is not None:
            return json_answer(Recording(on=True, seconds=going.seconds, samples=going.rows, log=going.id).model_dump_json())
        log_id = body.id or uuid.uuid4()
        logs.begin(session, path.build_id, log_id, name="Kept off the bus", day=body.day or dt.date.today(), who=body.who, kind="record")
    _recorder(path.build_id, log_id)
    return json_answer(Recording(on=True, seconds=0.0, samples=0, log=log_id).model_dump_json())


def _recorder(build_id: uuid.UUID, log_id: uuid.UUID) -> None:
    """A process that keeps what the bus says until the log is no longer arriving: which web process is asked to end it does not matter."""
    process = subprocess.Popen(
        [sys.executable, "-m", "uphill_spark.jobs.recording", str(build_id), str(log_id)],
        stdin=subprocess.PIPE,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
    )
    if process.stdin is not None:
        process.stdin.write(database().url.encode())
        process.stdin.close()
    threading.Thread(target=process.wait, daemon=True).start()  # so that it leaves nothing behind when it ends


@api.get("/<uuid:log_id>", responses={200: LogTold}, summary="A log: its columns, what they are taken for, lines that were none")
def one(path: LogPath) -> Response:
    with database().work() as session:
        return json_answer(_told(logs.log_of(session, path.build_id, path.log_id)).model_dump_json())


@api.patch("/<uuid:log_id>", responses={200: LogTold}, summary="What a person writes about a log")
def rewrite(path: LogPath, body: LogChange) -> Response:
    with database().work() as session:
        row = logs.log_of(session, path.build_id, path.log_id)
        if body.revision is not None:
            store.revision(session, path.build_id, body.revision)
        for name, value in body.model_dump(exclude_unset=True).items():
            if value is not None:
                setattr(row, name, value)
        session.flush()
        return json_answer(_told(row).model_dump_json())


@api.put(
    "/<uuid:log_id>/columns", responses={200: LogTold}, summary="Which columns are which quantities; remembered for logs of the same source"
)
def take(path: LogPath, body: ColumnsTaken) -> Response:
    with database().work() as session:
        row = _read_in(session, path)
        known = {c["name"] for c in row.columns}
        seen: set[str] = set()
        for k, t in enumerate(body.taken):
            if t.column not in known:
                raise BuildError(
                    "That column is not in this log.", (Problem(f"/taken/{k}/column", t.column, f"one of {', '.join(sorted(known)[:12])}"),)
                )
            if t.quantity in seen:
                raise BuildError(
                    "A quantity is told twice.",
                    (Problem(f"/taken/{k}/quantity", QUANTITIES[t.quantity].word, "each quantity from one column"),),
                )
            seen.add(t.quantity)
        if "speed" not in seen:
            raise BuildError(
                "Nothing of it is the engine's speed.",
                (Problem("/taken", "no engine speed", "the column that is the engine's speed, first of all"),),
            )
        row.taken = [
            ColumnIs(
                column=t.column, quantity=t.quantity, factor=t.factor, offset=t.offset, why="as it was said", remembered=True
            ).model_dump()
            for t in body.taken
        ]
        row.state = "kept"
        logs.remember(session, row.source, [dict(t) for t in row.taken])
        session.flush()
        return json_answer(_told(row).model_dump_json())


@api.delete("/<uuid:log_id>", responses={200: LogList}, summary="Give up a log that is on its way, or take one away with all of it")
def away(path: LogPath) -> Response:
    with database().work() as session:
        row = logs.log_of(session, path.build_id, path.log_id)
        if row.state in ("arriving", "waiting", "reading"):
            logs.cancel(session, row)
        else:
            logs.take_away(session, row)
        session.flush()
    return _every(path.build_id)


# Rows and files
@api.get("/<uuid:log_id>/strip", responses={200: Strip}, summary="A stretch of a log in so many points, least and most of each")
def strip(path: LogPath, query: StripQuery) -> Response:
    wanted = [int(x) for x in query.columns.split(",")]
    with database().work() as session:
        row = _read_in(session, path)
        if any(not 1 <= c <= len(row.columns) for c in wanted):
            raise BuildError("There is no such column.", (Problem("/columns", query.columns, f"numbers from 1 to {len(row.columns)}"),))
        overview = logs.overview_of(session, row)
        end = query.end if query.end is not None else row.seconds
        inside = (overview.time >= query.begin) & (overview.time <= end)
        if row.rows <= logs.STRETCHES or int(inside.sum()) * _AT_ONCE >= query.points or end - query.begin >= row.seconds:
            time_at, lows, highs, each = (
                overview.time[inside],
                overview.low[[c - 1 for c in wanted]][:, inside],
                overview.high[[c - 1 for c in wanted]][:, inside],
                row.rows / max(len(overview.time), 1),
            )
            time_at, lows, highs = _thinned(time_at, lows, highs, query.points)
        else:
            time_at, lows, highs, each = _close(session, row, overview.time, wanted, query.begin, end, query.points)
    return json_answer(
        Strip(
            time=[round(float(t), 3) for t in time_at],
            columns=[StripColumn(number=c, low=_short(lo), high=_short(hi)) for c, lo, hi in zip(wanted, lows, highs, strict=True)],
            rows_each=round(each, 2),
        ).model_dump_json()
    )


def _short(values: Array) -> list[float | None]:
    return [None if not np.isfinite(v) else float(f"{v:.5g}") for v in values]


def _thinned(time_at: Array, lows: Array, highs: Array, points: int) -> tuple[Array, Array, Array]:
    if len(time_at) <= points:
        return time_at, lows, highs
    edges = np.unique(np.linspace(0, len(time_at), points + 1).astype(int))[:-1]
    return time_at[edges], np.fmin.reduceat(lows, edges, axis=1), np.fmax.reduceat(highs, edges, axis=1)


def _close(
    session: Session, row: LogRow, edges: Array, wanted: list[int], begin: float, end: float, points: int
) -> tuple[Array, Array, Array, float]:
    """A stretch from the rows themselves."""
    per = row.rows / len(edges)
    first = max(int((np.searchsorted(edges, begin) - 2) * per), 0)
    last = min(int((np.searchsorted(edges, end) + 2) * per) + 1, row.rows)
    clock, *values = logs.columns_of(session, row, [0, *wanted], first, last)
    a, b = np.searchsorted(clock, (begin, end + 1e-9))
    clock, table = clock[a:b], np.array([v[a:b] for v in values])
    many = len(clock)
    if many == 0:
        return clock, table, table, 1.0
    time_at, lows, highs = _thinned(clock, table, table, points)
    return time_at, lows, highs, max(many / points, 1.0)


@api.get("/<uuid:log_id>/file", summary="A log as an open format, with every column that it came with")
def file(path: LogPath, query: FileQuery) -> Response:
    """The log as it came, as another file."""
    with database().work() as session:
        row = _read_in(session, path)
        time_at, *values = logs.columns_of(session, row, list(range(len(row.columns) + 1)))
    data = log_out.written(query.kind, time_at, [c["name"] for c in row.columns], [c["unit"] for c in row.columns], values)
    return Response(data, mimetype=MEDIA[query.kind].partition(";")[0], headers=attachment(f"{row.name} {row.day}", query.kind))
