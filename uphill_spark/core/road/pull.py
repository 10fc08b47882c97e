"""Torque and power from a pull: foot flat on the level in one gear, by mass, gearing and drag, told for standard air.

What pushes the car is what speeds it up and what holds it back; over the share that gearbox and axle let through it is the engine's. Standard air by ISO 1585 (25 degC, 99 kPa dry, spark ignition).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ..figures import Result
from ..logs import Log, stretches
from ..physics.air import Array
from ..stages.engine.run import AIR_DENSITY, ROLLING, ROTATING, G
from ..standin.drive import Driven, driven
from ..worked import Worked

FLAT = 88.0  # % of the throttle: foot flat
LEAST_S, LEAST_RISE = 2.5, 1.45  # of a pull, and last over first speed
SLIPS = 0.06  # of the ratio of speed to road speed, over which wheels or clutch slip
ARRIVES, ARRIVES_OFF = 0.88, 0.03  # of the engine's torque at the wheels, straight through a manual gearbox and one axle, and how far off
MASS_OFF, MASS_OFF_USUAL, DRAG_OFF, TYRE_OFF, GRADE = 0.03, 0.12, 0.08, 0.015, 0.004  # shares; slope that looks level
STANDARD_K, STANDARD_PA, VAPOUR_PA = 298.0, 99e3, 1.2e3
FACTOR_MOST = (0.93, 1.07)  # for which the standard holds
SMOOTH_S = 0.9
PULLS_MOST = 40
POINTS = 24


class PullPoint(Result):
    """A point of a curve: speed [rpm], torque [N m] and power [W] at the crank in standard air, and how far off either may be [share]."""

    rpm: float
    torque_nm: float
    power_w: float
    doubt: float


class Pull(Result):
    """A pull: when [s, from and to], its gear (from 1; None where it is not known), its curve, the highest power with its speed and doubt, the factor to standard air and whether the standard holds for it; whether the car was told (mass,
    gears, drag) and the gear known, and not taken as usual; words."""

    from_s: float
    to_s: float
    gear: int | None
    points: list[PullPoint]
    power_w: float
    power_rpm: float
    torque_nm: float
    torque_rpm: float
    doubt: float
    factor: float
    holds: bool
    told: bool
    words: str


@dataclass(frozen=True)
class _Gear:
    number: int | None
    whole: float


def pulls(w: Worked, log: Log, outside_kpa: float | None) -> list[Pull]:
    """The pulls of a log in their order; of very many those over the widest span of speeds."""
    throttle, rpm = log.filled("throttle"), log.filled("speed")
    if not np.isfinite(throttle).any() or not np.isfinite(rpm).any() or log.every > 0.5:
        return []
    car, found = driven(w), list[tuple[int, int, _Gear]]()
    for a, b in stretches(np.nan_to_num(throttle) > FLAT):
        a = a + round(0.4 / max(log.every, 1e-3))  # the foot has arrived, and so has the air
        if b - a < 8 or float(log.time[b - 1] - log.time[a]) < LEAST_S:
            continue
        top = a + int(np.argmax(rpm[a:b])) + 1
        if rpm[top - 1] < LEAST_RISE * rpm[a] or float(log.time[top - 1] - log.time[a]) < LEAST_S:
            continue
        gear = _gear(car, log, a, top)
        if gear is not None:
            found.append((a, top, gear))
    longest = sorted(found, key=lambda f: rpm[f[0]] - rpm[f[1] - 1])[:PULLS_MOST]
    return [_pull(w, car, log, *f, outside_kpa) for f in sorted(longest, key=lambda f: f[0])]


def _gear(car: Driven, log: Log, a: int, b: int) -> _Gear | None:
    """The gear of a stretch by road speed; without one, the third, told as taken so. None where something slips."""
    road, rpm = log.filled("road_speed")[a:b], log.filled("speed")[a:b]
    if not np.isfinite(road).any() or float(np.nanmedian(road)) < 5:
        return _Gear(None, car.whole(3))
    ratio = rpm / 60 * 2 * math.pi * car.tyre / np.maximum(road / 3.6, 0.5)
    middle = float(np.median(ratio))
    if float(np.median(np.abs(ratio / middle - 1))) > SLIPS:
        return None
    wholes = [g * car.final for g in car.gears]
    k = int(np.argmin([abs(math.log(x / middle)) for x in wholes]))
    return _Gear(k + 1, wholes[k]) if abs(wholes[k] / middle - 1) < 0.12 else _Gear(None, middle)


def _pull(w: Worked, car: Driven, log: Log, a: int, b: int, gear: _Gear, outside_kpa: float | None) -> Pull:
    from scipy.signal import savgol_filter  # takes a while to load, and only the worker reads a log

    time, rpm = log.time[a:b], log.filled("speed")[a:b]
    every = float(np.median(np.diff(time)))
    even = np.arange(time[0], time[-1] + every / 2, every)
    turns = np.interp(even, time, rpm) / 60
    span = min(max(round(SMOOTH_S / every) | 1, 5), (len(even) - 1) | 1)
    span = span if span <= len(even) else len(even) - (len(even) + 1) % 2
    smooth, rate = savgol_filter(turns, span, 2), savgol_filter(turns, span, 2, deriv=1, delta=every)
    v, speeds_up = smooth * 2 * math.pi * car.tyre / gear.whole, rate * 2 * math.pi * car.tyre / gear.whole
    turning = ROTATING[0] + ROTATING[1] * gear.whole**2
    push = car.mass * turning * speeds_up + 0.5 * AIR_DENSITY * car.drag_area * v**2 + ROLLING * car.mass * G
    torque = push * car.tyre / gear.whole / ARRIVES
    factor, holds = standard(w, log, a, b, outside_kpa)
    torque = torque * factor
    power = torque * smooth * 2 * math.pi
    keep = slice(span // 3, len(even) - span // 3)
    doubt = _doubt(car, gear, v, speeds_up, turning, push)
    k = int(np.argmax(power[keep])) + span // 3
    t = int(np.argmax(torque[keep])) + span // 3
    chosen = np.unique(np.linspace(keep.start, keep.stop - 1, POINTS).astype(int))
    points = [
        PullPoint(
            rpm=round(float(smooth[i] * 60)),
            torque_nm=round(float(torque[i]), 1),
            power_w=round(float(power[i])),
            doubt=round(float(doubt[i]), 3),
        )
        for i in chosen
    ]
    told = f"gear {gear.number}" if gear.number else "gear not known, third taken"
    words = f"{power[k] / 1e3:.0f} kW ± {doubt[k] * 100:.0f} % at {smooth[k] * 60:.0f} rpm, {torque[t]:.0f} N m at {smooth[t] * 60:.0f} rpm ({told}; times {factor:.3f} to standard air{'' if holds else ', more than the standard allows'})."
    if not car.told:
        words += " Mass, gears and drag are taken as usual: tell them at Engine, Power."
    return Pull(
        from_s=round(float(time[0] - log.time[0]), 2), to_s=round(float(time[-1] - log.time[0]), 2), gear=gear.number, points=points, power_w=float(power[k]), power_rpm=float(smooth[k] * 60), torque_nm=float(torque[t]), torque_rpm=float(smooth[t] * 60),
        doubt=float(doubt[k]), factor=round(factor, 4), holds=holds, told=car.told and gear.number is not None, words=words,
    )  # fmt: skip


def _doubt(car: Driven, gear: _Gear, v: Array, speeds_up: Array, turning: float, push: Array) -> Array:
    """How far off each point may be [share]: what is not known of the car and of the road, each by what it moves."""
    mass_off = MASS_OFF if car.told else MASS_OFF_USUAL
    mass = car.mass * turning * speeds_up * mass_off
    drag = 0.5 * AIR_DENSITY * car.drag_area * v**2 * (DRAG_OFF if car.told else 2 * DRAG_OFF)
    slope = np.full(len(v), car.mass * G * GRADE)
    tyre = 2 * TYRE_OFF * np.abs(push)
    whole = np.sqrt(mass**2 + drag**2 + slope**2 + tyre**2) / np.maximum(np.abs(push), 1.0)
    return np.asarray(np.sqrt(whole**2 + (ARRIVES_OFF / ARRIVES) ** 2 + (0.15 if gear.number is None else 0.0) ** 2))


def standard(w: Worked, log: Log, a: int, b: int, outside_kpa: float | None) -> tuple[float, bool]:
    """Factor [1] to standard air from the pressure outside [kPa] (ISO 1585, spark ignition without a blower): pressure dry to the power 1.2, temperature to 0.6; whether it lies where the standard holds."""
    dry = (outside_kpa * 1e3 if outside_kpa else w.engine.ambient_pressure_pa) - VAPOUR_PA
    air = log.filled("air")[a:b]
    kelvin = (float(np.nanmedian(air)) if np.isfinite(air).any() else 25.0) + 273.15
    factor = (STANDARD_PA / dry) ** 1.2 * (kelvin / STANDARD_K) ** 0.6
    return factor, FACTOR_MOST[0] <= factor <= FACTOR_MOST[1]
