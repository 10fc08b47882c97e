"""The engine as the starter turns it: speed over angle from compression and starter, and how far a spark misses when the unit reckons ahead from the last tooth.

Gas torque is polytropic compression and expansion of every cylinder (Heywood, ch. 5); the starter is a straight line from stall to free running; what is left over
turns the crank. The unit takes the last tooth's time as good for the next degrees, which lags behind a speed that swings.
"""

from __future__ import annotations

import math
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from ...given import Build
from ...physics.air import P_SEA_LEVEL, Array
from .wheel import Tooth

STEP = 2.0  # crank degrees
TURNS = 2  # a cycle, gone round again until it repeats
SETTLE = 40  # times that the starter's line is moved at most
POLYTROPIC = 1.20  # slow and against cold walls
HELD = 0.85  # of the pressure, past rings and a valve that shuts late
BLOW_BY = 0.90  # of the torque of expansion that comes back: leakage and cold walls
INERTIA = 0.075  # kg m2 for each litre: crank, flywheel, clutch of a road engine
STARTER_INERTIA = 0.15  # kg m2 of the armature, seen through pinion and ring gear
STALL_OVER_MEAN = 3.0  # starter's torque at stall over the mean that it gives while it cranks


class Cranking(NamedTuple):
    """Crank angle [deg], time [s] and speed [rev/s] over two turns, gone round until they repeat; `settled` when they did, at the mean speed wanted."""

    angle: Array
    time: Array
    speed: Array
    swing: float  # (fastest - slowest) / mean
    settled: bool


class Late(NamedTuple):
    """How far from the wanted angle an event comes [deg, positive late], at each angle of the cycle."""

    angle: Array
    error: Array
    worst: float
    worst_at_fire: float


def crank(build: Build) -> Cranking:
    """The engine of a build on its starter."""
    return _crank(*_key(build))


def _key(build: Build) -> tuple[int, int, float, float]:
    """What cranking depends on: displacement [mm3], cylinders, compression ratio, mean speed [rev/s]."""
    e, trigger = build.engine, build.sensors.trigger
    mean = trigger.cranking.si if trigger else 3.0
    return round(e.displacement.si * 1e9), e.cylinders, round(e.compression_ratio.si, 3), round(mean, 4)


@lru_cache(maxsize=32)
def _crank(displacement_mm3: int, cylinders: int, ratio: float, mean: float) -> Cranking:
    swept = displacement_mm3 * 1e-9 / cylinders
    inertia = INERTIA * displacement_mm3 * 1e-6 + STARTER_INERTIA
    half = np.arange(0.0, 720.0, STEP / 2)
    gas = sum(_gas_torque(half - k * 720.0 / cylinders, swept, ratio) for k in range(cylinders))
    drag = 8.0 * displacement_mm3 * 1e-6 + 6.0  # N m, cold oil
    load = (np.asarray(gas) - drag).tolist()
    wanted = 2 * math.pi * mean
    needed = drag - float(np.mean(gas))
    stall = STALL_OVER_MEAN * needed
    speed = wanted
    # The starter's line passes through the torque needed at the wanted speed; the mean of a lumpy turn settles off it, so the line is moved until it does not.
    free, settled = wanted * STALL_OVER_MEAN / (STALL_OVER_MEAN - 1), False
    for _ in range(SETTLE):
        angles, speeds = _turn(load, inertia, stall, free, speed)
        average = len(speeds) / float(np.sum(1 / np.asarray(speeds)))
        if abs(average / wanted - 1) < 2e-3 and abs(speeds[-1] / speed - 1) < 2e-3:
            settled = True
            break
        free *= (wanted / average) ** 0.8
        speed = speeds[-1]
    a, w = np.asarray(angles), np.asarray(speeds)
    time = np.concatenate([[0.0], np.cumsum(np.radians(np.diff(a)) * 2 / (w[1:] + w[:-1]))])
    rev = w / (2 * math.pi)
    return Cranking(a, time, rev, float((rev.max() - rev.min()) / rev.mean()), settled)


def _turn(load: list[float], inertia: float, stall: float, free: float, start: float) -> tuple[list[float], list[float]]:
    """Speed [rad/s] over angle, by the midpoint rule on its energy: stays above a crawl, as a starter's gear holds it."""
    n = len(load)
    step = math.radians(STEP)
    speed, angles, speeds = start, [0.0], [start]
    for k in range(round(360 * TURNS / STEP)):
        torque = load[(2 * k) % n] + stall * max(1 - speed / free, 0.0)
        middle = math.sqrt(max(speed * speed + torque * step / inertia, 0.04))
        torque = load[(2 * k + 1) % n] + stall * max(1 - middle / free, 0.0)
        speed = math.sqrt(max(speed * speed + 2 * torque * step / inertia, 0.04))
        angles.append((k + 1) * STEP)
        speeds.append(speed)
    return angles, speeds


def _gas_torque(angle: Array, swept: float, ratio: float) -> Array:
    """Torque [N m] of one cylinder on the crank at crank degrees after its compression top dead centre, cranking, both valves as in a four-stroke."""
    a = (angle + 360.0) % 720.0 - 360.0  # -360 .. 360, 0 at compression top
    rad = np.radians(a)
    lean = 0.28  # crank over rod
    travel = (1 - np.cos(rad)) / 2 + lean / 4 * np.sin(rad) ** 2
    per_rad = np.sin(rad) / 2 + lean / 4 * np.sin(2 * rad)
    volume = swept / (ratio - 1) + swept * travel
    whole = swept / (ratio - 1) + swept
    pressure = np.where(np.abs(a) <= 180.0, P_SEA_LEVEL * (whole / volume) ** POLYTROPIC, P_SEA_LEVEL)
    kept = np.where((a > 0) & (a <= 180.0), BLOW_BY, 1.0)
    return np.asarray((pressure - P_SEA_LEVEL) * HELD * kept * swept * per_rad)


def timing_error(build: Build, teeth: list[Tooth], whole: float, angle: float, advance: float = 10.0) -> Late:
    """The miss of a spark while the engine of a build is cranked, every cylinder to fire `advance` [deg] before its top; see `missed`."""
    return _late(_key(build), tuple(teeth), whole, angle, advance)


@lru_cache(maxsize=32)
def _late(key: tuple[int, int, float, float], teeth: tuple[Tooth, ...], whole: float, angle: float, advance: float) -> Late:
    return missed(_crank(*key), list(teeth), whole, angle, [k * 720.0 / key[1] for k in range(key[1])], advance)


def missed(run: Cranking, teeth: list[Tooth], whole: float, angle: float, firing: list[float], advance: float) -> Late:
    """The miss of an event at every angle of two turns, reckoned ahead from the tooth before it with that tooth's time.

    `teeth` as the wheel has them over `whole` crank degrees, the first one `angle` degrees before number one's top. `firing` are the top dead centres of
    the cylinders [deg after number one's]; each is to fire `advance` degrees before it.
    """
    edges = np.array(sorted((k * whole + t.begins - angle) % 720.0 for k in range(round(720 / whole)) for t in teeth))
    edges = np.concatenate([edges - 720.0, edges, edges + 720.0])
    # Angle against time over three cycles, the run repeated: what it settled to.
    period = float(run.time[-1])
    angles = np.concatenate([run.angle + 720.0 * k for k in (-1, 0, 1)])
    times = np.concatenate([run.time + period * k for k in (-1, 0, 1)])
    when = np.interp(edges, angles, times)
    wanted = np.arange(0.0, 720.0, STEP)
    last = np.searchsorted(edges, wanted, side="right") - 1
    pace = (when[last] - when[last - 1]) / (edges[last] - edges[last - 1])
    fires_at = when[last] + (wanted - edges[last]) * pace
    error = np.interp(fires_at, times, angles) - wanted
    at_fire = np.interp([(f - advance) % 720.0 for f in firing], wanted, error)
    return Late(wanted, error, float(np.max(np.abs(error))), float(np.max(np.abs(at_fire))))
