"""Air: the standard atmosphere, filling of a four-stroke engine, flow past a throttle."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from . import arith

Array = NDArray[np.float64]

P_SEA_LEVEL = 101325.0
R_AIR = 287.05  # J/(kg K)
GAMMA = 1.4


def ambient_pressure(altitude_m: float) -> float:
    """Pressure [Pa] of the standard atmosphere at an altitude [m], -2,000 to 11,000 m (ISO 2533).

    >>> round(ambient_pressure(420.0))
    96380
    """
    return float(P_SEA_LEVEL * (1 - 2.25577e-5 * altitude_m) ** 5.25588)


def density(pressure_pa: float, temperature_k: float) -> float:
    """Density [kg/m3] of dry air (ideal gas).

    >>> round(density(1e5, 293.15), 4)
    1.1884
    """
    return pressure_pa / (R_AIR * temperature_k)


def air_flow(filling: float, density_kg_m3: float, displacement_m3: float, speed_rev_s: float) -> float:
    """Air mass flow [kg/s] of a four-stroke engine: one filling every two turns (Heywood, ch. 2.10)."""
    return filling * density_kg_m3 * displacement_m3 * speed_rev_s / 2


def charge_temperature(inlet_k: float, pressure_ratio: float, efficiency: float, cooler: float = 0.0) -> float:
    """Temperature [K] of the charge behind a compressor and its cooler, which takes the share `cooler` of the rise.

    T2 = T1 (1 + (PR^((g-1)/g) - 1) / eta), eta the adiabatic efficiency (Heywood, ch. 6.8).

    >>> round(charge_temperature(293.15, 1.6, 0.65) - 273.15, 1)
    84.8
    >>> round(charge_temperature(293.15, 1.6, 0.65, 0.6) - 273.15, 1)
    45.9
    """
    rise = inlet_k * (pressure_ratio ** ((GAMMA - 1) / GAMMA) - 1) / efficiency
    return float(inlet_k + rise * (1 - cooler))


def part_load_filling(exhaust_over_inlet: Array | float, compression_ratio: float, k: float = 1.35) -> Array:
    """Ideal filling [-] against manifold density, with residual gas expanding back (Heywood, ch. 6.2).

    `exhaust_over_inlet` is p_exhaust / p_inlet, 1 or more at part load; below 1 it is held at 1.

    >>> [round(float(part_load_filling(x, 9.0)), 3) for x in (1, 2, 3, 4)]
    [1.0, 0.907, 0.815, 0.722]
    """
    ratio = np.maximum(np.asarray(exhaust_over_inlet, dtype=np.float64), 1.0)
    filling = (k - 1) / k + (compression_ratio - ratio) / (k * (compression_ratio - 1))
    return np.asarray(np.maximum(filling, 0.05), dtype=np.float64)


def butterfly_area(diameter_m: float, opening: Array, closed_deg: float = 6.0) -> Array:
    """Open area [m2] of a butterfly at `opening` 0..1 of its travel from closed to square-on.

    A = pi D^2/4 (1 - cos(a)/cos(a0)), with a0 the closed angle; spindle neglected (Heywood, ch. 7.6).
    """
    angle = np.radians(closed_deg + np.clip(opening, 0.0, 1.0) * (90.0 - closed_deg))
    return np.asarray(math.pi * diameter_m**2 / 4 * (1 - np.cos(angle) / math.cos(math.radians(closed_deg))), dtype=np.float64)


def orifice_flow(area_m2: Array, upstream_pa: float, temperature_k: float, pressure_ratio: Array, discharge: float = 0.8) -> Array:
    """Mass flow [kg/s] of air through a restriction, choked below p/p0 = 0.528 (Heywood, app. C)."""
    critical = (2 / (GAMMA + 1)) ** (GAMMA / (GAMMA - 1))
    ratio = arith.within(pressure_ratio, critical, 1.0)
    cools = ratio ** ((GAMMA - 1) / GAMMA)  # temperature in the throat over that before it; the ratio over it is the density's
    flux = ratio / cools * arith.sqrt(2 * GAMMA / (GAMMA - 1) * arith.maximum(1 - cools, 0.0))
    return arith.num(discharge * area_m2 * upstream_pa / math.sqrt(R_AIR * temperature_k) * flux)
