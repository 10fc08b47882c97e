"""Papers printed in a process of their own, with a limit of time, and remembered by what is on them: printing is the longest thing that this server does."""

from __future__ import annotations

import contextlib
import hashlib
import threading
from concurrent.futures import ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool

from cachetools import LRUCache

from .. import processes
from ..formats.printing import Printed, to_pdf

#: What may be remembered [bytes], how long a paper may take [s], after how many a process makes way for a fresh one.
REMEMBERED = 24_000_000
LONGEST = 25.0
PAPERS = 200


class TooLong(Exception):
    """A paper that did not come to its end in time."""


class Press:
    """Prints pages. `apart` has them printed by another process, so that everybody else is answered meanwhile."""

    def __init__(self, *, apart: bool) -> None:
        self._apart = apart
        self._pool: ProcessPoolExecutor | None = None
        self._lock = threading.Lock()
        self._printed: LRUCache[str, Printed] = LRUCache(REMEMBERED, getsizeof=lambda p: len(p.data))

    def __call__(self, page: str) -> Printed:
        """A page printed. Raises TooLong."""
        key = hashlib.sha256(page.encode()).hexdigest()
        with self._lock:
            found = self._printed.get(key)
        if found is None:
            found = self._elsewhere(page) if self._apart else to_pdf(page)
            with self._lock:
                if len(found.data) < REMEMBERED:
                    self._printed[key] = found
        return found

    def warm(self, after: float = 2.0) -> None:
        """Have the press ready for the first paper, once everybody who waited for the start has been served."""

        def print_something() -> None:
            with contextlib.suppress(TooLong, BrokenProcessPool, RuntimeError):  # the server may be stopping already
                self("<p>The press is warm.")

        timer = threading.Timer(after, print_something)
        timer.daemon = True
        timer.start()

    def _elsewhere(self, page: str) -> Printed:
        for again in (True, False):
            pool = self._running()
            try:
                return pool.submit(to_pdf, page).result(LONGEST)
            except TimeoutError as error:
                self._stop(pool)
                raise TooLong(f"The paper was not done in {LONGEST:.0f} seconds.") from error
            except BrokenProcessPool:  # its process was killed, by whom ever
                self._stop(pool)
                if not again:
                    raise
        raise AssertionError("the loop ends by an answer or an error")

    def _running(self) -> ProcessPoolExecutor:
        with self._lock:
            if self._pool is None:
                self._pool = processes.pool(1, tasks_each=PAPERS)
            return self._pool

    def _stop(self, pool: ProcessPoolExecutor) -> None:
        """Put an end to a press that hangs: what waits for it is told, and the next paper gets a fresh one."""
        with self._lock:
            if self._pool is pool:
                self._pool = None
        for process in list((pool._processes or {}).values()):
            process.kill()
        pool.shutdown(wait=False, cancel_futures=True)
