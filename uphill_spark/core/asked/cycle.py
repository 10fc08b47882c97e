"""The engine worked from its measures: torque and power over its speeds, filling, spark and residual over speed and load, each with its doubt; what to measure to be surer.

The doubt of a cell is what each guessed measure moves it by when it is off by its standard deviation, one at a time, added as squares, with what a model of this depth
is off by at best (Heywood, ch. 14.3: a few per cent).
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from ..figures import Result
from ..physics import cycle as model
from ..physics.air import Array
from ..stages.engine import boost_of, fuel_data
from ..stages.engine.measures import HEATING, Guess, Measures, measures
from ..stages.tune import SAFE_SIDE, mixture
from ..stages.tune.axes import Axes, Load, axes_of, plate_area
from ..stages.tune.worked import rests_on as rests
from ..stages.tune.worked import target_w
from ..worked import Worked
from .trial import Trial

#: Share of filling by which a model of this depth is off with every measure told: the waves of the exhaust, which it does not know, count the more the longer both valves are open.
AT_BEST = {"standard": 0.04, "touring": 0.05, "sport": 0.07, "competition": 0.12}
FULL_SPEEDS = 19  # of the curves at full load
COARSE = (7, 4)  # speeds and loads at which the doubt is worked
MIDDLE_LOAD = 0.45  # of the highest pressure, a load at which cars are driven
ADVANCE_RANGE = (5.0, 50.0)  # deg, beyond which nothing is typed in
#: Advance at idle [deg before top], kept back so that spark can hold the speed, by cam; where idle's corner ends [times idle speed], how wide its edge is.
IDLE_ADVANCE = {"standard": 12.0, "touring": 13.0, "sport": 15.0, "competition": 18.0}
IDLE_ENDS, IDLE_WIDE = 1.6, 0.4
TRACE_STEP = 6.0  # deg
BEHIND_PLATE = 0.5  # of the tract's volume, what lies between plate and port
FEW = 3  # one of so many speeds at full load is worked for every guess
FIRST_OF_TWO = 0.5  # of the time, what is worked before each cylinder's own plate
SAFE_BEST, SAFE_KNOCK = 2.0, 3.0  # deg before the best spark, and before the one that knocks


class Curve(Result):
    """Full load over speed [rpm]: torque [N m] and power [W] with their band, filling, residual share, best, knock-limited and used spark [deg before top], exhaust [K]."""

    rpm: list[float]
    torque_nm: list[float]
    power_w: list[float]
    low_w: list[float]
    high_w: list[float]
    filling: list[float]
    residual: list[float]
    best_deg: list[float]
    knock_deg: list[float | None]
    used_deg: list[float]
    exhaust_k: list[float]


class Grid(Result):
    """Over speed [rpm] and load (manifold pressure [kPa] or throttle [%]), rows by load: manifold pressure [kPa], what is typed in for filling [%], filling and its doubt (shares), advance to type in
    [deg before top] and what rules each (a letter a cell: b best spark, k knock, i idle, h held from the next above that runs), best spark and that which knocks [deg], residual share, exhaust [K]."""

    by: Load
    rpm: list[float]
    load: list[float]
    kpa: list[list[float]]
    typed: list[list[float]]
    filling: list[list[float]]
    doubt: list[list[float]]
    advance_deg: list[list[float]]
    ruled: list[str]
    best_deg: list[list[float]]
    knock_deg: list[list[float | None]]
    residual: list[list[float]]
    exhaust_k: list[list[float]]


class Traces(Result):
    """Pressure in the cylinder [kPa] of each cell, rows by load, over the angle [deg after top] from the inlet's closing to the exhaust's opening, with the spark that was used."""

    degrees: list[float]
    kpa: list[list[list[float]]]


class Valves(Result):
    """Lift [m] and flow area [m2] of both valves over crank angle [deg after the top at which it breathes]."""

    degrees: list[float]
    inlet_lift_m: list[float]
    exhaust_lift_m: list[float]
    inlet_m2: list[float]
    exhaust_m2: list[float]


class Sharpens(Result):
    """A measure that nobody told: its place, the value taken [SI], and by how much filling at full load and at a driven load, and power, would move if it is off by what it may be (shares)."""

    place: str
    label: str
    value: float
    full: float
    driven: float
    power: float


class CycleDepth(Result):
    """All of it. Power is of all cylinders, at this altitude."""

    rests_on: str
    curve: Curve
    grid: Grid
    traces: Traces
    valves: Valves
    sharpens: list[Sharpens]
    power_w: float
    power_rpm: float
    torque_nm: float
    torque_rpm: float
    target_w: float
    doubt: float
    cycles: int


Told = Callable[[float], None]


def nobody(_: float) -> None:
    """Nobody is told how far it is [share]."""


def rests_on(w: Worked) -> str:
    """A sum over all that the worked engine rests on. Raises NoEngine for measures that make none."""
    return rests(w.build, w.engine, w.air)


def look_deeper(trial: Trial, told: Told = nobody) -> CycleDepth:
    """The engine of a build, worked. Raises NotConverged where it does not settle, and what `told` raises."""
    w = trial.worked
    e = w.build.engine
    found = measures(w.build)
    speeds, (rpm, kpa), axes = _speeds(w, FULL_SPEEDS), _coarse(w), axes_of(w.build, w.engine)
    plenum = axes.by == "manifold_pressure"
    few, full_load = speeds[::FEW], _top(w)
    asked = [(found, [(speeds, full_load), (rpm, kpa), *([(axes.rpm, np.array(axes.load))] if plenum else [])])]
    asked += [(measures(w.build, {g.place: 1 + g.off}), [(rpm, kpa), (few, full_load)]) for g in found.guesses]
    (full, base, *grids), *others = _side_by_side(w, asked, told if plenum else lambda share: told(share * FIRST_OF_TWO))
    grid = grids[0] if plenum else _behind_plates(w, found, axes, lambda share: told(FIRST_OF_TWO + share * (1 - FIRST_OF_TWO)))
    power = _power(w, full, speeds)
    moved = [
        (guess, (_share(cells, base), float(_power(w, top, few).max() / power[::FEW].max() - 1)))
        for guess, (cells, top) in zip(found.guesses, others, strict=True)
    ]
    doubt = np.sqrt(AT_BEST[e.cam] ** 2 + sum((share**2 for _, (share, _) in moved), np.zeros_like(base.filling)))
    power_doubt = math.sqrt(AT_BEST[e.cam] ** 2 + sum(p**2 for _, (_, p) in moved))
    return _told(w, found, full, grid, axes, (rpm, kpa, doubt), moved, power_doubt)


Pair = tuple[Array, Array]


def _at(w: Worked, found: Measures, *grids: Pair, told: Told = nobody) -> list[model.Worked]:
    """The engine at several grids of speed [rpm] and manifold pressure [kPa], speeds running fastest."""
    return _side_by_side(w, [(found, list(grids))], told)[0]


def _side_by_side(w: Worked, asked: list[tuple[Measures, list[Pair]]], told: Told) -> list[list[model.Worked]]:
    """Engines of several measures, each at its grids, all at once: one integration costs little more than another lane."""
    meshes = [[[a.ravel() for a in np.meshgrid(rpm / 60, kpa * 1e3)] for rpm, kpa in grids] for _, grids in asked]
    speed, load = (np.concatenate([mesh[i] for each in meshes for mesh in each]) for i in (0, 1))
    lanes = [sum(len(mesh[0]) for mesh in each) for each in meshes]
    back = np.repeat([found.back_pa for found, _ in asked], lanes)
    cylinder = model.stacked([found.cylinder for found, _ in asked], lanes)
    all_of = model.work(cylinder, replace(_lanes(w, asked[0][0], speed, load), back_pa=back), told)
    ends = itertools.accumulate(len(mesh[0]) for each in meshes for mesh in each)
    return [[all_of.part(slice((end := next(ends)) - len(mesh[0]), end)) for mesh in each] for each in meshes]


def _lanes(w: Worked, found: Measures, rev_s: Array, manifold_pa: Array) -> model.Lanes:
    e, fuel = w.build.engine, fuel_data(w.build.engine)
    ambient = w.engine.ambient_pressure_pa
    return model.Lanes(
        rev_s=rev_s, manifold_pa=manifold_pa, air_k=w.engine.charge_k, lamda=mixture(w.build, manifold_pa / ambient, rev_s), stoich=fuel.stoich, heating=HEATING[e.fuel], octane=found.octane, chamber=e.chamber,
        ambient_pa=ambient, back_pa=found.back_pa, full_kg_s=w.engine.full_air_kg_s / e.cylinders,
    )  # fmt: skip


def _behind_plates(w: Worked, found: Measures, axes: Axes, told: Told = nobody) -> model.Worked:
    """The engine with a plate for each cylinder, at every speed and opening of the table."""
    speed = np.broadcast_to(axes.rev_s, axes.manifold_pa.shape).ravel()
    plates = np.broadcast_to(plate_area(w.build, np.array(axes.load) / 100)[:, None], axes.manifold_pa.shape).ravel()
    lanes = _lanes(w, found, speed, axes.manifold_pa.ravel())
    c = found.cylinder
    return model.work(c, replace(lanes, plate_m2=plates, behind_m3=c.tract_area * c.tract_length * BEHIND_PLATE), told)


def _speeds(w: Worked, many: int) -> Array:
    e = w.build.engine
    return np.asarray(np.geomspace(max(1.2 * e.idle_speed.si, 10.0), e.rev_limit.si, many) * 60, dtype=np.float64)


def _top(w: Worked) -> Array:
    """Manifold pressure at full load [kPa]: ambient and boost, less what the throttle body takes."""
    return np.array([(w.engine.ambient_pressure_pa + boost_of(w.build.engine) - (w.air.drop_full_pa or 0.0)) / 1e3])


def _coarse(w: Worked) -> tuple[Array, Array]:
    top = (w.engine.ambient_pressure_pa + boost_of(w.build.engine)) / 1e3
    return _speeds(w, COARSE[0]), np.asarray(np.linspace(0.3, 1.0, COARSE[1]) * top, dtype=np.float64)


def _power(w: Worked, worked: model.Worked, rpm: Array) -> Array:
    return np.asarray(worked.torque * w.build.engine.cylinders * rpm / 60 * 2 * np.pi, dtype=np.float64)


def _share(cells: model.Worked, base: model.Worked) -> Array:
    """By how much filling moves at each cell, as a share; nothing where it does not run."""
    return np.asarray(np.where(cells.runs & base.runs, cells.filling / base.filling - 1, 0.0), dtype=np.float64)


def _told(
    w: Worked, found: Measures, full: model.Worked, grid: model.Worked, axes: Axes, doubtful: tuple[Array, Array, Array],
    moved: list[tuple[Guess, tuple[Array, float]]], power_doubt: float,
) -> CycleDepth:  # fmt: skip
    rpm = _speeds(w, FULL_SPEEDS)
    power, torque = _power(w, full, rpm), full.torque * w.build.engine.cylinders
    coarse_rpm, coarse_kpa, doubt = doubtful
    cells = doubt.reshape(len(coarse_kpa), len(coarse_rpm))
    driven = int(np.argmin(np.abs(coarse_kpa / coarse_kpa[-1] - MIDDLE_LOAD)))
    sharpens = [
        Sharpens(
            place=g.place, label=g.label, value=g.value, full=round(_rms(s.reshape(cells.shape)[-1]), 4), driven=round(_rms(s.reshape(cells.shape)[driven]), 4), power=round(abs(p), 4)
        )
        for g, (s, p) in moved
    ]  # fmt: skip
    i, j = int(np.argmax(power)), int(np.argmax(torque))
    return CycleDepth(
        rests_on=rests_on(w),
        curve=Curve(
            rpm=_list(rpm, 0), torque_nm=_list(torque, 1), power_w=_list(power, 0), low_w=_list(power * (1 - power_doubt), 0), high_w=_list(power * (1 + power_doubt), 0),
            filling=_list(full.filling, 4), residual=_list(full.residual, 4), best_deg=_list(full.best_spark, 1), knock_deg=[None if math.isnan(k) else round(float(k), 1) for k in full.knock_spark],
            used_deg=_list(full.used_spark, 1), exhaust_k=_list(full.exhaust_k, 0),
        ),
        grid=_grid(w, grid, axes, (coarse_rpm, coarse_kpa, cells)), traces=_traces(grid, axes),
        valves=_valves(found), sharpens=sorted(sharpens, key=lambda s: -max(s.full, s.driven, s.power)), power_w=float(power[i]), power_rpm=float(rpm[i]), torque_nm=float(torque[j]),
        torque_rpm=float(rpm[j]), target_w=target_w(w.build, w.engine), doubt=power_doubt, cycles=grid.cycles,
    )  # fmt: skip


def _grid(w: Worked, grid: model.Worked, axes: Axes, doubtful: tuple[Array, Array, Array]) -> Grid:
    """What the cells of the tables come to."""
    shape = axes.manifold_pa.shape
    runs = grid.runs.reshape(shape)
    kpa = (grid.behind_pa if axes.by == "throttle" else axes.manifold_pa.ravel()).reshape(shape) / 1e3
    coarse_rpm, coarse_kpa, cells = doubtful
    spread = np.array(
        [
            [np.interp(k, coarse_kpa, [np.interp(r, coarse_rpm, row) for row in cells]) for r, k in zip(axes.rpm, row, strict=True)]
            for row in kpa
        ]
    )
    filling, residual, exhaust, best = (
        held(a.reshape(shape), runs) for a in (grid.filling, grid.residual, grid.exhaust_k, grid.best_spark)
    )
    knock = grid.knock_spark.reshape(shape)
    limit = held(np.fmin(best - SAFE_BEST, knock - SAFE_KNOCK), runs)
    knocks = knock - SAFE_KNOCK < best - SAFE_BEST
    aside = SAFE_SIDE if w.build.tune.step == "day_one" else 0.0
    corner = _idle_corner(w, axes, kpa)
    idle = np.minimum(IDLE_ADVANCE[w.build.engine.cam], limit - aside)
    advance = np.clip((limit - aside) * (1 - corner) + idle * corner, *ADVANCE_RANGE)
    typed = filling * 100 if axes.by == "manifold_pressure" else filling * kpa
    ruled = np.where((corner > 0.5) & (idle < limit - aside), "i", np.where(~runs, "h", np.where(knocks, "k", "b")))
    return Grid(
        by=axes.by, rpm=_list(axes.rpm, 0), load=axes.load, kpa=_rows(kpa, 1), typed=_rows(typed, 1), filling=_rows(filling, 4), doubt=_rows(spread, 3), advance_deg=_rows(advance, 1),
        ruled=["".join(row) for row in ruled.tolist()], best_deg=_rows(best, 1), knock_deg=[[None if math.isnan(v) else round(v, 1) for v in row] for row in rows_of(knock)],
        residual=_rows(residual, 4), exhaust_k=_rows(exhaust, 0),
    )  # fmt: skip


def rows_of(values: Array) -> list[list[float]]:
    """An array as rows of numbers [as they are]."""
    found: list[list[float]] = values.tolist()
    return found


def _idle_corner(w: Worked, axes: Axes, kpa: Array) -> Array:
    """How far a cell is idle's by its speed (0 to 1): there spark is kept back, so that it can hold the speed."""
    slow = np.clip(IDLE_ENDS - axes.rev_s / w.build.engine.idle_speed.si, 0, IDLE_WIDE) / IDLE_WIDE
    return np.asarray(np.broadcast_to(slow, kpa.shape), dtype=np.float64)


def _traces(grid: model.Worked, axes: Axes) -> Traces:
    every = max(1, round(TRACE_STEP / float(grid.trace_deg[0, 1] - grid.trace_deg[0, 0])))
    shape = (*axes.manifold_pa.shape, -1)
    return Traces(degrees=_list(grid.trace_deg[0, ::every], 0), kpa=np.round(grid.trace_pa[:, ::every] / 1e3).reshape(shape).tolist())


def _valves(found: Measures) -> Valves:
    degrees = np.arange(-220.0, 261.0, 4.0)
    inlet, exhaust = found.cylinder.inlet, found.cylinder.exhaust
    return Valves(
        degrees=degrees.tolist(), inlet_lift_m=_list(inlet.lifted(degrees + 360), 6), exhaust_lift_m=_list(exhaust.lifted(degrees + 360), 6), inlet_m2=_list(inlet.area(degrees + 360), 8),
        exhaust_m2=_list(exhaust.area(degrees + 360), 8),
    )  # fmt: skip


def _rms(values: Array) -> float:
    return float(np.sqrt(np.mean(values**2)))


def _list(values: Array, digits: int) -> list[float]:
    return [round(float(v), digits) for v in values]


def _rows(values: Array, digits: int) -> list[list[float]]:
    rows: list[list[float]] = np.round(values, digits).tolist()
    return rows


def held(values: Array, runs: NDArray[np.bool_]) -> Array:
    """Values of cells [as they are] with those in which the engine does not run as the nearest above them, at the same speed, in which it does."""
    found = values.copy()
    for i in range(len(found) - 2, -1, -1):
        found[i] = np.where(runs[i], found[i], found[i + 1])
    return found
