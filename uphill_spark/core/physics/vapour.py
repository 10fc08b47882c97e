"""Vapour pressure of motor gasoline."""

from __future__ import annotations

import math

PSI = 6894.757293168
SLOPE = 3.0  # distillation slope of motor gasoline at 10 % evaporated, degF per volume percent (EPA AP-42, ch. 7.1, table 7.1-2)


def gasoline_vapour_pressure(reid_pa: float, temperature_k: float, slope: float = SLOPE) -> float:
    """True vapour pressure [Pa] from the Reid vapour pressure [Pa] and temperature [K], 0 to 60 C (EPA AP-42, ch. 7.1, figure 7.1-14b).

    >>> [round(gasoline_vapour_pressure(62e3, 273.15 + t) / 1e3, 1) for t in (20, 38, 50)]
    [37.1, 66.5, 94.6]
    """
    rankine = temperature_k * 1.8
    log_rvp = math.log10(reid_pa / PSI)
    root = math.sqrt(slope)
    exponent = (0.7553 - 413.0 / rankine) * root * log_rvp - (1.854 - 1042.0 / rankine) * root + (2416.0 / rankine - 2.013) * log_rvp
    return math.exp(exponent - 8742.0 / rankine + 15.64) * PSI
