"""Drives of the stand-in for tests, side by side and driven once a run: each with an error that is known."""

from __future__ import annotations

import functools
from typing import Any

import numpy as np

from tests.builds import document
from tests.once import once_a_run
from uphill_spark.core.given import parse
from uphill_spark.core.logs import Log
from uphill_spark.core.plan import evaluated
from uphill_spark.core.standin.drive import Drive, Leg, Truth, set_cycle
from uphill_spark.core.worked import Worked

#: By name what is put in, with what a real log has besides: noise, and a sensor that is late.
TRUTHS: dict[str, Truth] = {
    "nothing": Truth(), "scale": Truth(flow=0.93), "dead_time": Truth(dead_s=0.11e-3), "reference": Truth(open_air=1.0, delay_s=0.05), "air": Truth(air=0.18), "high_flow": Truth(sags=0.3),
    "bank": Truth(bank=0.035, noise=1.2), "tip_in": Truth(tip=0.12), "table": Truth(bumps=0.07, seed=4), "two": Truth(flow=1.06, air=-0.16, delay_s=0.1, drift=0.004),
}  # fmt: skip


@functools.cache
def tern() -> Worked:
    """The Tern, worked out."""
    return evaluated(parse(document())).worked


@once_a_run
def driven() -> dict[str, Log]:
    """A short warm drive of each truth."""
    legs = [*set_cycle(5, cold=False)[:36], Leg("idle", 22), Leg("hold", 5, 0.3, 0.5, 3), Leg("pull", 12, 0.18, 1.0, 3)]
    logs = Drive(tern(), list(TRUTHS.values()), legs, seed=5).run()
    return {name: as_log(columns) for name, columns in zip(TRUTHS, logs, strict=True)}


def as_log(columns: dict[str, Any]) -> Log:
    """Columns with their clock as a log."""
    own = dict(columns)
    time = own.pop("time")
    return Log(time, own)


def flat(seconds: float = 60.0, every: float = 0.05, **columns: Any) -> Log:
    """A log that stands still: warm, 2,000 rpm, half load, right mixture, but for what is told."""
    n = round(seconds / every)
    usual: dict[str, Any] = {
        "speed": 2000.0,
        "manifold": 55.0,
        "throttle": 18.0,
        "coolant": 88.0,
        "air": 25.0,
        "lambda": 1 + 0.004 * np.random.default_rng(n).normal(size=n),
        "target": 1.0,
        "volts": 13.8,
    }
    return Log(
        np.arange(n) * every, {k: np.broadcast_to(np.asarray(v, dtype=np.float64), n).copy() for k, v in {**usual, **columns}.items()}
    )
