"""What takes seconds to make and is only looked at: made once a run of the tests, in whichever process asks first, and taken from there by the others."""

from __future__ import annotations

import fcntl
import functools
import os
import pathlib
import pickle
from collections.abc import Callable
from typing import ParamSpec, TypeVar

#: The folder of a run, set by what starts it; without one, once a process.
FOLDER = "UPHILL_SPARK_TEST_ONCE"
P = ParamSpec("P")
T = TypeVar("T")


def once_a_run(make: Callable[P, T]) -> Callable[P, T]:
    """A function of texts and numbers whose answers the processes of a run share. Who comes while it is being made waits for it."""

    @functools.cache
    def of(*asked: P.args, **more: P.kwargs) -> T:
        folder = os.environ.get(FOLDER)
        if not folder:
            return make(*asked, **more)
        name = "-".join((make.__module__, make.__qualname__, *map(str, asked), *(f"{k}={v}" for k, v in sorted(more.items()))))
        kept = pathlib.Path(folder) / name
        with kept.with_name(f"{name}.lock").open("w") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX)
            if kept.exists():
                found: T = pickle.loads(kept.read_bytes())
                return found
            made = make(*asked, **more)
            kept.write_bytes(pickle.dumps(made))
            return made

    return of
