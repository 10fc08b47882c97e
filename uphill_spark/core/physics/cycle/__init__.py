"""The engine worked from its own measures: cycles of one cylinder at many speeds and loads side by side, each a lane, until what comes in is what goes out.

Zero-dimensional filling and emptying with a burn by Wiebe's law (Heywood, Internal Combustion Engine Fundamentals, ch. 9, 12 and 14). What it cannot know (waves
in a joined exhaust, swirl, a carburettor's mixture) is in the doubt that is told with it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields, replace

import numpy as np
from numpy.typing import NDArray

from ...errors import NotConverged
from ..network import Array
from .burn import HALF, Charge, Closed, closed, duration
from .exchange import Around, Exchanged, State, begin, exchange
from .gas import R, energy
from .geometry import Cylinder, Valve, repeated, stacked

__all__ = ["Cylinder", "Lanes", "Valve", "Worked", "stacked", "work"]

#: Steps [deg] of the cycles: some coarse ones to come near, then fine ones until they agree.
COARSE, FINE, FIRST, MOST = 2.0, 1.0, 3, 10
CLOSE = 1e-3  # share of the trapped mass by which two fine cycles in a row may differ
GIVEN_UP = 5e-2
RUNS = (
    0.40  # share of residual, up to which a charge burns from one cycle to the next (Heywood, ch. 9.4); lanes beyond it are not waited for
)
#: Friction [Pa] over the highest pressure and the piston's speed [m/s] (Chen and Flynn, SAE 650733).
CHEN_FLYNN = (0.4e5, 0.005, 0.09e5, 0.0009e5)
HEAT = 1.6  # times Woschni, whose law was fitted to other engines: with it half is burned where the best spark of such engines has it
SPARKS = 9  # tried side by side about the one that puts half the burn where it is best
SPARK_STEP = 5.0  # deg between them
BEST_HALF = 9.0  # deg after top at which half is burned with the best spark, to begin with
WALL_K, PORT_WALL_K = 430.0, 360.0
STANTON, FLOWING = 0.008, 1.0  # heat from the tract's wall to what flows in it
EVAPORATES, LATENT, CP = 0.4, 350e3, 1050.0  # share of the fuel that takes its heat from the air in the port; J/kg, petrol; J/(kg K)
BACK_COOLS = 0.15  # of its heat over the wall's, that exhaust loses before it comes back


@dataclass(frozen=True, slots=True)
class Lanes:
    """What each lane is run at: revolutions [1/s], manifold [Pa], or a plate [m2] for each cylinder with the volume [m3] behind it; air before the tract [K], lambda; the fuel's
    stoichiometric ratio and heat [J/kg], its octane; the chamber; air about [Pa]; back pressure over that [Pa] at the flow [kg/s] of full power, which it follows by the square."""

    rev_s: Array
    manifold_pa: Array
    air_k: float
    lamda: Array
    stoich: float
    heating: float
    octane: float
    chamber: str
    ambient_pa: float
    back_pa: float | Array
    full_kg_s: float
    plate_m2: Array | None = None
    behind_m3: float = 0.0

    @property
    def fuel_share(self) -> Array:
        """Share of the charge that is fuel."""
        return np.asarray(1 / (1 + self.lamda * self.stoich), dtype=np.float64)


@dataclass(frozen=True, slots=True)
class Worked:
    """What a lane came to, of one cylinder: air [kg] a cycle; volumetric efficiency against the air before the tract; share of the charge that is residual; work on the piston [J] with
    the spark used; friction as mean effective pressure [Pa]; torque [N m]; best, knock-limited (NaN where none tried knocks) and used spark [deg before top]; angle
    [deg after top] by which half is burned with the best one; highest pressure [Pa]; exhaust [K]; mean pressure behind a plate [Pa]; how far mass and energy are from closing (share);
    pressure [Pa] with the spark used, a row a lane, over its angles [deg after top] from the inlet's closing to the exhaust's opening."""

    air: Array
    filling: Array
    residual: Array
    work: Array
    friction_pa: Array
    torque: Array
    best_spark: Array
    knock_spark: Array
    used_spark: Array
    half_deg: Array
    highest_pa: Array
    exhaust_k: Array
    behind_pa: Array
    mass_open: Array
    energy_open: Array
    trace_pa: Array
    trace_deg: Array
    cycles: int

    @property
    def runs(self) -> NDArray[np.bool_]:
        """Which lanes burn from one cycle to the next; the others hold too much of the last charge, and their figures mean little."""
        return np.asarray(self.residual < RUNS)

    def part(self, lanes: slice) -> Worked:
        """The same of some lanes."""
        return replace(self, **{f.name: getattr(self, f.name)[lanes] for f in fields(self) if f.name != "cycles"})


def work(cylinder: Cylinder, lanes: Lanes, told: Callable[[float], None] = lambda _: None, *, heat_scale: float = HEAT) -> Worked:
    """Cycles until the trapped mass stands. `told` hears how far it is (0 to 1), and may raise to end it; `heat_scale` [1] scales the heat to the walls against Woschni. Raises
    NotConverged where some lane does not settle within MOST cycles."""
    share = lanes.fuel_share
    mass = 0.97 * lanes.manifold_pa * cylinder.swept / (R * lanes.air_k)
    charge = _charge(lanes, mass, np.full_like(mass, 360.0), np.full_like(mass, 0.08), heat_scale)
    back_k, air_s = np.full_like(mass, 900.0), mass * lanes.rev_s / 2
    around = _around(cylinder, lanes, air_s, back_k)
    state = begin(cylinder, around)
    moved = np.inf
    for cycle in range(1, MOST + 1):
        fine = cycle > FIRST
        burnt = closed(cylinder, lanes.rev_s, charge, _about_best(lanes, charge), _lasts(lanes, charge), step=2.0)
        found = _exchanged(cylinder, around, state, charge, burnt, heat_scale / HEAT, FINE if fine else COARSE)
        changed = np.abs(found.trapped / charge.mass - 1)
        moved = float(np.max(changed, where=found.residual < RUNS, initial=0.0))
        charge = _charge(lanes, found.trapped, found.trapped_k, found.residual, heat_scale)
        told(min(cycle / 8, 0.85))
        if fine and moved < CLOSE:
            return _told(cylinder, lanes, around, state, found, charge, cycle, told)
        back_k = (back_k + found.exhaust_k - BACK_COOLS * (found.exhaust_k - WALL_K)) / 2
        air_s = np.maximum(found.fresh * (1 - share), 1e-9) * lanes.rev_s / 2
        around = _around(cylinder, lanes, air_s, back_k)
    if moved > GIVEN_UP:
        raise NotConverged(f"cycle: the trapped mass still moves by {moved * 100:.1f} % after {MOST} cycles")
    return _told(cylinder, lanes, around, state, found, charge, MOST, told)


def _exchanged(
    cylinder: Cylinder, around: Around, state: State, charge: Charge, burnt: Closed, heat_scale: float, step: float
) -> Exchanged:
    """The exchange that follows a burn; the port's state goes on from where it is."""
    state.mass, state.burned = charge.mass.copy(), charge.mass.copy()
    state.energy = charge.mass * energy(burnt.end_k, np.ones_like(charge.mass))
    return exchange(cylinder, around, state, heat_scale=heat_scale, step=step)


def _lasts(lanes: Lanes, charge: Charge) -> Array:
    return duration(lanes.chamber, lanes.rev_s, lanes.lamda, charge.residual)


def _about_best(lanes: Lanes, charge: Charge) -> Array:
    return np.asarray(BEST_HALF - HALF * _lasts(lanes, charge), dtype=np.float64)


def _around(cylinder: Cylinder, lanes: Lanes, air_s: Array, back_k: Array) -> Around:
    """Port and exhaust as the flow of the last cycle makes them."""
    share, wide = lanes.fuel_share, np.sqrt(4 * cylinder.tract_area / np.pi)
    reach = 1 - np.exp(-4 * cylinder.tract_length / wide * STANTON * FLOWING)
    charge_k = np.asarray(lanes.air_k + (PORT_WALL_K - lanes.air_k) * reach - EVAPORATES * LATENT * share / CP, dtype=np.float64)
    back = np.asarray(lanes.ambient_pa + lanes.back_pa * (air_s / (1 - share) / lanes.full_kg_s) ** 2, dtype=np.float64)
    return Around(lanes.rev_s, lanes.manifold_pa, charge_k, back, back_k, WALL_K, lanes.plate_m2, lanes.ambient_pa, lanes.behind_m3)


def _charge(lanes: Lanes, mass: Array, kelvin: Array, residual: Array, heat_scale: float) -> Charge:
    fuel = np.asarray(mass * (1 - residual) * lanes.fuel_share, dtype=np.float64)
    return Charge(mass, kelvin, residual, lanes.lamda, fuel, lanes.heating, lanes.octane, WALL_K, heat_scale=heat_scale)


def _told(
    cylinder: Cylinder,
    lanes: Lanes,
    around: Around,
    state: State,
    found: Exchanged,
    charge: Charge,
    cycles: int,
    told: Callable[[float], None],
) -> Worked:
    """The spark scanned on what was trapped, one cycle more with it, and everything that is told of a lane."""
    lasts, middle = _lasts(lanes, charge), _about_best(lanes, charge)
    steps = np.asarray((np.arange(SPARKS) - SPARKS // 2) * SPARK_STEP, dtype=np.float64)
    n = len(lanes.rev_s)
    tried = np.asarray((middle[None, :] + steps[:, None]).ravel(), dtype=np.float64)
    all_of = replace(
        charge, mass=_many(charge.mass), temperature=_many(charge.temperature), residual=_many(charge.residual), lamda=_many(charge.lamda), fuel=_many(charge.fuel)
    )  # fmt: skip
    swept = closed(repeated(cylinder, SPARKS), _many(lanes.rev_s), all_of, tried, _many(lasts), step=2.0)
    told(0.95)
    best = np.asarray(middle + _peak(steps, swept.work.reshape(SPARKS, n)), dtype=np.float64)
    limit = np.asarray(middle + _crossing(steps, swept.knock.reshape(SPARKS, n)), dtype=np.float64)
    used = np.asarray(np.fmax(best, limit), dtype=np.float64)  # the later of the two
    final = closed(cylinder, lanes.rev_s, charge, used, lasts, trace=True)
    assert final.trace is not None, "it was asked for"
    speed = cylinder.piston_speed(lanes.rev_s)
    friction = np.asarray(
        CHEN_FLYNN[0] + CHEN_FLYNN[1] * final.highest_pa + CHEN_FLYNN[2] * speed + CHEN_FLYNN[3] * speed**2, dtype=np.float64
    )
    gained = np.asarray(final.work + found.work, dtype=np.float64)
    air = np.asarray(found.fresh * (1 - lanes.fuel_share), dtype=np.float64)
    before = found.behind_pa if lanes.plate_m2 is not None else lanes.manifold_pa
    inside = energy(charge.temperature, charge.residual) * charge.mass
    left = inside + final.freed - final.lost - final.work - charge.mass * energy(final.end_k, np.ones_like(charge.mass))
    return Worked(
        air=air, filling=np.asarray(air / (before / (R * lanes.air_k) * cylinder.swept), dtype=np.float64), residual=charge.residual, work=gained, friction_pa=friction,
        torque=np.asarray((gained - friction * cylinder.swept) / (4 * np.pi), dtype=np.float64), best_spark=-best, knock_spark=-limit, used_spark=-used,
        half_deg=np.asarray(best + HALF * lasts, dtype=np.float64), highest_pa=final.highest_pa, exhaust_k=found.exhaust_k, behind_pa=found.behind_pa,
        mass_open=np.asarray(np.abs(found.inlet - found.exhaust) / found.trapped, dtype=np.float64), energy_open=np.asarray(np.abs(left) / final.freed, dtype=np.float64), trace_pa=np.asarray(final.trace.T, dtype=np.float64),
        trace_deg=np.broadcast_to(final.degrees.reshape(len(final.trace), -1).T, (n, len(final.trace))), cycles=cycles,
    )  # fmt: skip


def _many(lanes: Array) -> Array:
    """Lanes once for each spark that is tried."""
    return np.repeat(lanes[None, :], SPARKS, axis=0).ravel()


def _peak(steps: Array, works: Array) -> Array:
    """Where the parabola through the best of several and its neighbours has its top."""
    i = np.clip(np.argmax(works, axis=0), 1, len(steps) - 2)
    j = np.arange(works.shape[1])
    a, b, c = works[i - 1, j], works[i, j], works[i + 1, j]
    bend = a - 2 * b + c
    off = np.where(bend < 0, 0.5 * (a - c) / np.where(bend < 0, bend, -1.0), 0.0)
    return np.asarray(steps[i] + np.clip(off, -1, 1) * SPARK_STEP, dtype=np.float64)


def _crossing(steps: Array, knocks: Array) -> Array:
    """The earliest spark whose knock integral does not fill; NaN where the earliest tried does not, the latest tried where all do."""
    found = np.full(knocks.shape[1], np.nan)
    for k in range(len(steps) - 1):
        early, late = knocks[k], knocks[k + 1]
        over = (early >= 1) & (late < 1)
        found = np.where(over, steps[k] + (steps[k + 1] - steps[k]) * (early - 1) / np.maximum(early - late, 1e-12), found)
    return np.asarray(np.where(knocks[-1] >= 1, steps[-1], found), dtype=np.float64)
