"""Flow in a line: friction, fittings, filters, valves, height. The same equations for one flow and for many at once."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

G = 9.80665
LEAST_REYNOLDS = 1e-6  # below this a flow is no flow; keeps the friction equation finite


@dataclass(frozen=True, slots=True)
class Arithmetic:
    """The operations that differ between one number and an array of them."""

    log: Callable[[Any], Any]
    larger: Callable[[Any, Any], Any]
    smaller: Callable[[Any, Any], Any]
    root: Callable[[Any], Any]
    cube_root: Callable[[Any], Any]


ONE = Arithmetic(math.log, max, min, math.sqrt, math.cbrt)
MANY = Arithmetic(np.log, np.maximum, np.minimum, np.sqrt, np.cbrt)


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


def friction_factor(reynolds: Any, relative_roughness: Any, how: Arithmetic = ONE) -> Any:
    """Darcy friction factor [-], laminar to turbulent in one equation (Churchill, 1977, Chem. Eng. 84(24)).

    Reynolds number above 0; relative roughness 0 to 0.05. Numbers, or arrays with `how` MANY.

    >>> round(friction_factor(1000.0, 0.0), 4)
    0.064
    """
    one = 1 / reynolds
    rough = how.log((7 * one) ** 0.9 + 0.27 * relative_roughness) * -2.457
    # Powers by squaring and roots: far quicker than a general power where there are many.
    rough = rough * rough
    rough = rough * rough
    rough = rough * rough
    smooth = 37530 * one
    smooth = smooth * smooth
    smooth = smooth * smooth
    smooth = smooth * smooth
    both = rough * rough + smooth * smooth
    laminar = 8 * one
    laminar = laminar * laminar
    laminar = laminar * laminar
    whole = laminar * laminar * laminar + 1 / (both * how.root(both))
    return 8 * how.cube_root(how.root(how.root(whole)))


def line_loss(run: Run, flow: Any, liquid: Liquid, how: Arithmetic = ONE, bore: Any = 1.0, k: Any = 1.0) -> Any:
    """Pressure lost [Pa] to friction and fittings at a flow [m3/s] >= 0 (Darcy-Weisbach). Height is not in it.

    `bore` and `k` are factors on the run's bore and on its loss coefficients, for their doubt.
    """
    diameter = run.bore * bore
    v = flow / (math.pi / 4 * diameter * diameter)
    reynolds = how.larger(v * diameter * (liquid.density / liquid.viscosity), LEAST_REYNOLDS)
    f = friction_factor(reynolds, run.roughness / diameter, how)
    return (f * (run.length / diameter) + run.k_sum * k) * (v * v) * (liquid.density / 2)


def filter_loss(rated_drop: float, rated_flow: float, flow: Any, viscosity_ratio: float, due: bool = False) -> Any:
    """Pressure lost [Pa] in a fine filter: laminar, so linear in flow and viscosity (Darcy); three times as much when due."""
    return rated_drop * flow / rated_flow * viscosity_ratio * (3.0 if due else 1.0)


def orifice_loss(rated_drop: float, rated_flow: float, flow: Any) -> Any:
    """Pressure lost [Pa] in a valve, damper or other narrow place: turbulent, so with the square of flow."""
    return rated_drop * (flow / rated_flow) ** 2


def head(liquid: Liquid, rise: float) -> float:
    """Pressure [Pa] spent on lifting the liquid by `rise` [m]."""
    return liquid.density * G * rise
