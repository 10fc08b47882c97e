"""The three invented cars that ship with the program, and the calendars of the two who work on the first."""

from __future__ import annotations

from importlib import resources
from typing import Any

from ..formats import build_file

NAMES = ("tern", "hollin", "brindle")
PEOPLE = ("ada", "ben")


def document(name: str) -> dict[str, Any]:
    """The build document of a demo car."""
    data = resources.files(__name__).joinpath(f"{name}.json").read_bytes()
    return build_file.read(data)[0]


def calendar(person: str) -> bytes:
    """What else one of `PEOPLE` does of an evening, as iCalendar by the clock on the wall (no zone)."""
    if person not in PEOPLE:
        raise KeyError(person)
    return resources.files(__name__).joinpath(f"evenings_{person}.ics").read_bytes()
