"""The axes of the tables, from this engine: its speeds, its loads, and what the manifold has at each."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ...given import Build
from ...physics import air
from ...physics.air import Array
from ..engine import EngineResult, boost_of
from ..engine.filling import full_load_filling
from ..sensors.scaling import pressure_line

Load = Literal["throttle", "manifold_pressure"]
GAS_SPEED = 80.0  # m/s through a throttle at full power, used to size the plates of a throttle-angle table
LEAKS = 2e-6  # m2 past a plate that is shut
#: Rows of a table by manifold pressure without a blower [kPa], denser where cars are driven.
LOADS = [20.0, 27.0, 34.0, 41.0, 48.0, 56.0, 64.0, 72.0, 80.0, 88.0, 96.0, 105.0]
#: Rows of a table by throttle [% of its travel].
OPENINGS = [0.0, 2.0, 4.0, 7.0, 11.0, 16.0, 23.0, 32.0, 45.0, 60.0, 80.0, 100.0]


@dataclass(frozen=True, slots=True)
class Axes:
    """Speeds [rpm], loads [kPa or % of throttle], what tells the load, and the manifold pressure [Pa], a row for each load."""

    rpm: Array
    load: list[float]
    by: Load
    manifold_pa: Array

    @property
    def rev_s(self) -> Array:
        """Speeds [rev/s], as one row."""
        return np.asarray((self.rpm / 60)[None, :], dtype=np.float64)


def axes_of(build: Build, engine: EngineResult) -> Axes:
    """The axes of this engine's tables."""
    rpm, by, ambient = np.array(axis_speed(build)), load_signal(build), engine.ambient_pressure_pa
    if by == "throttle":
        return Axes(rpm, OPENINGS, by, manifold_by_throttle(build, (rpm / 60)[None, :], np.array(OPENINGS)[:, None] / 100, ambient))
    sensor = pressure_line(build.sensors.pressure)
    load = load_axis(ambient + boost_of(build.engine), sensor.high if sensor else None)
    return Axes(rpm, load, by, np.broadcast_to(np.array(load)[:, None] * 1e3, (len(load), len(rpm))))


def axis_speed(build: Build, n: int = 16) -> list[float]:
    """Engine speeds [rpm] of the tables: 0.6 of idle to 5 % past the limit, denser at low speed, on tens."""
    low, high = 0.6 * build.engine.idle_speed.si * 60, 1.05 * build.engine.rev_limit.si * 60
    raw = low * (high / low) ** (np.linspace(0, 1, n) ** 0.9)
    return [float(v) for v in np.unique(np.round(raw / 10) * 10)]


def load_axis(most_pa: float, sensor_pa: float | None = None) -> list[float]:
    """Manifold pressures [kPa] of the tables: 20 to 5 % over the most, sea level at least, on whole kPa; no further than the sensor reads, where it reads all that the engine has."""
    top = max(LOADS[-1], 1.05 * most_pa / 1e3)
    if sensor_pa is not None and most_pa <= sensor_pa < top * 1e3:
        top = math.floor(sensor_pa / 1e3)
    if top == LOADS[-1]:
        return LOADS
    return [float(round(LOADS[0] + (x - LOADS[0]) * (top - LOADS[0]) / (LOADS[-1] - LOADS[0]))) for x in LOADS]


def load_signal(build: Build) -> Load:
    """What tells the load: as it was chosen, else by the layout."""
    if build.tune.load != "by_layout":
        return build.tune.load
    return "throttle" if build.engine.layout == "individual_throttles" else "manifold_pressure"


def plate_area(build: Build, opening: Array) -> Array:
    """Area [m2] past the plate of one cylinder at an opening (0 to 1). Plates are the car's own where they were measured, else of a size with usual gas speed."""
    e, fitted = build.engine, build.air.throttle
    per_cylinder = e.displacement.si / e.cylinders
    bore, each = float(np.sqrt(4 * per_cylinder * 2 * e.power_speed.si / GAS_SPEED / np.pi)), 1.0
    if fitted and fitted.bore and fitted.bores:  # the car's own plates
        bore, each = fitted.bore.si, fitted.bores / e.cylinders
    return np.asarray(air.butterfly_area(bore, opening) * each + LEAKS, dtype=np.float64)


def manifold_by_throttle(build: Build, rev_s: Array, opening: Array, ambient_pa: float) -> Array:
    """Manifold pressure [Pa] behind one throttle per cylinder at each speed and opening: what passes the plate is what is swallowed."""
    per_cylinder = build.engine.displacement.si / build.engine.cylinders
    area = plate_area(build, opening)
    low, high = np.full(area.shape, 0.05), np.ones(area.shape)
    swallow = full_load_filling(build, rev_s) * per_cylinder * rev_s / 2 / (air.R_AIR * 293.15)
    for _ in range(30):
        ratio = (low + high) / 2
        short = air.orifice_flow(area, ambient_pa, 293.15, ratio) < swallow * ratio * ambient_pa
        high, low = np.where(short, ratio, high), np.where(short, low, ratio)
    return np.asarray(np.maximum((low + high) / 2, 0.15) * ambient_pa, dtype=np.float64)
