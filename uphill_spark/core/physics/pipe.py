"""Flow in a line: friction, fittings, filters, height."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

G = 9.80665


@dataclass(frozen=True, slots=True)
class Liquid:
    """A liquid's density [kg/m3] and dynamic viscosity [Pa s]."""

    density: float
    viscosity: float


@dataclass(frozen=True, slots=True)
class Run:
    """A run of line: bore, length, roughness, rise of its far end [m], sum of loss coefficients [-]."""

    bore: float
    length: float
    roughness: float
    rise: float
    k_sum: float

    def velocity(self, flow: float) -> float:
        """Mean velocity [m/s] at a flow [m3/s]."""
        return flow / (math.pi * self.bore**2 / 4)


def friction_factor(reynolds: float, relative_roughness: float) -> float:
    """Darcy friction factor [-], laminar to turbulent in one equation (Churchill, 1977, Chem. Eng. 84(24)).

    Reynolds number above 0; relative roughness 0 to 0.05.

    >>> round(friction_factor(1000.0, 0.0), 4)
    0.064
    """
    return float(_churchill(reynolds, relative_roughness, math.log))


def friction_factors(reynolds: Array, relative_roughness: Array) -> Array:
    """The same for arrays of Reynolds numbers and relative roughness, element by element."""
    return np.asarray(_churchill(reynolds, relative_roughness, np.log), dtype=np.float64)


def _churchill(reynolds: Any, relative_roughness: Any, log: Callable[[Any], Any]) -> Any:
    a = (2.457 * log(1 / ((7 / reynolds) ** 0.9 + 0.27 * relative_roughness))) ** 16
    b = (37530 / reynolds) ** 16
    return 8 * ((8 / reynolds) ** 12 + 1 / (a + b) ** 1.5) ** (1 / 12)


def line_loss(run: Run, flow: float, liquid: Liquid) -> float:
    """Pressure lost [Pa] to friction and fittings at a flow [m3/s] >= 0 (Darcy-Weisbach). Height is not in it."""
    if flow <= 1e-12:
        return 0.0
    v = run.velocity(flow)
    reynolds = liquid.density * v * run.bore / liquid.viscosity
    f = friction_factor(reynolds, run.roughness / run.bore)
    return (f * run.length / run.bore + run.k_sum) * liquid.density * v**2 / 2


def filter_loss(rated_drop: float, rated_flow: float, flow: float, viscosity_ratio: float, due: bool = False) -> float:
    """Pressure lost [Pa] in a fine filter: laminar, so linear in flow and viscosity (Darcy); three times as much when due."""
    return rated_drop * flow / rated_flow * viscosity_ratio * (3.0 if due else 1.0)


def head(liquid: Liquid, rise: float) -> float:
    """Pressure [Pa] spent on lifting the liquid by `rise` [m]."""
    return liquid.density * G * rise
