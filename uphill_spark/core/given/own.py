"""The person's own units: in which unit a quantity or a figure is told to him, and how a field reads.

Three ways. *As written*: a figure takes the unit in which the nearest field was written, whoever thinks in psi writes his regulator so. *Metric* and *imperial*:
one unit for each kind of thing, whatever was written. The document keeps what was written; only what is told changes.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from ..units import Quantity, Units, canonical, fitting, from_si, printed, told_in, unit_of
from .document import Build
from .edit import standing

#: Units of one system by those of the other; what is in neither is told alike to everybody.
_IMPERIAL = {
    "kPa": "psi", "bar": "psi", "hPa": "inHg", "mbar": "inHg", "MPa": "psi", "mm": "in", "cm": "in", "m": "ft", "kW": "hp", "degC": "degF", "L": "gal", "cm**3": "inch**3",
    "kg": "lb", "km/h": "mph", "g/min": "lb/h", "kg/h": "lb/h", "L/h": "gal/h", "m**3/h": "ft**3/min", "m/s": "ft/s", "kg/(kW*h)": "lb/(hp*h)", "N*m": "lbf*ft",
}  # fmt: skip
_METRIC = {
    "psi": "kPa", "inHg": "kPa", "mmHg": "kPa", "in": "mm", "mil": "mm", "ft": "m", "hp": "kW", "metric_horsepower": "kW", "degF": "degC", "gal": "L", "inch**3": "cm**3", "lb": "kg",
    "mph": "km/h", "lb/h": "g/min", "gal/h": "L/h", "ft**3/min": "m**3/h", "ft/s": "m/s", "lb/(hp*h)": "kg/(kW*h)", "lbf*ft": "N*m",
}  # fmt: skip
#: The field whose unit a figure of a unit takes as it is written; of those that begin so, else of all.
_LIKE: dict[str, tuple[tuple[str, str], ...]] = {
    "kPa": (("engine.compression", "compression"), ("engine.vacuum", "vacuum"), ("fuel.", "regulator")),
    "L/h": (("fuel.", "pump"),),
    "kW": (("engine.", "power"),),
    "degC": (("fuel.", "tank"),),
    "g/min": (("injectors.", "injector"),),
}
_ANCHORS = tuple(dict.fromkeys(anchor for rows in _LIKE.values() for _, anchor in rows))
_VACUUM = "engine.vacuum"
#: The field that tells in which unit the rest is thought of, by the unit of an example.
_THINKS_IN = {"kPa": "/fuel/regulator/set_pressure", "kW": "/engine/power"}


def written_like(build: Build, anchor: str) -> str | None:
    """The quantity whose unit tells in which the owner thinks: as he wrote it, None where he wrote none."""
    if anchor == "compression":
        return next((r.dry for r in build.engine.compression if r.dry is not None), None)
    if anchor == "vacuum":
        return next((h.vacuum for h in build.engine.health if h.vacuum is not None), None)
    if anchor == "pump":
        return next((row.flow for row in build.fuel.pump.curve), None)
    if anchor == "power":
        return build.engine.power
    if anchor == "tank":
        return build.fuel.tank.hottest
    if anchor == "injector":
        return build.injectors.flow
    return build.fuel.regulator.set_pressure


def unit_of_figure(build: Build, units: Units, name: str, unit: str) -> str:
    """The unit in which a figure is told that is published in `unit`: the same where nothing speaks for another."""
    anchor = _anchor(name, unit) if units == "as_written" else None
    like = written_like(build, anchor) if anchor is not None else None
    return _told_in(units, name, unit, str(like) if like else None)


def units_of_figures(build: Build, units: Units, published: tuple[tuple[str, str], ...]) -> Mapping[str, str]:
    """The same of many, by name, each given with the unit in which it is published. The same object while nobody writes in another unit."""
    likes = tuple(str(like) if (like := written_like(build, anchor)) else None for anchor in _ANCHORS) if units == "as_written" else ()
    return _units_of(units, likes, published)


@lru_cache(maxsize=256)
def _units_of(units: Units, likes: tuple[str | None, ...], published: tuple[tuple[str, str], ...]) -> Mapping[str, str]:
    by_anchor = dict(zip(_ANCHORS, likes, strict=True)) if likes else {}
    return {name: _told_in(units, name, unit, by_anchor.get(_anchor(name, unit) or "")) for name, unit in published}


def _told_in(units: Units, name: str, unit: str, like: str | None) -> str:
    if units == "metric":
        return unit
    if units == "imperial":
        return "inHg" if name.startswith(_VACUUM) else _IMPERIAL.get(unit, unit)
    return _as_written(like, unit) if like else unit


@lru_cache(maxsize=1024)
def _anchor(name: str, unit: str) -> str | None:
    """The field whose unit a figure takes; None for most."""
    return next((a for begins, a in _LIKE.get(unit, ()) if name.startswith(begins)), None)


@lru_cache(maxsize=1024)
def _as_written(like: str, unit: str) -> str:
    own = canonical(unit_of(like))
    return own if own and own != unit and fitting(unit, own) else unit


@lru_cache(maxsize=4096)
def _field(written: str, value: float, units: Units) -> tuple[str, str] | None:
    """A quantity as it stands in a field, and as it is written, where the person's units are others."""
    unit = canonical(unit_of(written))
    own = (_IMPERIAL if units == "imperial" else _METRIC).get(unit, unit)
    if not unit or own == unit or not fitting(unit, own):
        return None
    return told_in(value, own), written


def as_field(quantity: Quantity, units: Units) -> tuple[str, str] | None:
    """What a field shows of a quantity, and what is told behind it; None where it stands as it was written and nothing more."""
    if units != "as_written":
        return _field(str(quantity), quantity.si, units)
    unit = canonical(unit_of(quantity))
    other = _METRIC.get(unit)
    if other is None or not fitting(unit, other) or from_si(1.0, unit) == from_si(1.0, other):
        return None
    return str(quantity), told_in(quantity.si, other)


def told(quantity: Quantity, units: Units) -> str:
    """A quantity that somebody wrote, as a sentence or a paper tells it: in the person's unit with what was written behind, else as it was written."""
    shown = as_field(quantity, units) if units != "as_written" else None
    return f"{shown[0]} ({shown[1]})" if shown else str(quantity)


def own_unit(document: Any, example: str, units: Units) -> str:
    """The unit that a bare number takes in an empty field: of the field's example, as the person has it; who wrote his regulator in psi, or his power in hp, writes the rest so."""
    unit = canonical(unit_of(example))
    if units == "imperial":
        return printed(_IMPERIAL.get(unit, unit))
    if units == "metric":
        return printed(_METRIC.get(unit, unit))
    place = _THINKS_IN.get(unit)
    like = standing(document, place) if place else None
    own = unit_of(like) if isinstance(like, str) else ""
    return own or unit_of(example)
