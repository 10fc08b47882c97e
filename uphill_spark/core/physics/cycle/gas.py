"""What is in the cylinder: unburned charge and burned gas, each with a specific heat that rises with temperature; flow through an opening."""

from __future__ import annotations

import numpy as np

from ..network import Array

R = 287.0  # J/(kg K), of both
#: cv = a + b T [J/(kg K)]: a mixture of petrol's vapour and air; burned gas with what it takes to split at flame temperature (Heywood, ch. 4.5 and 4.7).
UNBURNED, BURNED = (687.0, 0.275), (720.0, 0.20)
GAMMA = 1.37  # for flow through openings
_CRITICAL = (2 / (GAMMA + 1)) ** (GAMMA / (GAMMA - 1))
_CHOKED = float(np.sqrt(GAMMA) * (2 / (GAMMA + 1)) ** ((GAMMA + 1) / (2 * (GAMMA - 1))))
CV = tuple[float, float]


def heat(temperature: Array, burned: Array, gases: tuple[CV, CV] = (UNBURNED, BURNED)) -> Array:
    """cv [J/(kg K)] of a mixture with so much of it burned."""
    (a, b), (c, d) = gases
    return np.asarray((a + b * temperature) * (1 - burned) + (c + d * temperature) * burned, dtype=np.float64)


def energy(temperature: Array, burned: Array, gases: tuple[CV, CV] = (UNBURNED, BURNED)) -> Array:
    """Internal energy [J/kg] over nought kelvin, without what burning sets free."""
    (a, b), (c, d) = gases
    return np.asarray(
        (a + b / 2 * temperature) * temperature * (1 - burned) + (c + d / 2 * temperature) * temperature * burned, dtype=np.float64
    )


def through(area: Array | float, high_pa: Array, high_k: Array, low_pa: Array) -> Array:
    """Mass flow [kg/s] through an opening [m2], from high [Pa, K] to low [Pa]: choked below the critical ratio, elliptic above it (the form of ISO 6358)."""
    x = np.maximum(low_pa / high_pa - _CRITICAL, 0.0) / (1 - _CRITICAL)
    return np.asarray(area * _CHOKED * high_pa / np.sqrt(R * high_k) * np.sqrt(np.maximum(1 - x * x, 0.0)), dtype=np.float64)
