"""Builds worked out, remembered by what their document says: a plan is a function of its document, so one hash tells both.

Memory only; any process can make it again. What many ask for at once is worked out once.
"""

from __future__ import annotations

import hashlib
import json
import logging
import threading
import time
from concurrent.futures import Future, ThreadPoolExecutor, wait
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from cachetools import LRUCache, cached

from ..core.asked import Answer, Subject, Trial, answer
from ..core.errors import BuildError, NotConverged, SparkError, WorkedTooLong
from ..core.given import Build, parse
from ..core.given.readings import Readings, readings
from ..core.plan import Evaluated, Plan, evaluated
from ..core.units import Units
from ..core.worked import Still, Worked

log = logging.getLogger("uphill_spark")
#: What may be remembered, by a rough size of each [bytes].
BUILDS_MOST, ANSWERS_MOST = 48_000_000, 16_000_000
#: What a worked build holds besides its document: results, network, plan (measured: 1.1 MB where an edit made it, 1.3 MB from nothing).
_WORKED_SIZE = 1_300_000
#: How long a request waits for what takes a while before it is told that it runs [s].
PATIENCE = 2.5
#: How much work a build may be to work out [s of a processor]. The largest that the format takes needs a fiftieth of it.
WORKED_MOST = 5.0


class CannotBeWorkedOut(SparkError):
    """A document that is a build, and that the rules stumble over all the same."""


@dataclass(frozen=True)
class Standing:
    """A build as it stands: document, build, all that is worked out from it, what was read in it."""

    digest: str
    document: dict[str, Any]
    evaluated: Evaluated
    read: Readings

    @property
    def worked(self) -> Worked:
        """All that is worked out from the build, its work with it."""
        return self.evaluated.of_work.worked

    @property
    def plan(self) -> Plan:
        """Its plan."""
        return self.evaluated.plan

    @property
    def build(self) -> Build:
        """The build."""
        return self.worked.build

    @cached_property
    def trial(self) -> Trial:
        """The build as something to try changes on. One for all that is asked, so that what two ask is tried once."""
        return Trial(self.document, self.evaluated)


@dataclass
class Running:
    """An answer that is on its way, or its failure."""

    future: Future[Answer | None]
    since: float = field(default_factory=time.monotonic)


def digest_of(document: dict[str, Any]) -> str:
    """The hash of what a document says, whatever the order of its keys."""
    return hashlib.sha256(json.dumps(document, sort_keys=True, separators=(",", ":")).encode()).hexdigest()


class Remembered:
    """What was worked out lately."""

    def __init__(self) -> None:
        self._builds: LRUCache[str, Standing] = LRUCache(BUILDS_MOST, getsizeof=lambda s: _WORKED_SIZE + 4 * len(str(s.document)))
        self._answers: LRUCache[tuple[str, Subject], Running] = LRUCache(ANSWERS_MOST, getsizeof=lambda _: 150_000)
        self._lock = threading.Lock()
        self._pool = ThreadPoolExecutor(2, thread_name_prefix="asked")
        self._once = cached(self._builds, key=lambda digest, *_: digest, condition=threading.Condition())(_work_out)

    def of(
        self, document: dict[str, Any], before: Standing | None = None, build: Build | None = None, units: Units = "as_written"
    ) -> Standing:
        """A document worked out and told in `units`; from `before`, told in the same, as far as nothing changed. `build` saves reading it again. Raises CannotBeWorkedOut, or BuildError."""
        digest = digest_of(document) + ("" if units == "as_written" else f" {units}")
        return self._once(digest, document, before, build, units)

    def asked(self, standing: Standing, subject: Subject, patience: float = PATIENCE) -> Running:
        """What takes a while: begun if nobody has asked before, and waited for a little."""
        key = (standing.digest, subject)
        with self._lock:
            running = self._answers.get(key)
            if running is None:
                running = self._answers[key] = Running(self._pool.submit(answer, subject, standing.trial))
        wait([running.future], timeout=patience)
        return running

    def answer(self, standing: Standing, subject: Subject) -> Answer | None:
        """The same, waited for to the end: for papers."""
        return self.asked(standing, subject, patience=60.0).future.result(timeout=0)

    def close(self) -> None:
        """Let go of what still runs."""
        self._pool.shutdown(wait=False, cancel_futures=True)


def _until(seconds: float) -> Still:
    """Gives up once this thread has worked so many seconds. A machine that is held up by others makes no build too long."""
    end = time.thread_time() + seconds

    def still() -> None:
        if time.thread_time() > end:
            raise WorkedTooLong(
                f"This build takes longer than {seconds:g} s to work out. Take out lists that it can do without. Nothing was stored."
            )

    return still


def _work_out(digest: str, document: dict[str, Any], before: Standing | None, build: Build | None, units: Units) -> Standing:
    build = parse(document) if build is None else build
    try:
        found = evaluated(build, before.evaluated if before else None, _until(WORKED_MOST), units)
        return Standing(digest, document, found, readings(build, units))
    except (BuildError, NotConverged, WorkedTooLong):
        raise
    except Exception as error:  # a rule that breaks on a build is told as such, with the build kept out of the store
        raise CannotBeWorkedOut(f"This build cannot be worked out ({type(error).__name__}). Nothing was stored.") from error
