"""Many first starts at once: the build's own tune and harness from key to idle, each lane with other doubts."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields

import numpy as np
from numpy.typing import NDArray

from ..physics.air import Array
from ..stages.tune.curves import IDLE_AIR
from . import engine
from .engine import STEP, Car, Filled, Lanes
from .unit import CRANKS_UNDER, WAKES, Unit

LASTS = 30.0  # s that a start is followed
CRANKS_MOST = 10.0  # s that a starter turns at a time
CAUGHT, HELD = 450.0 / 60, 0.4  # rev/s over which it has caught, s for which it has to stay there
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
class Fuelled:
    """How much of what the unit means to give comes: by pressure while it cranks and while it idles (shares); flow [kg/s] that a dead time that is off counts with, of all injectors; nothing without pressure or volts."""

    cranking: float
    idling: float
    flow_kg_s: float


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


def start(
    car: Car, unit: Unit, filled: Callable[[Array, Array], Filled], fuelled: Fuelled, doubts: Doubts, unit_v: Array, opened: float = 0.0, told: Callable[[float], None] = lambda _: None
) -> Started:  # fmt: skip
    """Every lane from the turn of the key. `filled` is the engine itself over speed [rev/s] and manifold [Pa]; `unit_v` are the volts at the unit while the starter turns, `opened` how far the plates stand open at idle [%]; `told` hears how far it is, and may raise
    to end it."""
    n = doubts.many
    nought = np.zeros(n)
    lanes = Lanes(
        nought.copy(),
        np.full(n, car.ambient_pa),
        nought.copy(),
        doubts.coolant.copy(),
        doubts.rested_v.copy(),
        np.ones(n),
        np.full(n, 5.0),
        nought.copy(),
    )
    awake = unit_v >= WAKES
    since, over, turned = nought.copy(), nought.copy(), nought.copy()
    after, mixture = np.full(n, np.nan), nought.copy()
    sums, lambdas, counted = nought.copy(), nought.copy(), 0
    charge_k, plates = doubts.coolant + 273.15, np.full(n, opened)
    steps = int(LASTS / STEP)
    for k in range(steps):
        t = k * STEP
        seen = doubts.coolant + doubts.sender
        cranks = lanes.rev_s < CRANKS_UNDER
        valve = unit.idle_valve(lanes.rev_s, seen, cranks)
        opening = car.idle_m2 * (BASE + (1 - BASE) * valve / HOT_VALVE)
        meant = unit.sprays(lanes.rev_s, lanes.manifold_pa, plates, seen, doubts.coolant, since, cranks)
        by_pressure = np.where(cranks, fuelled.cranking, fuelled.idling)
        turned += lanes.rev_s * STEP
        fuel = np.where(
            awake & (turned >= IN_STEP),
            np.maximum(meant * unit.cylinders * (1 + doubts.flow) * by_pressure - doubts.dead_s * fuelled.flow_kg_s, 0.0),
            0.0,
        )
        spark = unit.spark(lanes.rev_s, lanes.manifold_pa, plates, seen, cranks)
        itself = filled(lanes.rev_s, lanes.manifold_pa)
        itself = Filled(itself.filling * (1 + doubts.filling), itself.residual, itself.best_deg)
        engine.step(car, lanes, itself, opening, fuel, spark, charge_k)
        over = np.where(lanes.rev_s > CAUGHT, over + STEP, 0.0)
        new = (over >= HELD) & (t <= CRANKS_MOST + 1)
        after = np.where(new & np.isnan(after), t, after)
        lanes.starter = np.where((lanes.rev_s < CAUGHT) & (t < CRANKS_MOST) & np.isnan(after), 1.0, 0.0)
        since = np.where(~np.isnan(after), since + STEP, 0.0)
        if t < CRANKS_MOST:
            mixture = np.where(np.isnan(after), mixture + (lanes.lamda - mixture) * STEP, mixture)
        if t >= LASTS - SETTLES:
            sums, lambdas, counted = sums + lanes.rev_s * 60, lambdas + lanes.lamda, counted + 1
        if k % 200 == 0:
            told(k / steps)
    rpm, lamda = sums / counted, lambdas / counted
    caught = ~np.isnan(after)
    target = unit.over("idle_speed", doubts.coolant)
    idles = caught & (np.abs(rpm / target - 1) <= IDLE_OFF) & (lamda > LAMBDA_OK[0]) & (lamda < LAMBDA_OK[1])
    trouble = [_trouble(*row) for row in zip(awake, caught, idles, mixture, rpm / target, lamda, strict=True)]
    return Started(caught, after, idles, rpm, lamda, trouble)


BASE = 0.45  # of the opening of a warm idle, what passes the plates themselves
HOT_VALVE = IDLE_AIR[-1] / 100  # of its stroke, at which the valve passes the rest
IN_STEP = 2.0  # turns of the crank before the unit is in step, and gives fuel


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
