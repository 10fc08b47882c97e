"""Places on the grid that a driver knows by name, and what a cell does in the car."""

from __future__ import annotations

import numpy as np

from ...figures import Result
from ...given import Build
from ...physics import air
from ..engine import EngineResult, boost_of, fuel_data
from ..injectors import InjectorsResult
from .axes import OPENINGS, Load, manifold_by_throttle
from .tables import Table

CRUISE_SPEED, CRUISE_LOAD = 0.48, 0.45  # of the speed of full power, of the pressure outside: level road in top
PULLING_SPEED, PULLING_LOAD = 0.60, 0.90  # a hill in top, foot well down


class Landmark(Result):
    """A place on the grid: what a driver calls it, speed [rpm], manifold pressure [kPa], and the place on the grid's own second axis."""

    key: str
    word: str
    rpm: float
    kpa: float
    load: float


class CellTold(Result):
    """What a cell does in the car: manifold pressure [kPa], air and fuel of a cylinder and cycle [mg], time that the injectors stand open and have left each time [ms], share of the time that they are open;
    mixture, advance [deg before top]; where that is for a driver; one sentence."""

    rpm: float
    kpa: float
    ve: float
    air_mg: float
    fuel_mg: float
    open_ms: float
    left_ms: float
    duty: float
    lamda: float
    advance_deg: float | None
    place: str
    says: str


def landmarks(build: Build, engine: EngineResult, load: Load) -> list[Landmark]:
    """Idle, cruise, pulling, full power."""
    e, ambient = build.engine, engine.ambient_pressure_pa
    idle, power = e.idle_speed.si * 60, e.power_speed.si * 60
    places = (
        ("idle", "idle", idle, engine.idle_manifold_pressure_pa),
        ("cruise", "light cruise", max(CRUISE_SPEED * power, 1.2 * idle), CRUISE_LOAD * ambient),
        ("pulling", "pulling", max(PULLING_SPEED * power, 1.2 * idle), PULLING_LOAD * ambient),
        ("full", "full power", power, ambient + boost_of(e)),
    )
    return [
        Landmark(key=key, word=word, rpm=round(rpm), kpa=round(pa / 1e3, 1), load=round(_along(build, rpm, pa, ambient, load), 1))
        for key, word, rpm, pa in places
    ]


def _along(build: Build, rpm: float, pa: float, ambient: float, load: Load) -> float:
    """Where a manifold pressure stands on the second axis, at a speed."""
    if load == "manifold_pressure":
        return pa / 1e3
    behind = manifold_by_throttle(build, np.array([[rpm / 60]]), np.array(OPENINGS)[:, None] / 100, ambient)[:, 0]
    return OPENINGS[-1] if pa >= behind[-1] else float(np.interp(pa, behind, OPENINGS))


def kpa_at(build: Build, ambient_pa: float, table: Table, row: int, column: int) -> float:
    """Manifold pressure [kPa] of a cell."""
    if (table.y_label or "").startswith("throttle"):
        behind = manifold_by_throttle(build, np.array([[table.x[column] / 60]]), np.array([[table.y[row] / 100]]), ambient_pa)
        return float(behind[0, 0]) / 1e3
    return table.y[row]


def told(
    build: Build, engine: EngineResult, injectors: InjectorsResult, places: list[Landmark], table: Table, at: tuple[int, int], lamda: float, advance: float | None
) -> CellTold:  # fmt: skip
    """What a cell of the filling (or fuel by throttle) does in the car, with the mixture (lambda) and the advance [deg before top] that stand there."""
    row, column = at
    rpm, kpa = table.x[column], kpa_at(build, engine.ambient_pressure_pa, table, row, column)
    throttled = (table.y_label or "").startswith("throttle")
    cell = table.rows[row][column] / 100
    ve = cell * 100 / kpa if throttled else cell
    each = ve * kpa * 1e3 * engine.cylinder_volume_m3 / (air.R_AIR * engine.charge_k)
    fuel = each / (lamda * fuel_data(build.engine).stoich)
    period = injectors.period_full_s * build.engine.power_speed.si * 60 / rpm
    squirt = fuel * build.engine.cylinders * rpm / 120 / injectors.together_kg_s  # share of the time that the flow itself takes
    open_s = squirt * period + injectors.dead_time_full_s
    duty = open_s / period
    near = min(places, key=lambda p: abs(np.log(rpm / p.rpm)) + abs(kpa - p.kpa) / 100)
    far = abs(np.log(rpm / near.rpm)) > NEAR_SPEED or abs(kpa - near.kpa) > NEAR_KPA
    place = "" if far else near.word
    sentence = _says(rpm, kpa, engine.ambient_pressure_pa / 1e3, build.engine.idle_speed.si * 60, place, lamda, duty)
    return CellTold(
        rpm=rpm, kpa=round(kpa, 1), ve=round(ve, 4), air_mg=round(each * 1e6, 1), fuel_mg=round(fuel * 1e6, 2), open_ms=round(open_s * 1e3, 3), left_ms=round((period - open_s) * 1e3, 2),
        duty=round(duty, 4), lamda=round(lamda, 3), advance_deg=None if advance is None else round(advance, 1), place=place, says=sentence,
    )  # fmt: skip


NEAR_SPEED, NEAR_KPA = 0.22, 9.0  # within which a cell is called by a landmark: share of its speed, kPa
OVER_RUN_KPA, LIGHT, HARD = 30.0, 0.6, 0.85  # kPa under which only the over-run reaches; shares of the pressure outside
CROWDED = 0.85  # of the time, from which on the injectors hardly shut


def _says(rpm: float, kpa: float, outside: float, idle: float, place: str, lamda: float, duty: float) -> str:
    """Where the car is in this cell, in one sentence."""
    if place:
        where = {
            "idle": "It idles here, warm",
            "light cruise": "A level road in top",
            "pulling": "A hill in top, the foot well down",
            "full power": "All that it has",
        }[place]
    elif rpm < idle * 0.9:
        where = "It passes here as it starts, and as it is about to stall"
    elif kpa < OVER_RUN_KPA:
        where = "Rolling with the foot off: only the over-run comes here"
    else:
        share = kpa / outside
        where = "Gentle driving" if share < LIGHT else "Pulling away, a steady climb" if share < HARD else "Foot down"
    mix = "lean for thrift" if lamda > 1.005 else "rich for power and cool valves" if lamda < 0.93 else "about all the fuel burns"
    return f"{where}: {mix}{'; the injectors hardly shut' if duty > CROWDED else ''}."
