"""How long an injector is open: its flow at a pressure, its dead time at a voltage, the share of time that both come to."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ...given import Build
from ...given.injectors import InjectorSheet
from ..engine import fuel_data
from .bench import tested
from .box import DeadTimes, rated_mass

#: Density [kg/m3] of the fluids that injectors are rated with at 20 C: SAE J1832 (n-heptane), EN 228 mid value.
RATING_DENSITY = {"n_heptane": 684.0, "petrol": 735.0}
LEAST_ACROSS = 1e3  # Pa, below which nothing sprays


def densities(build: Build) -> dict[str, float]:
    """Density [kg/m3] of every fluid that a flow may be stated with."""
    return {**RATING_DENSITY, "working_fuel": fuel_data(build.engine).density}


@dataclass(frozen=True, slots=True)
class Opening:
    """The set on this engine: how often it squirts, and its opening for a fuel flow at a speed."""

    build: Build
    density_of: dict[str, float]
    dead_times: DeadTimes
    measured_kg_s: float | None = None

    def rated(self, sheet: InjectorSheet) -> float:
        """Flow [kg/s] at the rated pressure on the rating fluid: as rated; of a set that was altered, the mean of the flow bench."""
        if sheet is self.build.injectors and self.measured_kg_s is not None:
            return self.measured_kg_s
        return rated_mass(sheet, self.density_of[sheet.fluid])

    def flow(self, sheet: InjectorSheet, across_pa: float) -> float:
        """Mass flow [kg/s] of one injector on this fuel at a pressure across it: square root of pressure and of density."""
        density = self.density_of[sheet.fluid]
        on_this_fuel = self.rated(sheet) * math.sqrt(self.density_of["working_fuel"] / density)
        return on_this_fuel * math.sqrt(max(across_pa, LEAST_ACROSS) / sheet.rated_at.si)

    def together(self, across_pa: float) -> float:
        """Mass flow [kg/s] of all that may be open: the set, and the second where there is one."""
        i = self.build.injectors
        return i.count * self.flow(i, across_pa) + (i.second.count * self.flow(i.second, across_pa) if i.second else 0.0)

    @property
    def squirts(self) -> int:
        """Squirts of each injector in two turns."""
        return self.build.injectors.squirts_in_two_turns

    def period(self, rev_s: float) -> float:
        """Time [s] from one squirt to the next at a speed [rev/s]."""
        return 2 / rev_s / self.squirts

    def dead(self, volts: float) -> float:
        """Dead time [s] at a voltage."""
        return float(self.dead_times.at(np.array(volts))[0])

    def pulse_share(self, fuel_kg_s: float, across_pa: float) -> float:
        """Share of the time that the pulses of a fuel flow take at a pressure, dead time not counted: the same at any speed."""
        return fuel_kg_s / self.together(across_pa)

    def rate(self, rev_s: float) -> float:
        """Squirts of each injector in a second at a speed [rev/s]."""
        return self.squirts * rev_s / 2


def opening(build: Build) -> Opening:
    """The set of injectors of a build."""
    i, density_of = build.injectors, densities(build)
    measured = tested(build, density_of[i.fluid], density_of[i.bench_fluid]).mean_kg_s if i.altered else None
    return Opening(build, density_of, DeadTimes(i, i.driver), measured)
