"""Vapour pressure of motor gasoline, and of what is mostly ethanol."""

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


#: Antoine constants of ethanol: log10(p / mmHg) = A - B / (C + t / degC), -2 to 100 C (Reid, Prausnitz and Poling, The Properties of Gases and Liquids, app. A).
ETHANOL = (8.20417, 1642.89, 230.300)
MMHG = 133.322
REID_K = 310.93  # 100 degF, at which the Reid vapour pressure is taken
#: Moles of ethanol in a litre of it, and of petrol in a litre of that [mol/L]: 789 g/L over 46.07 g/mol, 720 g/L over 100 g/mol.
MOLAR = (17.13, 7.2)
PETROL_OF_BLENDS = 62e3  # Pa, Reid vapour pressure of the petrol in such a blend


def ethanol_vapour_pressure(temperature_k: float) -> float:
    """Vapour pressure [Pa] of ethanol.

    >>> round(ethanol_vapour_pressure(351.44) / 1e3, 1)
    101.2
    """
    a, b, c = ETHANOL
    return float(10 ** (a - b / (c + temperature_k - 273.15)) * MMHG)


def blend_vapour_pressure(reid_pa: float, temperature_k: float, alcohol: float) -> float:
    """Vapour pressure [Pa] of a blend of ethanol (`alcohol` by volume, over a half) and petrol from its Reid vapour pressure [Pa].

    Two parts, each by its own law: ethanol by its share of the moles (Raoult; its activity coefficient is near 1 there), and petrol, whose activity
    coefficient is whatever makes the blend meet its Reid vapour pressure and is held (Smith, Van Ness and Abbott, ch. 10). It rises faster in heat than petrol's law
    alone: 7 % more at 50 C.
    """
    moles = (alcohol * MOLAR[0], (1 - alcohol) * MOLAR[1])
    share = moles[0] / sum(moles)
    at_reid = gasoline_vapour_pressure(reid_pa, REID_K)
    petrol = max(at_reid - share * ethanol_vapour_pressure(REID_K), 0.0)
    grows = gasoline_vapour_pressure(PETROL_OF_BLENDS, temperature_k) / gasoline_vapour_pressure(PETROL_OF_BLENDS, REID_K)
    return share * ethanol_vapour_pressure(temperature_k) + petrol * grows


def fuel_vapour_pressure(reid_pa: float, temperature_k: float, alcohol: float) -> float:
    """Vapour pressure [Pa] of a fuel with a share of alcohol: petrol's law up to a half, the blend's own above."""
    return blend_vapour_pressure(reid_pa, temperature_k, alcohol) if alcohol > 0.5 else gasoline_vapour_pressure(reid_pa, temperature_k)
