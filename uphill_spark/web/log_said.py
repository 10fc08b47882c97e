"""What a log says of the build on which it was driven; what of it is put right, as an edit; the same on paper."""

from __future__ import annotations

import hashlib
import json
import time
from typing import Any

from flask import Response

from ..core.asked.trial import Trial
from ..core.errors import BuildError, Problem
from ..core.figures import told_again
from ..core.given.road import Deed, Drive
from ..core.ripple import ripple
from ..core.road import deeds
from ..core.road.correct import Correction
from ..core.road.reading import LogSaid, correct_again
from ..core.worked import Worked
from ..formats import road_sheet, station_sheet
from ..rules import rules
from ..store import answers, logs
from ..store.tables import LogRow
from .door import Opened, attachment, database, json_answer, opened, press, queue
from .interface import Interface
from .log_models import Deeds, DeedsAsked, LogAnswer, LogPath
from .moved import Written, joined
from .papers import today

api = Interface("log_said", __name__, "/api/builds/<uuid:build_id>/logs", under="logs", refuses=(404, 409, 413, 422, 503))
REASON_LEAST = 12  # characters of a reason
PATIENCE, LOOKS = 1.2, 0.08  # s that a request waits for a log to be read, between two looks


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
