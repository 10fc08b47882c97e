"""What takes a while and is worked out on asking: one address, which answers ready, running or failed."""

from __future__ import annotations

import hashlib
import json
import logging
import time

from flask import Response

from .. import store
from ..core.asked import LONG, Subject
from ..core.errors import SparkError
from ..core.worked import Worked
from ..rules import rules
from ..store import answers
from ..store.tables import AnswerRow
from .door import Opened, database, json_answer, opened, queue, remembered
from .interface import Interface
from .models import AgainRequest, AskedAnswer, AskedPath, PaperQuery
from .moved import Written, joined

api = Interface("asked", __name__, "/api/builds/<uuid:build_id>/asked")
log = logging.getLogger("uphill_spark")


@api.get(
    "/<string:subject>", responses={200: AskedAnswer}, summary="Something that takes a while, on one revision: ask again while it runs"
)
def asked(path: AskedPath, query: PaperQuery) -> Response:
    found = opened(path.build_id, query.revision)
    if path.subject in LONG:
        return _long(found, path.subject, again=False)
    future = remembered().asked(found.standing, path.subject).future
    number = found.revision.number
    if not future.done():
        return json_answer(joined(revision=number, state="running", answer=None, why=""))
    error = future.exception()
    if error is not None:
        if not isinstance(error, SparkError):
            log.error("asked for %s of build %s", path.subject, path.build_id, exc_info=error)
        why = str(error) if isinstance(error, SparkError) else "Something went wrong in working this out. The server's log says what."
        return json_answer(joined(revision=number, state="failed", answer=None, why=why))
    return json_answer(joined(revision=number, state="ready", answer=future.result(), why=""))


@api.post("/<string:subject>", responses={200: AskedAnswer}, summary="The same once more, after it was cancelled or failed")
def asked_again(path: AskedPath, query: PaperQuery, body: AgainRequest) -> Response:
    found = opened(path.build_id, query.revision)
    return _long(found, _long_one(path.subject), again=True)


@api.delete("/<string:subject>", responses={200: AskedAnswer}, summary="Give up what is being worked out, for everybody who waits for it")
def given_up(path: AskedPath, query: PaperQuery) -> Response:
    found = opened(path.build_id, query.revision)
    key = key_of(found, _long_one(path.subject))
    with database().work() as session:
        answers.cancel(session, key)
        row = answers.answer_row(session, key)
    return (
        _told(found, row)
        if row is not None
        else json_answer(joined(revision=found.revision.number, state="cancelled", answer=None, why=""))
    )


def _long_one(subject: Subject) -> Subject:
    if subject not in LONG:
        raise store.NotFound(f"{subject} is worked out at once: there is nothing to give up or to begin again.")
    return subject


def key_of(found: Opened, subject: Subject) -> str:
    """The sum under which an answer for a build as it stands is kept."""
    return sum_of(found.standing.worked, subject)


def sum_of(worked: Worked, subject: Subject) -> str:
    """A sum over all that an answer rests on: rules, subject, what of the build it looks at."""
    said = json.dumps([rules(), subject, LONG[subject].rests_on(worked)])
    return hashlib.sha256(said.encode()).hexdigest()


def _long(found: Opened, subject: Subject, *, again: bool) -> Response:
    """An answer that is worked out beside this process: put into the queue by the first who asks, waited for a little."""
    try:
        key = key_of(found, subject)
    except SparkError as error:  # its measures make no engine: there is nothing to work
        return json_answer(joined(revision=found.revision.number, state="failed", answer=None, why=str(error)))
    with database().work() as session:
        row = answers.ask(session, key, subject, again=again)
    if row.state == "waiting":
        queue().put(key, subject, found.row.id, found.revision.number)
    ends = time.monotonic() + PATIENCE
    while answers.state_of(row) in ("waiting", "running") and time.monotonic() < ends:
        time.sleep(LOOKS)
        with database().work() as session:
            row = answers.answer_row(session, key) or row
    return _told(found, row)


PATIENCE, LOOKS = 0.9, 0.15  # s that a request waits for an answer, between two looks


def _told(found: Opened, row: AnswerRow) -> Response:
    state = answers.state_of(row)
    shown = "running" if state == "waiting" else state
    answer = Written(answers.written(row)) if state == "ready" else None
    return json_answer(
        joined(
            revision=found.revision.number, state=shown, answer=answer, why=row.why, progress=row.progress if state == "running" else None
        )
    )
