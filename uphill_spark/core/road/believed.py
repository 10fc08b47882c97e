"""Which rows of a log may be believed for what the mixture says, and which of its rows each rule took away.

A mixture is judged while nothing moves: warm, running, fuel on, foot still, sensor hot and inside of what its controller can say (Heywood, ch. 7; Aquino, SAE 810494, for why moving throttles are left out).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy.ndimage import maximum_filter1d

from ..figures import Result
from ..logs import Log, Mask, stretches
from ..physics.air import Array

WARM_C = 70.0
STILL_S = 0.5  # for which foot and speed have to have stood still
FOOT_MOST, SPEED_MOST = 12.0, 500.0  # % of the throttle, and rpm, in a second
SETTLES_S = 1.5  # after fuel came back, until the sensor shows it
STARTED_S = 15.0  # after the engine caught
SHUT, OVER_RUN = 1.5, 1500.0  # % of the throttle, rpm: a shut throttle over that is the over-run
LAMBDA_AIR = 1.9  # over which a sensor sees air
PEG_SHARE = 0.02  # of the running rows at the very edge of what it says, from where that edge is where it pegs
STUCK_S, STUCK = 20.0, 0.0015  # s in which a hot sensor moves by more than that, while the foot moves
SPANS_MOST = 500

Rule = Literal["stands", "cold", "started", "over_run", "moves", "silent", "pegged", "fault"]
WORDS: dict[Rule, tuple[str, str]] = {
    "stands": ("Not running", "the engine stands, or the starter turns it"),
    "cold": ("Cold", f"coolant under {WARM_C:.0f} °C: warm-up fuel is in it"),
    "started": ("Just started", f"the first {STARTED_S:.0f} s after it caught"),
    "over_run": ("Over-run", "foot off: no fuel, or only just again"),
    "moves": ("Moving", f"foot or speed moved within {STILL_S:g} s: fuel wets the wall, and the sensor lags"),
    "silent": ("No mixture", "no figure from the oxygen sensor, or it is cold"),
    "pegged": ("Pegged", "at the end of what the sensor's controller can say"),
    "fault": ("Fault flagged", "the control unit itself says that something is wrong"),
}


class Sieve(Result):
    """A rule of the funnel: rows and seconds that it took of those that were left, what is left after it, and where it took them [s, from and to]."""

    key: Rule
    word: str
    why: str
    took: int
    took_s: float
    left: int
    spans: list[list[float]]


class Sensor(Result):
    """The oxygen sensor as the log shows it: what it says at most, lean and rich (None: it never stood there), when it was hot [s from the first row], whether it is stuck, and share of running rows at an end."""

    rich_end: float | None
    lean_end: float | None
    hot_after_s: float | None
    stuck: bool
    pegged: float
    words: str


@dataclass(frozen=True)
class Believed:
    """Rows that may be believed, rows whose mixture can be read at all (moving or not), the funnel, the sensor."""

    mask: Mask
    readable: Mask
    funnel: list[Sieve]
    sensor: Sensor


def believed(log: Log) -> Believed:
    """Sieve a log. What is not logged takes nothing away."""
    running = log.running
    coolant, throttle, speed = log.filled("coolant"), log.filled("throttle"), log.filled("speed")
    sensor, silent, pegged = _sensor(log)
    cold = coolant < WARM_C
    rules: dict[Rule, Mask] = {
        "stands": ~running,
        "cold": np.where(np.isfinite(coolant), cold, False),
        "started": _after(log, ~running, STARTED_S),
        "over_run": _over_run(log, throttle, speed),
        "silent": silent,
        "pegged": pegged,
        "fault": np.nan_to_num(log.get("fault")) > 0.5,
        "moves": _moves(log, throttle, speed),
    }
    left = np.ones(log.rows, dtype=bool)
    funnel = []
    for key, so in rules.items():
        took = left & so
        left &= ~so
        funnel.append(_told(log, key, took, left))
    readable = ~(rules["stands"] | rules["silent"] | rules["pegged"] | rules["over_run"] | rules["fault"])
    return Believed(left, readable, funnel, sensor)


def _told(log: Log, key: Rule, took: Mask, left: Mask) -> Sieve:
    word, why = WORDS[key]
    spans = [[round(float(log.time[a]), 2), round(float(log.time[b - 1] + log.every), 2)] for a, b in stretches(took)]
    if len(spans) > SPANS_MOST:
        spans = sorted(sorted(spans, key=lambda s: s[0] - s[1])[:SPANS_MOST])
    return Sieve(
        key=key, word=word, why=why, took=int(took.sum()), took_s=round(float(log.lasts[took].sum()), 1), left=int(left.sum()), spans=spans
    )


def _after(log: Log, so: Mask, seconds: float) -> Mask:
    """Rows up to so long [s] after it was so."""
    last = np.maximum.accumulate(np.where(so, log.time, -np.inf))
    return np.asarray((log.time - last < seconds) & ~so, dtype=bool)


def _over_run(log: Log, throttle: Array, speed: Array) -> Mask:
    """Where fuel is off, or only just on again."""
    pulse = log.get("pulse")
    cut = np.isfinite(pulse) & (pulse <= 0.05) & log.running
    shut = np.isfinite(throttle) & (throttle < SHUT) & (speed > OVER_RUN)
    off = cut | shut
    return np.asarray(off | _after(log, off, SETTLES_S), dtype=bool)


def _moves(log: Log, throttle: Array, speed: Array) -> Mask:
    """Where foot or speed moved faster than is still, within the last while."""
    if log.rows < 3:
        return np.zeros(log.rows, dtype=bool)
    wide = max(round(0.25 / max(log.every, 1e-3)), 1)  # over a quarter of a second, so that a flicker of the last digit is no movement
    moved = np.zeros(log.rows, dtype=bool)
    for column, most in ((throttle, FOOT_MOST), (speed, SPEED_MOST)):
        if np.isfinite(column).any():
            rate = np.zeros(log.rows)
            span = np.maximum(log.time[wide:] - log.time[:-wide], 1e-6)
            rate[wide:] = np.abs(np.nan_to_num(column[wide:] - column[:-wide])) / span
            moved |= rate > most
    back = max(round(STILL_S / max(log.every, 1e-3)), 1)
    return np.asarray(maximum_filter1d(moved.astype(np.uint8), 2 * back + 1, origin=0) > 0, dtype=bool)


def _sensor(log: Log) -> tuple[Sensor, Mask, Mask]:
    """The sensor, rows without a figure of it, rows at its ends."""
    seen, running = log.mixture, log.running
    there = np.isfinite(seen) & (seen > 0.3)
    usable = there & running
    if not usable.any():
        words = (
            "There is no mixture in this log: nothing can be said of the fuel."
            if not there.any()
            else "No mixture was logged while it ran."
        )
        return (
            Sensor(rich_end=None, lean_end=None, hot_after_s=None, stuck=False, pegged=0.0, words=words),
            ~there,
            np.zeros(log.rows, dtype=bool),
        )
    values = seen[usable]
    low, high = float(values.min()), float(values.max())
    at_low, at_high = np.mean(values <= low + 1e-4), np.mean(values >= high - 1e-4)
    rich_end = low if at_low > PEG_SHARE / 4 and low < 0.85 else None
    lean_end = high if at_high > PEG_SHARE / 4 and high > 1.08 else None
    pegged = np.zeros(log.rows, dtype=bool)
    if rich_end is not None:
        pegged |= seen <= rich_end + 1e-4
    if lean_end is not None:
        pegged |= seen >= lean_end - 1e-4
    pegged |= seen > LAMBDA_AIR
    hot = _hot_after(log, seen, running)
    silent = ~there | (log.time < (hot if hot is not None else -np.inf))
    stuck = _stuck(log, seen, running & ~silent)
    if stuck:
        silent = silent | np.ones(log.rows, dtype=bool)
    share = float(np.mean(pegged[usable]))
    words = _words(rich_end, lean_end, None if hot is None else hot - float(log.time[0]), stuck=stuck, share=share)
    return (
        Sensor(
            rich_end=rich_end,
            lean_end=lean_end,
            hot_after_s=None if hot is None else round(hot - float(log.time[0]), 1),
            stuck=stuck,
            pegged=round(share, 4),
            words=words,
        ),
        silent,
        pegged,
    )


def _hot_after(log: Log, seen: Array, running: Mask) -> float | None:
    """When [s] a sensor that began at one figure first moved, with the engine running; None for one that moved from the start."""
    on = np.flatnonzero(running & np.isfinite(seen))
    if not len(on):
        return None
    first = float(seen[on[0]])
    moved = on[np.abs(seen[on] - first) > 0.02]
    if not len(moved):
        return None
    after = float(log.time[moved[0]] - log.time[on[0]])
    return float(log.time[moved[0]]) if after > 3.0 else None


def _stuck(log: Log, seen: Array, on: Mask) -> bool:
    """Whether it says one figure while the foot moves."""
    if float(log.lasts[on].sum()) < STUCK_S:
        return False
    values, foot = seen[on], log.get("throttle")[on]
    moves = not np.isfinite(foot).any() or float(np.nanstd(foot)) > 1.0
    return moves and float(np.nanstd(values)) < STUCK


def _words(rich: float | None, lean: float | None, hot: float | None, *, stuck: bool, share: float) -> str:
    if stuck:
        return "The oxygen sensor says one figure whatever the foot does: it is stuck, or its wire is. Nothing it said is believed."
    told = []
    if hot:
        told.append(f"cold for the first {hot:.0f} s")
    ends = [f"{x:g}" for x in (rich, lean) if x is not None]
    if ends:
        told.append(f"its controller says {' and '.join(ends)} at most")
    if share > 0.2:
        told.append(
            f"and stood there {share * 100:.0f} % of the time: too much to be right, look for a leak in the exhaust before it, or a sensor that is worn out"
        )
    return (
        ("The oxygen sensor was " if hot else "Of the oxygen sensor: ") + ", ".join(told) + "."
        if told
        else "The oxygen sensor moved freely, and was hot from the first row."
    )
