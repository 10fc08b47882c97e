"""Pools of processes of which none outlives the one that made it."""

from __future__ import annotations

import multiprocessing
import os
import threading
from concurrent.futures import ProcessPoolExecutor


def pool(processes: int, *, tasks_each: int | None = None) -> ProcessPoolExecutor:
    """A pool whose processes end when this one does, however it ends.

    The standard pool's processes wait for work on a pipe whose writing end they hold themselves, so they never see it close: one that is
    orphaned by a kill would wait for ever, with all that it has loaded.
    """
    return ProcessPoolExecutor(
        processes, mp_context=multiprocessing.get_context("spawn"), initializer=_end_with_parent, max_tasks_per_child=tasks_each
    )


def _end_with_parent() -> None:
    parent = multiprocessing.parent_process()
    assert parent is not None, "only a pool's process is begun by this"

    def wait() -> None:
        parent.join()
        os._exit(1)  # nobody is left to tell

    threading.Thread(target=wait, daemon=True).start()
