"""Thermistors: the three-constant equation and the divider it is read through."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np


@dataclass(frozen=True, slots=True)
class SteinhartHart:
    """1/T = A + B ln R + C ln^3 R, T in kelvin, R in ohm (Steinhart and Hart, 1968, Deep-Sea Research 15)."""

    a: float
    b: float
    c: float

    def temperature(self, resistance: float) -> float:
        """Temperature [K] at a resistance [ohm]."""
        x = math.log(resistance)
        return 1 / (self.a + self.b * x + self.c * x**3)

    def resistance(self, temperature: float) -> float:
        """Resistance [ohm] at a temperature [K], by Cardano's closed form."""
        if abs(self.c) < 1e-15:
            return math.exp(min(max((1 / temperature - self.a) / self.b, -20.0), 30.0))
        x = (self.a - 1 / temperature) / (2 * self.c)
        y = math.sqrt((self.b / (3 * self.c)) ** 3 + x**2)
        return math.exp(float(np.cbrt(y - x)) - float(np.cbrt(y + x)))


def fit_thermistor(points: list[tuple[float, float]], falls: bool = True) -> SteinhartHart:
    """The three constants from three or more pairs of (temperature [K], resistance [ohm]), by least squares where there are more.

    Pairs that would bend the curve the wrong way (C < 0, or B of the wrong sign: mostly an error in one of them) are fitted with C = 0. A sender whose resistance
    rises is a straight line in the same coordinates, C = 0.
    """
    logs = np.log([r for _, r in points])
    target = np.array([1 / t for t, _ in points])
    ones = np.ones(len(points))
    (a, b, c), *_ = np.linalg.lstsq(np.column_stack([ones, logs, logs**3]), target, rcond=None)
    if not falls or b <= 0 or c < 0:
        (a, b), *_ = np.linalg.lstsq(np.column_stack([ones, logs]), target, rcond=None)
        c = 0.0
    return SteinhartHart(float(a), float(b), float(c))


def divider_volts(resistance: float, pull_up: float, supply: float = 5.0) -> float:
    """Volts at the input [V] of a sender [ohm] to ground under a pull-up [ohm] from a supply [V]: the divider R / (R + R_up)."""
    return supply * resistance / (resistance + pull_up)
