"""Old wires that are met: what each is by the volts on it in four positions of the key."""

from __future__ import annotations

from ...circuit.old_wire import Kind, kind_of, says
from ...figures import Result
from ...given import Build


class MetRow(Result):
    """An old wire: its number in the list, what it is by its volts, that in words."""

    at: int
    kind: Kind
    says: str


def rows(build: Build) -> list[MetRow]:
    """Every old wire, in the order in which they were entered."""
    found = []
    for i, row in enumerate(build.wiring.old):
        kind = kind_of({key: v.si for key, v in row.volts.items()})
        found.append(MetRow(at=i, kind=kind, says=says(kind)))
    return found
