"""Which column of a log is which quantity: guessed by name, unit, range and physics, and remembered once somebody said so.

A guess says why, so that it can be looked at with a strip of the signal beside it; what could be two things is asked.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..figures import Result
from ..given import Build
from ..live import QUANTITIES, Quantity, SignalTaken, guessed
from ..logs import Log
from ..physics.air import Array
from ..stages.engine import fuel_data

STRIP = 160  # points of the small strip of a column
AFR = (7.0, 25.0)  # between which a mixture is a ratio by mass
GAUGE_LEAST = -5.0  # kPa, under which a pressure is against the air outside
HALF = 0.5  # of the rows that have to lie where a quantity can be believed
NARROW = (-0.1, 1.15)  # V between which a sensor that knows only rich and lean speaks, its ground a little off


class ColumnSeen(Result):
    """A column as it came: its name and unit, least, middle and most, share of rows without a number, and a strip of it: least and most of each stretch."""

    name: str
    unit: str
    low: float
    middle: float
    high: float
    missing: float
    strip_low: list[float]
    strip_high: list[float]


class ColumnIs(Result):
    """A column taken for a quantity: by which factor and offset it becomes that, why, and whether it was remembered or is a guess; `asks` is what has to be told before it can be used."""

    column: str
    quantity: Quantity
    factor: float
    offset: float
    why: str
    remembered: bool = False
    asks: str = ""


#: Names of mixtures: what they are told in is seen by their numbers.
_MIXED = re.compile(r"lam(bda)?|afr|\bo2\b|oxygen|ego", re.IGNORECASE)


@dataclass(frozen=True)
class Column:
    """A column: name, unit, numbers."""

    name: str
    unit: str
    values: Array


def seen(column: Column) -> ColumnSeen:
    """A column in short."""
    v = column.values
    there = v[np.isfinite(v)]
    if not len(there):
        return ColumnSeen(name=column.name, unit=column.unit, low=0.0, middle=0.0, high=0.0, missing=1.0, strip_low=[], strip_high=[])
    edges = np.linspace(0, len(v), min(STRIP, len(v)) + 1).astype(int)
    filled = np.where(np.isfinite(v), v, np.median(there))
    return ColumnSeen(
        name=column.name, unit=column.unit, low=_short(there.min()), middle=_short(np.median(there)), high=_short(there.max()), missing=round(1 - len(there) / len(v), 4),
        strip_low=[_short(x) for x in np.minimum.reduceat(filled, edges[:-1])], strip_high=[_short(x) for x in np.maximum.reduceat(filled, edges[:-1])],
    )  # fmt: skip


def _short(x: float) -> float:
    return float(f"{float(x):.5g}")


def guess(build: Build, columns: Sequence[Column], outside_kpa: float = 100.0, remembered: Sequence[SignalTaken] = ()) -> list[ColumnIs]:
    """Which columns are which quantities: as they were taken before, else by name and unit, then held against their range and what an engine can do."""
    by_name = {c.name: c for c in columns}
    known = [
        ColumnIs(column=t.signal, quantity=t.quantity, factor=t.factor, offset=t.offset, why="as it was taken before", remembered=True)
        for t in remembered
        if t.signal in by_name
    ]
    if known:
        return known
    found = []
    for t in guessed([(c.name, "" if _MIXED.search(c.name) else c.unit) for c in columns]):
        column = by_name[t.signal]
        fitted = _fitted(build, t, column, outside_kpa)
        if fitted is not None:
            found.append(fitted)
    return _by_physics(found, columns)


def _believable(quantity: Quantity, values: Array) -> float:
    """Share of the rows that lie where a quantity can be believed."""
    info, there = QUANTITIES[quantity], values[np.isfinite(values)]
    return float(np.mean((there >= info.low) & (there <= info.high))) if len(there) else 0.0


def _fitted(build: Build, t: SignalTaken, column: Column, outside_kpa: float) -> ColumnIs | None:
    """A guess by name held against what the numbers are; None where they cannot be that."""
    values = column.values[np.isfinite(column.values)]
    if not len(values):
        return None
    why = f"by its name{' and unit' if column.unit else ''}"
    factor, offset, asks = t.factor, t.offset, ""
    middle = float(np.median(values)) * factor + offset
    if t.quantity in ("lambda", "lambda_2", "target"):
        return _mixture(build, t, column, values, middle, why)
    if t.quantity == "manifold":
        told = values * factor + offset
        if not column.unit and float(np.quantile(told, 0.99)) < 3.5 and float(told.max()) > 0.4:
            factor, why = factor * 100.0, f"{why}; its numbers are bar"
            told = values * factor + offset
        if float(np.quantile(told, 0.02)) < GAUGE_LEAST or (float(np.quantile(told, 0.98)) < 30 and abs(float(told[0])) < 5):
            offset, why = (
                offset + outside_kpa,
                f"{why}; it reads about 0 with the engine still, so it is against the air outside: {outside_kpa:.0f} kPa are added",
            )
    if t.quantity in ("coolant", "air") and not column.unit and float(np.median(values)) > 130:
        factor, offset, why = 5 / 9, -160 / 9, f"{why}; its numbers are °F"
    if t.quantity == "throttle" and not column.unit and float(np.quantile(values, 0.999)) <= 1.01 and float(values.max()) > 0.05:
        factor, why = 100.0, f"{why}; its numbers are shares"
    if t.quantity == "throttle" and column.unit.strip().lower() == "v":
        return None
    if (
        t.quantity == "pulse" and not column.unit and float(np.median(values[values > 0])) > 300
        if (values > 0).any() and t.quantity == "pulse"
        else False
    ):
        factor, why = 1e-3, f"{why}; its numbers are microseconds"
    if t.quantity == "volts" and not column.unit and float(np.median(values)) > 1000:
        factor, why = 1e-3, f"{why}; its numbers are millivolts"
    if t.quantity == "rail" and not column.unit and 1.0 < float(np.median(values)) < 12:
        factor, why = 100.0, f"{why}; its numbers are bar"
    if _believable(t.quantity, values * factor + offset) < HALF:
        return None
    return ColumnIs(column=column.name, quantity=t.quantity, factor=factor, offset=offset, why=why, asks=asks)


def _mixture(build: Build, t: SignalTaken, column: Column, values: Array, middle: float, why: str) -> ColumnIs | None:
    """A mixture as lambda, as a ratio by mass, or as volts."""
    unit = column.unit.strip().lower()
    low, high = float(np.quantile(values, 0.01)), float(np.quantile(values, 0.99))
    if unit in ("v", "mv", "volt", "volts") or (unit == "" and high > 2.2 and low < AFR[0] - 2 and high < 5.6):
        volts = values / 1000 if unit == "mv" else values
        scale = 1e-3 if unit == "mv" else 1.0
        if NARROW[0] <= float(volts.min()) and float(volts.max()) <= NARROW[1]:
            return ColumnIs(
                column=column.name,
                quantity=t.quantity,
                factor=scale,
                offset=0.0,
                why=why,
                asks="These are the volts of a sensor that knows only rich and lean: how far off the mixture is, it cannot say. Leave it out.",
            )
        points = build.sensors.oxygen.read if build.sensors.oxygen is not None else []
        if len(points) >= 2:
            (v0, l0), (v1, l1) = points[0], points[-1]
            slope = (l1 - l0) / (v1 - v0)
            return ColumnIs(
                column=column.name,
                quantity=t.quantity,
                factor=slope * scale,
                offset=l0 - slope * v0,
                why=f"{why}; its numbers are volts, read by the line that stands at Sensors, Oxygen sensor",
            )
        return ColumnIs(
            column=column.name,
            quantity=t.quantity,
            factor=scale,
            offset=0.0,
            why=why,
            asks="These are volts. Tell which lambda stands at 0 V and at 5 V, from the sheet of the sensor's controller.",
        )
    if AFR[0] < middle < AFR[1]:
        stoich = fuel_data(build.engine).stoich
        as_petrol = abs(middle / 14.7 - 1) < abs(middle / stoich - 1) and stoich < 13.5
        ratio = 14.7 if as_petrol else stoich
        return ColumnIs(
            column=column.name,
            quantity=t.quantity,
            factor=1 / ratio,
            offset=0.0,
            why=f"{why}; its numbers are air over fuel by mass, divided by {ratio:g}"
            + (": most controllers show the ratio of petrol whatever is burned" if as_petrol else ""),
        )
    if unit in ("%", "") and 60 < middle < 140:
        return ColumnIs(column=column.name, quantity=t.quantity, factor=0.01, offset=0.0, why=f"{why}; its numbers are per cent")
    if _believable(t.quantity, values) < HALF or not 0.5 < middle < 2.0:
        return None
    return ColumnIs(column=column.name, quantity=t.quantity, factor=1.0, offset=0.0, why=why)


def _by_physics(found: list[ColumnIs], columns: Sequence[Column]) -> list[ColumnIs]:
    """Where no column is called the engine's speed: the one that is nought or lies between 300 and 12,000 and moves smoothly, if it is the only one."""
    if any(t.quantity == "speed" for t in found):
        return found
    taken = {t.column for t in found}
    could = []
    for c in columns:
        v = c.values[np.isfinite(c.values)]
        if c.name in taken or len(v) < 100 or c.unit.strip():
            continue
        runs = v[v > 300]
        if (
            len(runs) > 0.3 * len(v)
            and float(v.max()) < 12000
            and float(v.min()) >= 0
            and float(np.median(runs)) > 500
            and float(np.median(np.abs(np.diff(v)))) < 0.05 * float(np.median(runs))
        ):
            could.append(c)
    if len(could) == 1:
        found.append(
            ColumnIs(
                column=could[0].name, quantity="speed", factor=1.0, offset=0.0, why="by its numbers: nought, or those of an engine's speed"
            )
        )
    return found


def log_of(time: Array, columns: Sequence[Column], taken: Sequence[ColumnIs]) -> Log:
    """The log as quantities. What cannot be believed of a quantity is no number; what is still asked of a column keeps it out."""
    by_name = {c.name: c.values for c in columns}
    found: dict[Quantity, Array] = {}
    for t in taken:
        if t.column not in by_name or t.asks:
            continue
        info = QUANTITIES[t.quantity]
        values = by_name[t.column] * t.factor + t.offset
        found[t.quantity] = np.where((values >= info.low) & (values <= info.high), values, np.nan)
    return Log(time, found)
