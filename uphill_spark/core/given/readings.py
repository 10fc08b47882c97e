"""What the core read in a build: every quantity in SI and the unit that the person wrote it in, by its place. Nobody else reads a quantity."""

from __future__ import annotations

from typing import NamedTuple

from pydantic import BaseModel

from ..units import Quantity, unit_of
from .document import Build
from .edit import escape


class Reading(NamedTuple):
    """A quantity as it was read: SI value, and the unit as written, empty for a ratio or a size without one."""

    si: float
    unit: str


def readings(build: Build) -> dict[str, Reading]:
    """Every quantity of a build by its pointer, usual values that stand for empty fields included."""
    found: dict[str, Reading] = {}
    _walk(build, "", found)
    return found


def _walk(node: object, pointer: str, found: dict[str, Reading]) -> None:
    if isinstance(node, Quantity):
        found[pointer] = Reading(node.si, unit_of(node))
    elif isinstance(node, BaseModel):
        for name, value in node.__dict__.items():
            if isinstance(value, (Quantity, BaseModel, list, dict)):
                _walk(value, f"{pointer}/{name}", found)
    elif isinstance(node, list):
        for i, value in enumerate(node):
            if isinstance(value, (str, BaseModel)):
                _walk(value, f"{pointer}/{i}", found)
    elif isinstance(node, dict):
        for key, value in node.items():
            _walk(value, f"{pointer}/{escape(key)}", found)
