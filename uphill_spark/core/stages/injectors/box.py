"""The box: every injector that could be fitted, held against this engine, this driver and this plug, with the reason why each loses."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from ...circuit.states import SYSTEM_VOLTS
from ...figures import Result
from ...given import Build
from ...given.injectors import InjectorSheet, flow_si

Array = NDArray[np.float64]
#: Dead time assumed without data, by driver: t0 + a / (V - V0), in s and s V. 0.9 ms at 13.5 V with a slope of -0.12 ms/V, and 2.5 ms at 8 V, as usual tables of
#: saturated injectors have it; 0.7 ms with -0.08 ms/V for those with a peak.
ASSUMED_DEAD_TIME = {"saturated": (-0.224e-3, 10.52e-3), "peak_and_hold": (-0.049e-3, 7.01e-3)}
STALLS = 4.137  # V at which nothing opens any more
LEAST_OVER = 1.0  # V over that, below which the law is held
PEAK_MOST = 8.0  # ohm: above, a peak-and-hold driver never peaks


class Candidate(Result):
    """One of the box: its rated mass flow, both ends of its range here, and what stands against it, the worst first."""

    index: int
    name: str
    flow_kg_s: float
    duty_full: float
    pulse_idle_s: float
    passes: bool
    centred: float
    fails: list[str]
    costs: list[str]
    rank: int


class DeadTimes:
    """Dead time over voltage: the person's table, straight between its rows and held at its ends, or the assumed law."""

    def __init__(self, sheet: InjectorSheet, driver: str) -> None:
        self._base, self._rise = ASSUMED_DEAD_TIME[driver]
        rows = sheet.dead_times
        self._table = np.array(rows).T if rows else None
        if self._table is not None:
            self._slopes = np.concatenate([[0.0], np.diff(self._table[1]) / np.diff(self._table[0]), [0.0]])

    def at(self, volts: Array) -> tuple[Array, Array]:
        """Times [s] at voltages, and their slopes [s/V]."""
        if self._table is not None:
            known, times = self._table
            return np.asarray(np.interp(volts, known, times), dtype=np.float64), self._slopes[np.searchsorted(known, volts)]
        over = np.maximum(volts - STALLS, LEAST_OVER)
        return self._base + self._rise / over, np.where(volts - STALLS > LEAST_OVER, -self._rise / over**2, 0.0)


def dead_time(sheet: InjectorSheet, driver: str, volts: float) -> float:
    """Dead time [s] at one voltage."""
    return float(DeadTimes(sheet, driver).at(np.array(volts))[0])


def ranked(build: Build, pulse_full_kg: float, pulse_idle_kg: float, period_s: float, pressures: tuple[float, float],
           density_of: dict[str, float], volts: float) -> list[Candidate]:  # fmt: skip
    """The box in order: what passes both ends first, then what costs least to adapt, then what sits nearest the window's middle.

    `pulse_full_kg` and `pulse_idle_kg` are the fuel of one squirt [kg] at full power and at idle, `pressures` those across the injector there [Pa], `volts` those that it gets.
    """
    i = build.injectors
    rows = []
    for index, one in enumerate(i.box):
        density = density_of[one.fluid]
        rated = rated_mass(one, density)
        on_fuel = rated * math.sqrt(density_of["working_fuel"] / density)
        full, idle = (on_fuel * math.sqrt(max(p, 1e3) / one.rated_at.si) for p in pressures)
        dead_s = dead_time(one, i.driver, volts)
        duty = (pulse_full_kg / full + dead_s) / period_s
        pulse = pulse_idle_kg / idle
        fails, costs = [], []
        if duty > i.duty_limit.si:
            fails.append(f"open {duty * 100:.0f} % of the time at full power, {i.duty_limit.si * 100:.0f} % wanted at most")
        if pulse < 1.0e-3:
            fails.append(f"{pulse * 1e3:.2f} ms at idle, too short to repeat")
        if one.pieces < i.count:
            fails.append(f"{one.pieces} of the {i.count} needed")
        if pulse < 1.5e-3 and not fails:
            costs.append(f"{pulse * 1e3:.2f} ms at idle is short")
        costs += _electrical(one, build)
        low, high = _window(build, rated, duty, pulse, dead_s, period_s)
        centred = abs(math.log(rated / math.sqrt(low * high))) if low > 0 and high > 0 else 9.0
        rows.append((len(fails), len(costs), centred, index, one, rated, duty, pulse, fails, costs))
    rows.sort(key=lambda r: (r[0], r[1], round(r[2], 6), r[3]))
    return [
        Candidate(
            index=index, name=one.name, flow_kg_s=rated, duty_full=duty, pulse_idle_s=pulse, passes=not fails, centred=centred, fails=fails, costs=costs, rank=rank
        )
        for rank, (_, _, centred, index, one, rated, duty, pulse, fails, costs) in enumerate(rows, 1)
    ]  # fmt: skip


def rated_mass(one: InjectorSheet, density: float) -> float:
    """Rated flow as mass [kg/s], on its rating fluid."""
    kind, given = flow_si(one.flow)
    return given if kind == "mass flow" else given * density


def _window(build: Build, rated: float, duty: float, pulse: float, dead: float, period: float) -> tuple[float, float]:
    """Rated flows that would just pass full power and just idle well, at this one's pressure and fluid."""
    wanted = max(build.injectors.duty_limit.si * period - dead, 1e-5)
    return rated * (duty * period - dead) / wanted, rated * pulse / 1.5e-3


def _electrical(one: InjectorSheet, build: Build) -> list[str]:
    """What it takes to drive and to plug it in."""
    i, ohms = build.injectors, one.resistance.si
    told = []
    if i.driver == "saturated" and SYSTEM_VOLTS * i.per_driver / ohms > i.driver_limit.si:
        ballast = SYSTEM_VOLTS * i.per_driver / i.driver_limit.si - ohms
        told.append(f"{ohms:g} Ω wants a ballast of {ballast:.1f} Ω each on a saturated driver")
    if i.driver == "peak_and_hold" and ohms > PEAK_MOST:
        told.append(f"{ohms:g} Ω never peaks on a peak-and-hold driver: set it to saturated")
    if one.connector and i.connector and one.connector.strip().lower() != i.connector.strip().lower():
        told.append(f"its plug is {one.connector}, the harness has {i.connector}: other plugs or adapters")
    if not one.dead_times:
        told.append("dead time not known")
    return told
