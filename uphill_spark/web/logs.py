"""Logs of drives: sent, read in, taken for what they are, read against the build on which they were driven; and what of it is put right."""

from __future__ import annotations

import datetime as dt
import hashlib
import json
import subprocess
import sys
import time
import uuid
from collections.abc import Iterator
from typing import Any

import numpy as np
from flask import Response, request
from flask_openapi3 import APIBlueprint, Tag

from .. import demo, store
from ..core.asked.trial import Trial
from ..core.errors import BuildError, Problem
from ..core.figures import told_again
from ..core.given.road import Deed, Drive
from ..core.live import QUANTITIES
from ..core.physics.air import Array
from ..core.ripple import ripple
from ..core.road import deeds
from ..core.road.columns import ColumnIs
from ..core.road.correct import Correction
from ..core.road.reading import LogSaid, correct_again
from ..core.worked import Worked
from ..formats import log_out, road_sheet, station_sheet
from ..formats.log_out import MEDIA
from ..formats.raw_log import LARGEST
from ..rules import rules
from ..store import answers, logs
from ..store.tables import LogRow
from .door import Opened, attachment, database, json_answer, opened, press, queue
from .errors import ErrorBody
from .log_models import (
    BrokenLine,
    ColumnsTaken,
    Deeds,
    DeedsAsked,
    DriveAsked,
    FileQuery,
    LogAnswer,
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
from .moved import Written, joined
from .papers import today

api = APIBlueprint(
    "logs", __name__, url_prefix="/api/builds/<uuid:build_id>/logs", abp_tags=[Tag(name="logs")], abp_responses={404: ErrorBody, 409: ErrorBody, 413: ErrorBody, 422: ErrorBody, 503: ErrorBody}
)  # fmt: skip
REASON_LEAST = 12  # characters of a reason
PATIENCE, LOOKS = 1.2, 0.08  # s that a request waits for a log to be read, between two looks
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
    size = 0
    with database().work() as session:
        row = logs.begin(
            session,
            path.build_id,
            log_id,
            name=query.name.rsplit(".", 1)[0][:120] or "log",
            day=query.day or dt.date.today(),
            who=query.who,
            kind="file",
        )
        for number, data in enumerate(_pieces()):
            size += len(data)
            logs.piece(session, row, number, data)
        if not size:
            raise BuildError("The file is empty.", (Problem("/file", "0 bytes", "a log as CSV or MDF 4"),))
        logs.arrived(session, row, size)
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
            data = demo.drive(build.demo or "")[1]
            for number, at in enumerate(range(0, len(data), logs.PIECE)):
                logs.piece(session, row, number, data[at : at + logs.PIECE])
            logs.arrived(session, row, len(data))
        else:
            logs.arrived(session, row, 0)
        told = _told(row)
    if body.what == "standin":
        opened(path.build_id).standing  # noqa: B018  # a build that cannot be worked out is told before it is driven
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
        row = logs.log_of(session, path.build_id, path.log_id)
        if row.state not in ("asks", "kept"):
            raise BuildError("This log is not read in yet.", (Problem("/taken", row.state, "a log that is read in"),))
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


# What it says
def _key(row: LogRow, found: Opened) -> str:
    """A sum over all that reading a log rests on: rules, the log and what its columns were taken for, the build on which it was driven."""
    said = json.dumps([rules(), "road", str(row.id), row.taken, row.name, row.day.isoformat(), found.standing.digest])
    return hashlib.sha256(said.encode()).hexdigest()


def _read(path: LogPath) -> tuple[LogRow, Opened, str]:
    with database().work() as session:
        row = logs.log_of(session, path.build_id, path.log_id)
    if row.state != "kept":
        raise BuildError("This log is not taken in yet.", (Problem("/log", row.state, "a log whose columns are told"),))
    found = opened(path.build_id, row.revision)
    return row, found, _key(row, found)


@api.get(
    "/<uuid:log_id>/said",
    responses={200: LogAnswer},
    summary="What a log says of the build on which it was driven: ask again while it is read",
)
def said(path: LogPath) -> Response:
    """The reading of a log."""
    row, found, key = _read(path)
    with database().work() as session:
        answer = answers.ask(session, key, "road")
    if answer.state == "waiting":
        queue().put(key, "road", path.build_id, row.revision, path.log_id)
    ends = time.monotonic() + PATIENCE
    while answers.state_of(answer) in ("waiting", "running") and time.monotonic() < ends:
        time.sleep(LOOKS)
        with database().work() as session:
            answer = answers.answer_row(session, key) or answer
    state = answers.state_of(answer)
    now = opened(path.build_id)
    before = _before(row, now)
    same = _as_driven(row, found, now)
    shown = "running" if state in ("waiting", "running") else "ready" if state == "ready" else "failed"
    return json_answer(
        joined(
            state=shown,
            answer=Written(answers.written(answer)) if state == "ready" else None,
            why=answer.why,
            revision=row.revision,
            same=same,
            in_build=before is not None,
            did=list(before.did) if before else [],
        )
    )


def said_now(path: LogPath) -> tuple[LogRow, Opened, LogSaid]:
    """What a log says, for what rests on it. Raises BuildError while it is not read."""
    row, found, key = _read(path)
    with database().work() as session:
        answer = answers.answer_row(session, key)
    if answer is None or answers.state_of(answer) != "ready":
        raise BuildError("This log is still being read.", (Problem("/log", "not read", "a moment of patience"),))
    return row, found, told_again(LogSaid, json.loads(answers.written(answer)))


@api.post(
    "/<uuid:log_id>/deeds",
    responses={200: Deeds},
    summary="What of it is put right, as an edit of the build, which is made by nobody yet; and what it would move",
)
def put_right(path: LogPath, body: DeedsAsked) -> Response:
    row, then, found = said_now(path)
    now = opened(path.build_id)
    if found.split is None or found.drive is None:
        raise BuildError("Nothing can be put right by this log.", (Problem("/log", found.why_not, "a log of which more may be believed"),))
    asked: list[Deed] = [*body.causes, *body.curves, *(["cells"] if body.cells else [])]  # type: ignore[list-item]
    before = _before(row, now)
    done = list(before.did) if before else []
    if asked and not _as_driven(row, then, now):
        raise BuildError(
            "What the unit runs on has changed since this drive: putting it right again would do it twice.",
            (Problem("/log", row.name, "a log of the car as it runs now: drive again"),),
        )
    if twice := [x for x in asked if x in done]:
        raise BuildError(
            "That was put right by this log already: again would do it twice.", (Problem("/log", twice[0], "another log: drive again"),)
        )
    trial = Trial(now.revision.document, now.standing.evaluated)
    patch: list[dict[str, Any]] = []
    words: list[str] = []
    drive = dict(found.drive) | {"corrected": before.corrected if before else 0}
    w = now.standing.worked
    for deed in asked:
        own, word = _deed(deed, w, then, found, body, drive)
        patch += own
        words.append(word)
        w = trial.of(patch, drawn=False).worked  # the next one changes the build with those before in it
    if asked or done:
        drive |= {"did": [*done, *asked], "left_at": w.road.ran_now}
    patch += deeds.drive_patch(now.revision.document, drive)
    reason = f"By the log '{row.name}' of {row.day.isoformat()}" + (f": {', '.join(words)}" if words else ": taken into the build")
    if body.cells and body.signed_by:
        reason += f". Leaner at high load, signed by {body.signed_by}: {body.signed_why}"
    return json_answer(Deeds(patch=patch, reason=reason[:600], ripple=ripple(now.standing.plan, trial.of(patch).plan)).model_dump_json())


def _before(row: LogRow, now: Opened) -> Drive | None:
    """The reading of this log that stands in the build; None where none does."""
    return next((d for d in now.standing.build.road.drives if d.log == str(row.id)), None)


def _as_driven(row: LogRow, then: Opened, now: Opened) -> bool:
    """Whether the unit runs on what it did when this was logged, but for what this log put right."""
    ran, before = now.standing.worked.road.ran_now, _before(row, now)
    return ran == then.standing.worked.road.ran_now or (before is not None and before.left_at == ran)


def _deed(deed: Deed, w: Worked, then: Opened, found: LogSaid, body: DeedsAsked, drive: dict[str, Any]) -> tuple[list[dict[str, Any]], str]:
    """The patch of one deed on a build, and its word. Raises BuildError for one that this log does not ask for."""
    if deed == "cells":
        corrected = _corrected(then, found, body)
        own = deeds.cells_patch(w, corrected)
        if not own:
            raise BuildError(
                "There is no cell to correct.", (Problem("/cells", "none off by more than its doubt", "a longer log, or leave them"),)
            )
        drive["corrected"] = corrected.moved
        return own, f"{corrected.moved} cells"
    if deed in ("warm_up", "after_start", "idle_air"):
        curve = {"warm_up": found.cold.warm_up, "after_start": found.cold.after_start, "idle_air": found.idle.proposed}[deed]
        if curve is None:
            raise BuildError(
                "This log proposes nothing there.", (Problem("/curves", deed, "a curve for which the log proposes something"),)
            )
        return deeds.proposed_patch(w, curve), curve.title.lower()
    cause = next((c for c in found.split.causes if c.key == deed), None) if found.split else None
    own = deeds.cause_patch(w, cause.key, cause.size, found.tip_ins.proposed) if cause is not None and cause.named else []
    if cause is None or not own:
        raise BuildError(
            "That cause is not put right by typing.",
            (Problem("/causes", deed, "a cause that is named and has a figure or a curve to put right"),),
        )
    return own, cause.name.lower()


def _corrected(then: Opened, found: LogSaid, body: DeedsAsked) -> Correction:
    """The cells as they would be corrected: as they were told, or again with somebody's word for leaner ones at high load."""
    signed = bool(body.signed_by.strip()) and len(body.signed_why.strip()) >= REASON_LEAST
    if body.signed_by.strip() and not signed:
        raise BuildError(
            "Leaner at high load needs a reason.",
            (Problem("/signed_why", body.signed_why, "a sentence: how it was measured that it is too rich there"),),
        )
    if found.correction is None:
        raise BuildError("There is no cell to correct.", (Problem("/cells", "no split", "a log of which more may be believed"),))
    if signed == found.signed and body.fill:
        return found.correction
    return correct_again(then.standing.worked, found, signed=signed, fill=body.fill)


@api.get("/<uuid:log_id>/plan.pdf", summary="What is still to be driven, for the passenger, as PDF")
def drive_plan(path: LogPath) -> Response:
    """The drive plan on paper."""
    row, found, answer = said_now(path)
    return _paper(found, road_sheet.to_drive(found.standing.plan, answer, row.name), "drive-plan")


@api.get("/<uuid:log_id>/reading.pdf", summary="What a log said, as PDF")
def reading_sheet(path: LogPath) -> Response:
    """The reading on paper."""
    row, found, answer = said_now(path)
    return _paper(found, road_sheet.reading(found.standing.plan, answer, row.name, row.day.isoformat()), "reading")


def _paper(found: Opened, sheet: station_sheet.Sheet, name: str) -> Response:
    written = station_sheet.pdf(sheet, found.standing.plan, f"revision {found.revision.number}", today(), press())
    return Response(written, mimetype="application/pdf", headers=attachment(f"{found.row.name} {name}", "pdf"))


# Rows and files
@api.get("/<uuid:log_id>/strip", responses={200: Strip}, summary="A stretch of a log in so many points, least and most of each")
def strip(path: LogPath, query: StripQuery) -> Response:
    wanted = [int(x) for x in query.columns.split(",")]
    with database().work() as session:
        row = logs.log_of(session, path.build_id, path.log_id)
        if row.state not in ("asks", "kept"):
            raise BuildError("This log is not read in.", (Problem("/log", row.state, "a log that is read in"),))
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
    session: Any, row: LogRow, edges: Array, wanted: list[int], begin: float, end: float, points: int
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
        row = logs.log_of(session, path.build_id, path.log_id)
        if row.state not in ("asks", "kept"):
            raise BuildError("This log is not read in.", (Problem("/log", row.state, "a log that is read in"),))
        time_at, *values = logs.columns_of(session, row, list(range(len(row.columns) + 1)))
    data = log_out.written(query.kind, time_at, [c["name"] for c in row.columns], [c["unit"] for c in row.columns], values)
    return Response(data, mimetype=MEDIA[query.kind].partition(";")[0], headers=attachment(f"{row.name} {row.day}", query.kind))
