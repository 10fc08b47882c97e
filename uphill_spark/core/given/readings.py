"""What the core read in a build: every quantity in SI and the unit that the person wrote it in, by its place. Nobody else reads a quantity."""

from __future__ import annotations

from typing import NamedTuple

from pydantic import BaseModel

from ..units import Quantity, Units, unit_of
from .document import Build
from .edit import escape
from .own import as_field


class Reading(NamedTuple):
    """A quantity as it was read: SI value, and the unit as written, empty for a ratio or a size without one."""

    si: float
    unit: str


class Retold(NamedTuple):
    """The same where it is told otherwise than it was written, or something stands behind it: the unit and the text that the field shows, and the other."""

    si: float
    unit: str
    shown: str
    also: str


Readings = dict[str, Reading | Retold]


def readings(build: Build, units: Units = "as_written") -> Readings:
    """Every quantity of a build by its pointer, usual values that stand for empty fields included, for somebody who thinks in `units`."""
    found: Readings = {}
    _walk(build, "", found, units)
    return found


def _read(quantity: Quantity, units: Units) -> Reading | Retold:
    told = as_field(quantity, units)
    return Retold(quantity.si, unit_of(told[0]), *told) if told else Reading(quantity.si, unit_of(quantity))


def _walk(node: object, pointer: str, found: Readings, units: Units) -> None:
    if isinstance(node, Quantity):
        found[pointer] = _read(node, units)
    elif isinstance(node, BaseModel):
        for name, value in node.__dict__.items():
            if isinstance(value, (Quantity, BaseModel, list, dict)):
                _walk(value, f"{pointer}/{name}", found, units)
    elif isinstance(node, list):
        for i, value in enumerate(node):
            if isinstance(value, (str, BaseModel)):
                _walk(value, f"{pointer}/{i}", found, units)
    elif isinstance(node, dict):
        for key, value in node.items():
            _walk(value, f"{pointer}/{escape(key)}", found, units)
