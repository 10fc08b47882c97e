"""The engine worked from its own measures: cycles of one cylinder at many speeds and loads side by side, each a lane, until what comes in is what goes out.

Zero-dimensional filling and emptying with a burn by Wiebe's law (Heywood, Internal Combustion Engine Fundamentals, ch. 9, 12 and 14). What it cannot know (waves
in a joined exhaust, swirl, a carburettor's mixture) is in the doubt that is told with it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from ...errors import NotConverged
from ..network import Array
from .burn import Charge, Closed, closed, duration
from .exchange import Around, Exchanged, State, begin, exchange
from .gas import R, energy
from .geometry import Cylinder, Valve

__all__ = ["Cylinder", "Lanes", "Valve", "Worked", "work"]

CYCLES, CLOSE = 12, 1e-3  # cycles at most, and share of the trapped mass by which two in a row may differ
#: Friction [Pa] over the highest pressure and the piston's speed [m/s] (Chen and Flynn, SAE 650733).
CHEN_FLYNN = (0.4e5, 0.005, 0.09e5, 0.0009e5)
SPARKS = 9  # tried side by side about the one that puts half the burn where it is best
SPARK_STEP = 5.0  # deg between them
BEST_HALF = 9.0  # deg after top at which half is burned with the best spark, to begin with
KNOCK_FULL = 1.0
WALL_K, PORT_WALL_K = 430.0, 360.0
STANTON, FLOWING = 0.008, 2.0  # heat from the tract's wall to what flows in it
EVAPORATES, LATENT = 0.4, 350e3  # share of the fuel that takes its heat from the air in the port; J/kg, petrol


@dataclass(frozen=True, slots=True)
class Lanes:
    """What each lane is run at: revolutions [1/s], manifold [Pa] or plate [m2] and the air before it, air temperature before the tract [K], lambda; the fuel's stoichiometric ratio
    and heat [J/kg], octane, chamber, back pressure [Pa] by (share of the flow at full power)^2 over the air about."""

    rev_s: Array
    manifold_pa: Array
    air_k: float
    lamda: Array
    stoich: float
    heating: float
    octane: float
    chamber: str
    ambient_pa: float
    back_pa: float
    full_kg_s: float
    plate_m2: Array | None = None
    behind_m3: float = 0.0


@dataclass(frozen=True, slots=True)
class Worked:
    """What a lane came to: air [kg] a cycle, volumetric efficiency against the air before the tract, residual share, work on the piston [J] with the best spark, friction as mean
    effective pressure [Pa], torque of one cylinder [N m]; best and knock-limited spark [deg before top; NaN where none knocks], highest pressure [Pa], exhaust [K], mean pressure behind a plate [Pa];
    how far mass and energy are from closing (share)."""

    air: Array
    filling: Array
    residual: Array
    work: Array
    friction_pa: Array
    torque: Array
    best_spark: Array
    knock_spark: Array
    used_spark: Array
    highest_pa: Array
    exhaust_k: Array
    behind_pa: Array
    mass_open: Array
    energy_open: Array
    cycles: int


def work(cylinder: Cylinder, lanes: Lanes, told: Callable[[float], None] = lambda _: None, *, heat_scale: float = 1.0) -> Worked:
    """Cycles until the trapped mass stands. `told` hears how far it is (0 to 1), and may raise to end it. Raises NotConverged."""
    share = 1 / (1 + lanes.lamda * lanes.stoich)  # of the charge that is fuel
    guess = 0.9 * lanes.manifold_pa * cylinder.swept / (R * lanes.air_k)
    mass, residual, kelvin = guess * 1.08, np.full_like(guess, 0.08), np.full_like(guess, 360.0)
    back_k = np.full_like(guess, 900.0)
    state: State | None = None
    air_flow = guess * lanes.rev_s / 2
    last = None
    for cycle in range(1, CYCLES + 1):
        around = _around(cylinder, lanes, air_flow, back_k, share)
        charge = _charge(lanes, mass, kelvin, residual, share, heat_scale)
        lasts = duration(lanes.chamber, lanes.rev_s, lanes.lamda, residual)
        spark = BEST_HALF - _half(lasts)
        burnt = closed(cylinder, lanes.rev_s, charge, spark, lasts, step=2.0)
        if state is None:
            state = begin(cylinder, around)
        ones = np.ones_like(mass)
        state.mass, state.burned = mass.copy(), mass.copy()
        state.energy = mass * energy(burnt.end_k, ones)
        found = exchange(cylinder, around, state, heat_scale=heat_scale)
        moved = float(np.max(np.abs(found.trapped / mass - 1)))
        mass, kelvin, residual = found.trapped, found.trapped_k, found.residual
        back_k = 0.5 * back_k + 0.5 * (found.exhaust_k - 0.15 * (found.exhaust_k - WALL_K))
        air_flow = np.maximum(found.fresh, 1e-9) * lanes.rev_s / 2
        last = found
        told(min(cycle / 6, 0.8))
        if moved < CLOSE and cycle > 2:
            break
    else:
        if moved > 20 * CLOSE:
            raise NotConverged(f"cycle: the trapped mass still moves by {moved:.1%} after {CYCLES} cycles")
    assert last is not None
    return _told(cylinder, lanes, last, _charge(lanes, mass, kelvin, residual, share, heat_scale), share, cycle, told)


def _half(lasts: Array) -> Array:
    from .burn import HALF

    return np.asarray(HALF * lasts, dtype=np.float64)


def _around(cylinder: Cylinder, lanes: Lanes, air_flow: Array, back_k: Array, share: Array) -> Around:
    """Port and exhaust as the flow of the last cycle makes them."""
    length, wide = cylinder.tract_length, np.sqrt(4 * cylinder.tract_area / np.pi)
    reach = 1 - np.exp(-4 * length / wide * STANTON * FLOWING)
    warmed = lanes.air_k + (PORT_WALL_K - lanes.air_k) * reach
    cooled = EVAPORATES * LATENT * share / 1050.0
    flow = air_flow / (1 - share)
    back = lanes.ambient_pa + lanes.back_pa * (flow / lanes.full_kg_s) ** 2
    return Around(lanes.rev_s, lanes.manifold_pa, warmed - cooled, back, back_k, WALL_K, lanes.plate_m2, lanes.ambient_pa, lanes.behind_m3)


def _charge(lanes: Lanes, mass: Array, kelvin: Array, residual: Array, share: Array, heat_scale: float) -> Charge:
    fuel = mass * (1 - residual) * share
    return Charge(mass, kelvin, residual, lanes.lamda, fuel, lanes.heating, lanes.octane, WALL_K, heat_scale=heat_scale)


def _told(
    cylinder: Cylinder, lanes: Lanes, found: Exchanged, charge: Charge, share: Array, cycles: int, told: Callable[[float], None]
) -> Worked:
    """The spark scanned on what was trapped, and everything that is told of a lane."""
    lasts = duration(lanes.chamber, lanes.rev_s, lanes.lamda, charge.residual)
    middle = BEST_HALF - _half(lasts)
    steps = (np.arange(SPARKS) - SPARKS // 2) * SPARK_STEP
    n = len(lanes.rev_s)
    many = lambda a: np.repeat(a[None, :], SPARKS, axis=0).ravel()  # noqa: E731
    tried = (middle[None, :] + steps[:, None]).ravel()
    all_of = replace(
        charge,
        mass=many(charge.mass),
        temperature=many(charge.temperature),
        residual=many(charge.residual),
        lamda=many(charge.lamda),
        fuel=many(charge.fuel),
    )
    swept = closed(cylinder, many(lanes.rev_s), all_of, tried, many(lasts), step=2.0)
    told(0.95)
    works, knocks = swept.work.reshape(SPARKS, n), swept.knock.reshape(SPARKS, n)
    best = middle + _peak(steps, works)
    limit = middle + _crossing(steps, knocks)
    used = np.fmax(best, limit)  # later is the larger angle
    final = closed(cylinder, lanes.rev_s, charge, used, lasts)
    pumped = found.work
    friction = (
        CHEN_FLYNN[0]
        + CHEN_FLYNN[1] * final.highest_pa
        + CHEN_FLYNN[2] * cylinder.piston_speed(lanes.rev_s)
        + CHEN_FLYNN[3] * cylinder.piston_speed(lanes.rev_s) ** 2
    )
    gained = final.work + pumped
    air = found.fresh * (1 - share)
    dense = (found.behind_pa if lanes.plate_m2 is not None else lanes.manifold_pa) / (R * lanes.air_k)
    mass_open = np.abs(found.inlet - found.exhaust) / np.maximum(found.trapped, 1e-12)
    return Worked(
        air=air, filling=air / (dense * cylinder.swept), residual=charge.residual, work=gained, friction_pa=friction,
        torque=(gained - friction * cylinder.swept) / (4 * np.pi), best_spark=-best, knock_spark=-limit, used_spark=-used, highest_pa=final.highest_pa, exhaust_k=found.exhaust_k,
        behind_pa=found.behind_pa, mass_open=mass_open, energy_open=np.zeros_like(mass_open), cycles=cycles,
    )  # fmt: skip


def _peak(steps: Array, works: Array) -> Array:
    """Where the parabola through the best of several and its neighbours has its top."""
    i = np.clip(np.argmax(works, axis=0), 1, len(steps) - 2)
    j = np.arange(works.shape[1])
    a, b, c = works[i - 1, j], works[i, j], works[i + 1, j]
    bend = a - 2 * b + c
    off = np.where(bend < 0, 0.5 * (a - c) / np.where(bend < 0, bend, -1.0), 0.0)
    return np.asarray(steps[i] + np.clip(off, -1, 1) * SPARK_STEP, dtype=np.float64)


def _crossing(steps: Array, knocks: Array) -> Array:
    """The earliest spark that does not knock; NaN where the earliest tried does not, the latest tried where all do."""
    found = np.full(knocks.shape[1], np.nan)
    for k in range(len(steps) - 1):
        early, late = knocks[k], knocks[k + 1]
        over = (early >= KNOCK_FULL) & (late < KNOCK_FULL)
        found = np.where(over, steps[k] + (steps[k + 1] - steps[k]) * (early - KNOCK_FULL) / np.maximum(early - late, 1e-12), found)
    return np.asarray(np.where(knocks[-1] >= KNOCK_FULL, steps[-1], found), dtype=np.float64)
