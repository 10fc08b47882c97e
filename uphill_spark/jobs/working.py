"""One piece of work out of the queue: the build opened, the answer worked out and put where everybody finds it."""

from __future__ import annotations

import logging
import time
import uuid

from .. import store
from ..core.asked import LONG, Subject, Trial
from ..core.errors import SparkError
from ..core.given import parse
from ..core.plan import evaluated
from ..store import answers, logs
from .cancelled import Cancelled
from .logging_in import said_of

log = logging.getLogger("uphill_spark")
TELLS = 0.25  # s between two words how far it is
TRIES = 3  # of a piece of work that broke off each time, with its worker or because the store was away, before it is left alone
_DIED = "Working this out has broken off three times: it is left alone. The server's log says more."
_WRONG = "Something went wrong in working this out. The server's log says what."


def work_on(
    database: store.Database, key: str, subject: Subject, build: uuid.UUID, revision: int, tries: int = 0, of_log: uuid.UUID | None = None
) -> None:
    """Work out what is asked of a build at a revision, or of a log of it, and keep it under its key. Raises StoreDown: then it is as if it had not been begun."""
    with database.work() as session:
        if tries >= TRIES:
            answers.finish(session, key, None, _DIED)
            return
        if not answers.begin(session, key):
            return
        try:
            document = store.revision(session, build, revision).document
            row = logs.log_of(session, build, of_log) if of_log is not None else None
        except store.NotFound:
            answers.cancel(session, key)
            return
    told = 0.0

    def tell(share: float) -> None:
        nonlocal told
        if time.monotonic() - told < TELLS:
            return
        told = time.monotonic()
        with database.work() as session:
            if not answers.how_far(session, key, share):
                raise Cancelled

    try:
        found = (
            said_of(database, row, document, tell)
            if row is not None
            else LONG[subject].work(Trial(document, evaluated(parse(document))), tell)
        )
        text, why = found.model_dump_json(), ""
    except (Cancelled, store.StoreDown, store.Busy) as error:
        if isinstance(error, Cancelled):
            return
        raise
    except SparkError as error:
        text, why = None, str(error)
    except Exception:
        log.exception("asked for %s of build %s at %d", subject, build, revision)
        text, why = None, _WRONG
    with database.work() as session:
        answers.finish(session, key, text, why)
