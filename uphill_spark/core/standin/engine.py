"""The engine of the stand-in: a mean-value model from starter to idle.

Air is filled and emptied through the manifold, fuel wets the wall and dries off it, what burns turns the crank against compression's losses, friction and the starter's help. Sources:
Hendricks and Sorenson, SAE 900616 (mean-value engine); Aquino, SAE 810494 (fuel on the wall); Heywood, ch. 9.4 (limits of burning), 13 (friction), 14 (filling).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..physics import air
from ..physics import arith as m
from ..physics.air import R_AIR, Array

STEP = 0.01  # s
INERTIA = (0.06, 45.0)  # kg m2, and for each m3 of displacement: crank, flywheel and clutch
GROSS = 0.36  # share of the fuel's heat that is work on the piston with the best spark, before pumping and friction, at idle speeds (Heywood, ch. 5.8)
SPARK_HALVES = 45.0  # deg off the best spark at which half of that is left
#: Lambda at which the whole charge burns, and at which nothing does, lean and rich (Heywood, ch. 9.4.2).
LEAN, RICH = (1.18, 1.45), (0.62, 0.42)
RESIDUAL = (0.40, 0.55)  # share of residual from where burning falls off, and where nothing burns
FRICTION = (0.75e5, 25.0)  # Pa at standstill, and Pa for each rpm, of a warm engine (Heywood, ch. 13.6, motored)
COLD_OIL, COLD_FALLS = 1.5, 38.0  # times as much more at 0 degC, K in which that falls to a third
ALTERNATOR_W = 250.0  # taken off the crank once it charges
#: Share of petrol that is vapour when it burns, by coolant [degC]: what warm-up fuel makes up for.
VAPOUR_AT, VAPOUR = (-20.0, 0.0, 20.0, 40.0, 60.0, 75.0), (0.62, 0.72, 0.83, 0.91, 0.96, 1.0)
FREE_RPM, STALL_TORQUE = (
    300.0,
    62.0,
)  # of a starter geared to a crank at 12.5 V and 20 degC: rpm without load, N m for each litre at standstill
RESTED = 12.5  # V at which those hold
SAGS = 0.9  # of a battery that rests lower, what is missing at the posts while it cranks
COLD_BATTERY = 0.012  # of its torque, that a starter loses for each K under 20 degC: battery and its acid


@dataclass(frozen=True, slots=True)
class Car:
    """What is the same in every lane: displacement [m3], air before the engine [Pa], heat of the fuel [J/kg] and its stoichiometric ratio, share of cylinders that fire in their turn, the opening [m2] with which a warm
    engine holds its idle; share of a squirt that wets the wall and how fast it dries [s] over coolant [degC], and how much more [share] wets it in each lane."""

    displacement: float
    ambient_pa: float
    heating: float
    stoich: float
    fires: Array | float
    idle_m2: float
    wets: Array
    dries_s: Array
    wall_at: Array
    wets_more: Array | float = 0.0

    @property
    def inertia(self) -> float:
        """Of crank, flywheel and clutch [kg m2]."""
        return INERTIA[0] + INERTIA[1] * self.displacement


@dataclass(slots=True)
class Lanes:
    """State of each lane: revolutions [1/s], manifold [Pa], fuel on the wall [kg], coolant [degC], battery at rest [V]; whether the starter turns (and with which share of its strength); mixture of the last charge;
    how well it burned (share), cylinder by cylinder where they differ; torque at the crank [N m]."""

    rev_s: Array
    manifold_pa: Array
    film_kg: Array
    coolant: Array
    rested_v: Array
    starter: Array
    lamda: Array
    burned: Array
    torque_nm: Array | float = 0.0


@dataclass(frozen=True, slots=True)
class Each:
    """Cylinder by cylinder where they differ, by (cylinder, lane): share of its air and of its fuel that each gets, and of its charges that are lit."""

    air: Array
    fuel: Array
    lit: Array


@dataclass(frozen=True, slots=True)
class Filled:
    """What the engine itself does at a speed and a load: filling (share), residual (share), best spark [deg before top]."""

    filling: Array
    residual: Array
    best_deg: Array


def burns(lamda: Array, residual: Array) -> Array:
    """Share of a charge that burns over its mixture and residual: all of it in the middle, nothing beyond the limits."""
    lean = m.within((LEAN[1] - lamda) / (LEAN[1] - LEAN[0]), 0.0, 1.0)
    rich = m.within((lamda - RICH[1]) / (RICH[0] - RICH[1]), 0.0, 1.0)
    left = m.within((RESIDUAL[1] - residual) / (RESIDUAL[1] - RESIDUAL[0]), 0.0, 1.0)
    return m.num(lean * rich * left)


def friction(rev_s: Array, coolant: Array) -> Array:
    """Mean effective pressure of friction [Pa] over speed and coolant [degC]: oil that is cold is stiff."""
    warm = FRICTION[0] + FRICTION[1] * rev_s * 60
    return m.num(warm * (1 + COLD_OIL * m.exp(-m.within(coolant, -40, 120) / COLD_FALLS)))


def starter(car: Car, lanes: Lanes) -> Array:
    """Torque of the starter at the crank [N m]: straight from standstill to its free speed, by what the battery has."""
    strength = m.within(lanes.rested_v / RESTED, 0.0, 1.2) ** 2 * m.within(1 - COLD_BATTERY * (20 - lanes.coolant), 0.3, 1.1)
    free = FREE_RPM / 60 * m.within(lanes.rested_v / RESTED, 0.0, 1.2)
    pull = STALL_TORQUE * car.displacement * 1e3 * strength * m.within(1 - lanes.rev_s / m.maximum(free * lanes.starter, 1e-3), 0.0, 1.0)
    return m.num(pull * lanes.starter**2)


SECANTS = 3  # after which no state of a lane is off by more than a few Pa
LOWEST = 8e3  # Pa, under which no manifold goes


def _settled(car: Car, lanes: Lanes, filled: Filled, opening_m2: Array, charge_k: Array) -> Array:
    """Manifold pressure [Pa] a step on, of a plenum as large as the engine, with what comes in and goes out at the end of the step.

    Sought is the root of the share that the manifold lacks of the air before it: over that the flow is nearly straight, where over the pressure it bends the
    more the nearer it comes. The first guess takes it as straight, secants do the rest.
    """
    outside = car.ambient_pa
    rises = R_AIR * charge_k / car.displacement * STEP
    keeps = 1 + filled.filling * lanes.rev_s * STEP / 2
    most = math.sqrt(1 - LOWEST / outside)

    def over(root: Array) -> Array:
        """By how much [Pa] what is there and what comes is more than what a pressure keeps."""
        share = 1 - root * root
        return m.num(lanes.manifold_pa + air.orifice_flow(opening_m2, outside, 293.15, share) * rises - keeps * outside * share)

    before = m.within(m.sqrt(m.within(1 - lanes.manifold_pa / outside, 0.0, 1.0)), 0.01, most)
    was = over(before)
    straight = (was - lanes.manifold_pa + keeps * outside * (1 - before * before)) / before
    lacks = keeps * outside - lanes.manifold_pa
    root = m.within(2 * lacks / (straight + m.sqrt(straight * straight + 4 * keeps * outside * lacks)), 1e-4, most)
    for _ in range(SECANTS):
        now = over(root)
        apart = root - before
        slope = (now - was) / m.where(abs(apart) < 1e-9, 1e-9, apart)
        before, was, root = root, now, m.within(root - now / m.maximum(slope, 1.0), 1e-4, most)
    return m.num(outside * (1 - root * root))


def step(
    car: Car,
    lanes: Lanes,
    filled: Filled,
    opening_m2: Array,
    fuel_kg: Array,
    spark_deg: Array,
    charge_k: Array,
    each: Each | None = None,
    lit: Array | float = 1.0,
    road: tuple[Array | float, Array | float] = (0.0, 0.0),
    *,
    calm: bool = False,
) -> None:
    """One step on, in place. `road` is the torque [N m] that the road takes at the crank, and the inertia [kg m2] of the car that turns along: nothing with the clutch down. `calm` fills the manifold implicitly: wide open it would swing from step to step. `fuel_kg` is what is sprayed for one cylinder and cycle, times all cylinders; `opening_m2` what air has to pass; `charge_k` the air's temperature [K]; `each` where cylinders differ; `lit` the share of sparks that light a charge."""
    turns = lanes.rev_s * STEP / 2  # cycles of the engine in a step
    density = lanes.manifold_pa / (R_AIR * charge_k)
    air_kg = filled.filling * density * car.displacement  # a cycle, all cylinders
    if calm:
        lanes.manifold_pa = _settled(car, lanes, filled, opening_m2, charge_k)
    else:
        ratio = m.within(lanes.manifold_pa / car.ambient_pa, 0.05, 1.0)
        came = air.orifice_flow(opening_m2, car.ambient_pa, 293.15, ratio) * STEP
        fills = (came - air_kg * turns) * R_AIR * charge_k / car.displacement  # a plenum as large as the engine
        lanes.manifold_pa = m.within(lanes.manifold_pa + fills, LOWEST, car.ambient_pa)
    wets = m.within(m.interp(lanes.coolant, car.wall_at, car.wets) + car.wets_more, 0.0, 0.95)
    dries = m.interp(lanes.coolant, car.wall_at, car.dries_s)
    off = lanes.film_kg * m.within(STEP / dries, 0.0, 1.0)
    lanes.film_kg = lanes.film_kg - off + wets * fuel_kg * turns
    breathes = m.maximum(turns, 1e-9)
    in_kg = (1 - wets) * fuel_kg + off / breathes * (turns > 1e-9)
    vapour = m.interp(lanes.coolant, VAPOUR_AT, VAPOUR)
    lanes.lamda = m.within(air_kg / m.maximum(in_kg * vapour * car.stoich, 1e-12), 0.05, 20.0)
    fuel, most = in_kg * vapour, air_kg / car.stoich  # that is there to burn, that the air burns
    if each is None:
        lanes.burned = burns(lanes.lamda, filled.residual)
        burnt = m.minimum(fuel, most) * lanes.burned
    else:
        lanes.burned = burns(lanes.lamda * each.air / m.maximum(each.fuel, 1e-3), filled.residual) * each.lit
        burnt = (m.minimum(fuel * each.fuel, most * each.air) * lanes.burned).mean(axis=0)
    spark = m.exp2(-(((spark_deg - filled.best_deg) / SPARK_HALVES) ** 2))
    work = GROSS * car.heating * burnt * spark * car.fires * lit  # of a cycle
    lost = (friction(lanes.rev_s, lanes.coolant) + (car.ambient_pa - lanes.manifold_pa)) * car.displacement
    turning = lanes.rev_s > 0.05
    torque = (work - m.where(turning, lost, 0.0)) / (4 * math.pi) + starter(car, lanes)
    torque = torque - m.where((lanes.rev_s > 8.0) & (lanes.starter <= 0), ALTERNATOR_W / (2 * math.pi * m.maximum(lanes.rev_s, 1.0)), 0.0)
    lanes.torque_nm = torque
    lanes.rev_s = m.within(lanes.rev_s + (torque - road[0]) / (car.inertia + road[1]) / (2 * math.pi) * STEP, 0.0, 150.0)
