"""The three invented cars that ship with the program, and the calendars of the two who work on the first."""

from __future__ import annotations

from importlib import resources
from typing import Any

from ..core.standin.drive import Truth
from ..formats import build_file

NAMES = ("tern", "hollin", "brindle")
PEOPLE = ("ada", "ben")
#: What is really so in each demo car and not as its build has it: what the road is there to find out.
TRUTHS: dict[str, Truth] = {
    "tern": Truth(flow=1.08, tip=0.10, bumps=0.05, seed=11),
    "hollin": Truth(dead_s=-0.11e-3, air=0.14, bumps=0.04, seed=5),
    "brindle": Truth(flow=0.93, bank=0.035, bumps=0.04, seed=8),
}
#: The drive of each that ships: how it is written, too, is another each time.
DRIVES = {"tern": "drive_tern.mf4", "hollin": "drive_hollin.csv.gz", "brindle": "drive_brindle.csv.gz"}


def document(name: str) -> dict[str, Any]:
    """The build document of a demo car."""
    data = resources.files(__name__).joinpath(f"{name}.json").read_bytes()
    return build_file.read(data)[0]


def calendar(person: str) -> bytes:
    """What else one of `PEOPLE` does of an evening, as iCalendar by the clock on the wall (no zone)."""
    if person not in PEOPLE:
        raise KeyError(person)
    return resources.files(__name__).joinpath(f"evenings_{person}.ics").read_bytes()


def truth(name: str) -> Truth:
    """What is really so in a demo car."""
    return TRUTHS[name]


def drive(name: str) -> tuple[str, bytes]:
    """The drive of a demo car that ships: the name of its file, and what is in it."""
    file = DRIVES[name]
    return file, resources.files(__name__).joinpath(file).read_bytes()
