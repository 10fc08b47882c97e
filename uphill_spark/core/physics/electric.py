"""Conductors, coils and contacts: resistance, heat, charge time."""

from __future__ import annotations

import math

RHO_COPPER = 1.7241e-8  # ohm m at 20 C, annealed copper (IEC 60028)
ALPHA_COPPER = 0.00393  # 1/K (IEC 60028)
T_20C = 293.15
STILL_AIR = 12.0  # W/(m2 K), one wire in still air: convection and radiation together


def resistance_per_metre(area_m2: float, temperature_k: float = T_20C) -> float:
    """Resistance [ohm/m] of a copper conductor (IEC 60028).

    >>> round(resistance_per_metre(2.5e-6) * 1e3, 2)
    6.9
    """
    return RHO_COPPER / area_m2 * (1 + ALPHA_COPPER * (temperature_k - T_20C))


def wire_current_limit(area_m2: float, outside_diameter_m: float, ambient_k: float, limit_k: float) -> float:
    """Current [A] that brings a wire to its limit: I^2 R'(T) = h pi D (T - T_amb). In a bundle T_amb is what the wires beside it make of it.

    >>> round(wire_current_limit(2.5e-6, 3.3e-3, 333.15, 363.15), 1)
    20.6
    """
    if limit_k <= ambient_k:
        return 0.0
    heat = STILL_AIR * math.pi * outside_diameter_m * (limit_k - ambient_k)
    return float(math.sqrt(heat / resistance_per_metre(area_m2, limit_k)))


def bundle_rise(heat_w_m: float, diameter_m: float) -> float:
    """Rise [K] of a bundle over the air by the heat made in a metre of it [W/m]: q / (h pi D), the heat that is really made.

    >>> round(bundle_rise(5.0, 12.6e-3), 1)
    10.5
    """
    return heat_w_m / (STILL_AIR * math.pi * diameter_m)


def wire_temperature(current: float, area_m2: float, outside_diameter_m: float, ambient_k: float) -> float:
    """Steady temperature [K] of a wire that carries a current [A]: the heat balance above solved for T, closed form.

    Above about three times the rating the copper's own rise in resistance runs away; infinity is returned then.
    """
    joule = current**2 * resistance_per_metre(area_m2)
    shed = STILL_AIR * math.pi * outside_diameter_m
    below = shed - joule * ALPHA_COPPER
    if below <= 0:
        return math.inf
    return (shed * ambient_k + joule * (1 - ALPHA_COPPER * T_20C)) / below


def bundle_diameter(wires: list[tuple[int, float]], loom_m: float = 0.0016) -> float:
    """Diameter [m] of a bundle of (count, outside diameter [m]) wires, loom over it included.

    >>> round(bundle_diameter([(18, 2.4e-3), (6, 3.0e-3), (3, 4.2e-3)], 0.0) * 1e3, 1)
    17.4
    """
    return 1.2 * math.sqrt(sum(n * d**2 for n, d in wires)) + loom_m


def dwell_time(volts: float, resistance: float, inductance: float, current: float) -> float | None:
    """Time [s] for a coil to charge to a current [A]; None when it never gets there (R-L circuit, step of voltage).

    >>> round(dwell_time(12.0, 0.55, 3.6e-3, 7.5) * 1e3, 3)
    2.757
    """
    if volts <= current * resistance:
        return None
    return -inductance / resistance * math.log(1 - current * resistance / volts)
