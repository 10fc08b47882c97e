"""Many first starts at once: the build's own tune and harness from key to idle, each lane with other doubts."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields, replace

import numpy as np
from numpy.typing import NDArray

from ..physics.air import Array
from .ails import AilsOf
from .engine import STEP
from .running import RUN, START, Plant, Running
from .unit import WAKES

LASTS = 30.0  # s that a start is followed
CRANKS_MOST = 10.0  # s that a starter turns at a time
SETTLES = 8.0  # s at the end over which idle is judged
IDLE_OFF = 0.20  # share of the target by which idle may be off
LAMBDA_OK = (0.72, 1.15)
FLOODS, STARVES = 0.60, 1.30  # mixture of the last charges, beyond which that is what was wrong


@dataclass(frozen=True, slots=True)
class Doubts:
    """What each lane is off by: injector flow and filling (shares), dead time [s], coolant [degC], battery at rest [V], how far the coolant sender reads off [K]."""

    flow: Array
    filling: Array
    dead_s: Array
    coolant: Array
    rested_v: Array
    sender: Array

    @property
    def many(self) -> int:
        """How many lanes."""
        return len(self.flow)

    def times(self, many: int) -> Doubts:
        """The same so many times over."""
        return Doubts(*(np.tile(getattr(self, f.name), many) for f in fields(self)))


@dataclass(frozen=True, slots=True)
class Started:
    """What came of each lane: whether it caught and when [s]; whether it idles in bounds at the end; mean speed [rpm] and mixture over the end; why it did not, in a word."""

    caught: NDArray[np.bool_]
    after_s: Array
    idles: NDArray[np.bool_]
    rpm: Array
    lamda: Array
    trouble: list[str]

    def part(self, lanes: slice) -> Started:
        """The same of some lanes."""
        return Started(*(getattr(self, f.name)[lanes] for f in fields(self)))


def start(plant: Plant, ails: AilsOf, doubts: Doubts, unit_v: Array, told: Callable[[float], None] = lambda _: None) -> Started:
    """Every lane from the turn of the key. `ails` is what is the same in all of them; `unit_v` is at the unit while the starter turns [V]; `told` hears how far it is, and may raise to end it."""
    n = doubts.many
    of = {key: np.broadcast_to(value, n).copy() for key, value in ails.of.items()}
    of |= {
        "flow": of["flow"] * (1 + doubts.flow), "filling": of["filling"] * (1 + doubts.filling), "dead_s": of["dead_s"] + doubts.dead_s, "rested_v": doubts.rested_v, "sender": of["sender"] + doubts.sender,
        "crank_v": unit_v, "empties_s": of["empties_s"],
    }  # fmt: skip
    car = Running(plant, replace(ails, of=of), doubts.coolant)
    car.line[:] = 1.0  # primed
    after, mixture = np.full(n, np.nan), np.zeros(n)
    sums, lambdas, counted = np.zeros(n), np.zeros(n), 0
    foot = np.zeros(n)
    steps = int(LASTS / STEP)
    for k in range(steps):
        t = k * STEP
        turns = np.isnan(after) & (t < CRANKS_MOST)
        car.step(np.where(turns, START, RUN), foot)
        after = np.where(car.running & (t <= CRANKS_MOST + 1) & np.isnan(after), t, after)
        if t < CRANKS_MOST:
            mixture = np.where(np.isnan(after), mixture + (car.lanes.lamda - mixture) * STEP, mixture)
        if t >= LASTS - SETTLES:
            sums, lambdas, counted = sums + car.lanes.rev_s * 60, lambdas + car.lanes.lamda, counted + 1
        if k % 200 == 0:
            told(k / steps)
    rpm, lamda = sums / counted, lambdas / counted
    caught = ~np.isnan(after)
    target = plant.unit.over("idle_speed", doubts.coolant)
    idles = caught & (np.abs(rpm / target - 1) <= IDLE_OFF) & (lamda > LAMBDA_OK[0]) & (lamda < LAMBDA_OK[1])
    rows = zip(unit_v >= WAKES, caught, idles, mixture, rpm / target, lamda, strict=True)
    return Started(caught, after, idles, rpm, lamda, [_trouble(*row) for row in rows])


def _trouble(awake: bool, caught: bool, idles: bool, mixture: float, share: float, lamda: float) -> str:
    """Why a start went as it did, in a word."""
    if idles:
        return ""
    if not awake:
        return "unit_resets"
    if not caught:
        return "floods" if mixture < FLOODS else "starves" if mixture > STARVES else "too_slow"
    if share < 1 - IDLE_OFF:
        return "stalls" if share < 0.3 else "hangs_low"
    if share > 1 + IDLE_OFF:
        return "races"
    return "idles_lean" if lamda >= LAMBDA_OK[1] else "idles_rich"
