"""From volts to what they stand for: thermistors through a divider, straight lines, and what a second reader does to both.

A thermistor is the three-constant equation (Steinhart and Hart, 1968), a line is a straight line; both by least squares where there are more points than constants.
"""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from ...figures import Result
from ...given.sensors import PressureSensor, Thermistor, line_read
from ...physics.thermistor import SteinhartHart, divider_volts, fit_thermistor

SUPPLY = 5.0  # V
ADC_STEP = 5e-3  # V, one step of a ten-bit input over five volts
OPEN_MARGIN, SHORT_MARGIN = 0.5, 0.5  # of the way from the end of the range to the rail, where a fault begins
TABLE_STEP = 10  # K
WORTH = 0.93  # of the coarsest step: another pull-up is worth its while where it comes below
COLDEST = 233.15  # K, what a unit takes an open wire for


class ThermistorCurve(Result):
    """A sender through its divider over the range wanted, each 10 K: ohms, volts, and kelvin to one step of the input."""

    name: str
    temperature_k: list[float]
    resistance_ohm: list[float]
    volts: list[float]
    step_k: list[float]
    a: float
    b: float
    c: float
    residual_k: float
    worst_step_k: float
    best_pull_up_ohm: float
    best_step_k: float
    worth_changing: bool
    short_below_v: float
    open_above_v: float
    at_20c_v: float
    at_90c_v: float
    share_error_k: float | None
    share_error_at_k: float | None
    share_volts: float | None


class Line(Result):
    """A straight line from volts to SI: value = offset + slope * volts, the worst miss of the points, and the ends at 0.25 and 4.75 V."""

    offset: float
    slope: float
    residual: float
    low: float
    high: float


LEAST_POINTS = 3  # constants of the equation


def thermistor_curve(name: str, t: Thermistor | None) -> ThermistorCurve | None:
    """Everything that a sender's points and pull-up say; None where they are too few, or the pull-up is not known."""
    pairs = tuple((kelvin.si, ohms.si) for kelvin, ohms in t.read) if t else ()
    if t is None or t.pull_up is None or len(pairs) < LEAST_POINTS:
        return None
    other = (t.shared.pull_up.si, t.shared.supply.si) if t.shared else None
    return _curve(name, pairs, t.falls, t.pull_up.si, (t.coldest.si, t.hottest.si), other)


@lru_cache(maxsize=64)
def _curve(
    name: str,
    pairs: tuple[tuple[float, float], ...],
    falls: bool,
    pull_up: float,
    span: tuple[float, float],
    other: tuple[float, float] | None,
) -> ThermistorCurve:
    """The same, by figures alone: a sender seldom changes while the rest of a build does."""
    fit = fit_thermistor(list(pairs), falls)
    low, high = round(span[0] - 273.15), round(span[1] - 273.15)
    marks = sorted({*range(math.ceil(low / TABLE_STEP) * TABLE_STEP, high + 1, TABLE_STEP), low, high})
    kelvin = [273.15 + m for m in marks]
    ohms = [fit.resistance(k) for k in kelvin]
    volts = [divider_volts(r, pull_up) for r in ohms]
    step = [_step(fit, k, pull_up) for k in kelvin]
    best = _best_pull_up(fit, kelvin)
    finest = max(_step(fit, k, best) for k in kelvin)
    ends = sorted((volts[0], volts[-1]))
    shared = _share_error(fit, other, pull_up, kelvin) if other else None
    return ThermistorCurve(
        name=name, temperature_k=kelvin, resistance_ohm=ohms, volts=volts, step_k=step, a=fit.a, b=fit.b, c=fit.c,
        residual_k=max(abs(fit.temperature(r) - k) for k, r in pairs), worst_step_k=max(step), best_pull_up_ohm=best,
        best_step_k=finest, worth_changing=finest < WORTH * max(step), short_below_v=ends[0] * (1 - SHORT_MARGIN), open_above_v=ends[1] + (SUPPLY - ends[1]) * OPEN_MARGIN,
        at_20c_v=divider_volts(fit.resistance(293.15), pull_up), at_90c_v=divider_volts(fit.resistance(363.15), pull_up),
        share_error_k=shared[0] if shared else None, share_error_at_k=shared[1] if shared else None, share_volts=shared[2] if shared else None,
    )  # fmt: skip


def _step(fit: SteinhartHart, kelvin: float, pull_up: float) -> float:
    """Kelvin to one step of the input: dT/dV, by the slopes of divider and sender."""
    below, above = kelvin - 0.05, kelvin + 0.05
    slope = (divider_volts(fit.resistance(above), pull_up) - divider_volts(fit.resistance(below), pull_up)) / 0.1
    return ADC_STEP / abs(slope) if slope else math.inf


def _best_pull_up(fit: SteinhartHart, kelvin: list[float]) -> float:
    """The pull-up that makes the coarsest place of the range finest: between a thirtieth and thirty times the mean of the end resistances, geometrically."""
    guess = math.sqrt(fit.resistance(kelvin[0]) * fit.resistance(kelvin[-1]))
    tries = guess * np.geomspace(1 / 30, 30, 181)
    worst = [max(_step(fit, k, float(r)) for k in (kelvin[0], kelvin[-1])) for r in tries]
    return float(tries[int(np.argmin(worst))])


def _share_error(fit: SteinhartHart, other: tuple[float, float], pull_up: float, kelvin: list[float]) -> tuple[float, float, float]:
    """What the unit reads wrong [K, positive: hotter] with a second reader on the sender, at the worst place of the range, where that is, and the most volts.

    The two pull-ups feed the sender together: V = (V1/R1 + V2/R2) / (1/R1 + 1/R2 + 1/R); the unit takes it for its own alone. Drawn up to its own supply it
    believes an open wire, which is told as the coldest that units know.
    """
    resistor, supply = other
    worst, most = (0.0, kelvin[0]), 0.0
    for k in kelvin:
        volts = (SUPPLY / pull_up + supply / resistor) / (1 / pull_up + 1 / resistor + 1 / fit.resistance(k))
        believed = fit.temperature(pull_up * volts / (SUPPLY - volts)) if volts < SUPPLY * 0.9999 else COLDEST
        error = max(believed, COLDEST) - k
        most = max(most, volts)
        if abs(error) > abs(worst[0]):
            worst = (error, k)
    return (*worst, most)


def pressure_line(sensor: PressureSensor | None) -> Line | None:
    """The straight line of a pressure sensor [Pa], by least squares; None before two points are read."""
    return line(line_read(sensor.points)) if sensor else None


def line(points: list[tuple[float, float]]) -> Line | None:
    """A straight line through points of volts [V] and value [SI], by least squares; None where there are no two at different volts."""
    if len({volts for volts, _ in points}) < 2:
        return None
    n = len(points)
    middle, mean = sum(v for v, _ in points) / n, sum(y for _, y in points) / n
    slope = sum((v - middle) * (y - mean) for v, y in points) / sum((v - middle) ** 2 for v, _ in points)
    offset = mean - slope * middle
    residual = max(abs(offset + slope * v - y) for v, y in points)
    return Line(offset=offset, slope=slope, residual=residual, low=offset + 0.25 * slope, high=offset + 4.75 * slope)
