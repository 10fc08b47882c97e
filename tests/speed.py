"""How fast the machine is just now: a fixed piece of work, against the machine that every goal of time was set on. Machines differ by four, and one and the same by two."""

from __future__ import annotations

import json
import statistics
import time

#: The yardstick [ms] on the machine that the goals were set on.
REFERENCE = 5.2


def yardstick() -> None:
    """A fixed piece of Python and JSON work."""
    json.loads(json.dumps({str(i): [i * 0.5, str(i)] for i in range(4000)}))
    sum(i * i for i in range(40_000))


def slower() -> float:
    """How many times slower this machine is just now than that one."""
    took = []
    for _ in range(15):
        since = time.perf_counter()
        yardstick()
        took.append((time.perf_counter() - since) * 1e3)
    return statistics.median(took) / REFERENCE
