"""What power a run from rest takes, worked out step by step: gearing, grip, drag, and the shape of the engine's torque.

At each speed the gear that pushes hardest is taken; below the speed at which the clutch is home the engine is held at its launch speed. The time is the
sum of mass times a step of speed over the force that is left, and the power is that for which the time comes out as asked.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ...figures import Result
from ...given import Build
from ...given.engine import AccelerationRun
from ...physics.air import Array
from .filling import full_load_filling

G = 9.80665  # m/s2
AIR_DENSITY = 1.2  # kg/m3
ROLLING = 0.014  # of the weight, radial tyres on asphalt: 0.013 to 0.015 (SAE J1269)
#: Mass that turns along, as a factor on the car's own: 1.04 + 0.0025 N^2 with the whole ratio N of engine to wheel (Gillespie, Fundamentals of Vehicle Dynamics, ch. 2).
ROTATING = (1.04, 0.0025)
ROTATING_UNKNOWN = 1.05  # where the gearing is not known
ROLLING_ALONG = 1.02  # wheels that only roll along: all that tyres at their limit have to turn besides the car itself
TRANSFER = 0.22  # height of the centre of mass over the wheelbase, of usual cars (Gillespie, ch. 1): what moves to the rear, a share of mass times acceleration
LAUNCH = 0.5  # of the speed of full power, held while the clutch takes up
#: Share of full power at the wheels on average over a run, low and high, where the gearing is not known.
RUN_SHARE = (0.42, 0.58)
STEPS = 71
_SHOWN = slice(None, None, 2)  # of the steps, for drawing: the first and the last are among them
_POWERS = np.geomspace(8e3, 8e5, 32)  # W


class RunPoint(Result):
    """Where the car is on its run: seconds from rest, speed [m/s], gear counted from 1."""

    time_s: float
    speed_m_s: float
    gear: int


class RunResult(Result):
    """Power [W] that the run takes: low, middle, high; None where no power does it, for grip. `grip_time_s` is what the tyres allow at best."""

    low: float | None
    middle: float | None
    high: float | None
    stepped: bool
    grip_time_s: float
    grip_limits: bool
    #: Seconds that the run takes with the power target: quick, middle, slow; None where it never gets there.
    seconds: tuple[float, float, float] | None
    points: list[RunPoint]


class _Way(NamedTuple):
    speed: Array
    push: Array
    gear: NDArray[np.intp]
    turning: Array


class _Car(NamedTuple):
    """What is not known to a hair, against what is told: drag, grip, share of the torque that arrives, and the clock."""

    drag: float
    grip: float
    arrives: float
    slack: float


_CARS = (_Car(0.92, 1.08, 0.91, 1.03), _Car(1.0, 1.0, 0.88, 1.0), _Car(1.08, 0.92, 0.85, 0.97))  # kind, middle, unkind


def run_power(build: Build) -> RunResult | None:
    """The run that the car should do; None where none is asked for."""
    run = build.engine.run
    if run is None:
        return None
    grip_time = run.to_speed.si * ROLLING_ALONG / tyres(run, 1.0)
    target = build.engine.power.si
    if not run.gears:
        work = ROTATING_UNKNOWN * run.mass.si * run.to_speed.si**2 / 2
        quick, middle, slow = (max(work / (share * target), grip_time) for share in (RUN_SHARE[1], sum(RUN_SHARE) / 2, RUN_SHARE[0]))
        mean = work / run.time.si if run.time is not None else None
        return RunResult(
            low=None if mean is None else mean / RUN_SHARE[1], middle=None if mean is None else 2 * mean / sum(RUN_SHARE), high=None if mean is None else mean / RUN_SHARE[0],
            stepped=False, grip_time_s=grip_time, grip_limits=run.time is not None and grip_time > run.time.si, seconds=(quick, middle, slow), points=[],
        )  # fmt: skip
    way = _way(build, run)
    low = mean_power = high = None
    if run.time is not None:
        took = _seconds(run, way, _CARS, _POWERS)[:, :, -1]
        low, mean_power, high = (_power_for(took[i], run.time.si * car.slack) for i, car in enumerate(_CARS))
    forward = _seconds(run, way, _CARS, np.array([target]))[:, 0, -1].tolist()
    drawn = target if run.time is None else mean_power if mean_power is not None else _POWERS[-1]
    times = _seconds(run, way, _CARS[1:2], np.array([drawn]))[0, 0]
    return RunResult(
        low=low, middle=mean_power, high=high, stepped=True, grip_time_s=grip_time, grip_limits=run.time is not None and mean_power is None,
        seconds=(forward[0], forward[1], forward[2]) if all(map(math.isfinite, forward)) else None,
        points=[
            RunPoint(time_s=round(t, 4), speed_m_s=round(v, 3), gear=int(g) + 1)
            for t, v, g in zip(times[_SHOWN].tolist(), way.speed[_SHOWN].tolist(), way.gear[_SHOWN].tolist(), strict=True) if math.isfinite(t)
        ],
    )  # fmt: skip


def _way(build: Build, run: AccelerationRun) -> _Way:
    """The speeds of the run, the gear that pushes hardest at each, and its push for each watt of full power, nothing lost on the way."""
    e = build.engine
    speed = np.linspace(0.05, run.to_speed.si, STEPS)
    ratios = np.array(run.gears)[:, None] * run.final_drive.si
    turns = speed[None, :] / (2 * math.pi * run.tyre.si) * ratios  # rev/s of the engine, clutch home
    held = np.maximum(turns, LAUNCH * e.power_speed.si)
    torque = (
        full_load_filling(build, held) / float(full_load_filling(build, np.array([e.power_speed.si]))[0]) / (2 * math.pi * e.power_speed.si)
    )
    usable = (turns <= e.rev_limit.si) & ((held == turns) | (np.arange(len(run.gears))[:, None] == 0))
    push = np.where(usable, torque * ratios / run.tyre.si, 0.0)
    gear = np.argmax(push, axis=0)
    whole = ratios[:, 0][gear]
    return _Way(speed, push[gear, np.arange(len(speed))], gear, ROTATING[0] + ROTATING[1] * whole**2)


def tyres(run: AccelerationRun, grip: float) -> float:
    """Acceleration [m/s2] at which the driven tyres slip, `grip` times what is told: by the weight on them, with what pulling away moves to the rear."""
    mu = run.grip * grip
    if run.driven == "all":
        return mu * G
    moved = {"rear": TRANSFER, "front": -TRANSFER}.get(run.driven, 0.0)
    return mu * run.driven_share.si * G / (1 - mu * moved)


def _seconds(run: AccelerationRun, way: _Way, cars: tuple[_Car, ...], power: Array) -> Array:
    """Seconds from rest, by car, power and speed: infinite where the car does not get there."""
    weight = run.mass.si * G
    drag, arrives = (np.array([getattr(car, k) for car in cars])[:, None, None] for k in ("drag", "arrives"))
    held_back = 0.5 * AIR_DENSITY * run.drag_area.si * drag * way.speed**2 + ROLLING * weight
    left = way.push * power[:, None] * arrives - held_back
    by_power = np.where(left > 1.0, way.turning * run.mass.si / np.maximum(left, 1.0), np.inf)
    holds = np.array([tyres(run, car.grip) for car in cars])[:, None, None] * run.mass.si - held_back
    slow = np.maximum(by_power, np.where(holds > 1.0, ROLLING_ALONG * run.mass.si / np.maximum(holds, 1.0), np.inf))
    steps = (slow[..., 1:] + slow[..., :-1]) / 2 * np.diff(way.speed) + run.shift.si * np.maximum(np.diff(way.gear), 0)
    return np.concatenate([np.zeros((*steps.shape[:2], 1)), np.cumsum(steps, axis=-1)], axis=-1)


def _power_for(took: Array, seconds: float) -> float | None:
    """The least power with which the run takes no longer; None where no power of the range looked at does it. More power never takes longer: at the grip limit it is for nothing."""
    enough = np.flatnonzero(took <= seconds)
    if not len(enough):
        return None
    k = int(enough[0])
    if k == 0 or not math.isfinite(took[k - 1]):
        return float(_POWERS[k])
    share = math.log(took[k - 1] / seconds) / math.log(took[k - 1] / took[k])
    return float(_POWERS[k - 1] * (_POWERS[k] / _POWERS[k - 1]) ** share)
