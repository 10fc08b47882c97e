"""Plugs by their faces: which wire goes into which place, in rows as they are counted, with what is measured there."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator
from typing import NamedTuple

from ..figures import Result
from .electric import Electric
from .live import Live
from .meter import counted
from .netlist import part_name, terminal_name
from .states import KeyState

#: Ends that are no plugs: studs, blades, joints, a cleaned boss.
_NO_PLUG = ("battery", "fuse", "head", "body", "splice_injectors", "ignition_switch", "charge_lamp")
_IN_A_ROW = 10


class Hole(Result):
    """A place in a plug: its number, the kind of a pin of the control unit, the wires in it with colour and size [m2], where they go; volts against battery minus [V]."""

    pin: str
    terminal: str
    kind: str | None
    wires: list[str]
    label: str
    colour: str | None
    area_m2: float | None
    goes_to: str
    volts: float | None


class Face(Result):
    """A plug, its rows seen from the side on which the wires go in; from the side that mates every row runs the other way."""

    part: str
    name: str
    rows: list[list[Hole]]


class End(NamedTuple):
    """A wire's end in a plug: its terminal, the wire, what it is called, its colour and size [m2], the terminal at its other end."""

    terminal: str
    wire: str
    label: str
    colour: str
    area_m2: float
    other: str


def ends(wires: Iterable[tuple[str, str, str, str, str, float]]) -> Iterator[End]:
    """Both ends of every wire: key, start, end, label, colour, size [m2]."""
    for key, start, end, label, colour, area in wires:
        yield End(start, key, label, colour, area, end)
        yield End(end, key, label, colour, area, start)


def plugs(wires: Iterable[tuple[str, str, str, str, str, float]], more: Iterable[str] = ()) -> dict[str, dict[str, list[End]]]:
    """What goes into every part's terminals, the control unit first, pins as they are counted; `more` are terminals without a wire. Of each wire: key, start, end, label, colour, size [m2]."""
    found: defaultdict[str, dict[str, list[End]]] = defaultdict(dict)
    for end in ends(wires):
        if "." in end.terminal and not end.terminal.startswith("unit.none"):
            found[end.terminal.partition(".")[0]].setdefault(end.terminal, []).append(end)
    for terminal in more:
        found[terminal.partition(".")[0]].setdefault(terminal, [])
    return {
        part: {pin: pins[pin] for pin in sorted(pins, key=counted)}
        for part, pins in sorted(found.items(), key=lambda item: (item[0] != "unit", item[0]))
    }


def faces(electric: Electric, state: KeyState) -> list[Face]:
    """Every plug, the control unit's first."""
    live = Live(electric, state)
    shown = live.metered()
    kinds = {f"unit.{row.pin}": row.kind for row in electric.harness.pins}
    rows = ((key, m.wire.start, m.wire.end, m.wire.label, m.colour, m.area_m2) for key, m in electric.made.items())
    found = []
    for part, pins in plugs(rows, kinds).items():
        if part not in _NO_PLUG:
            holes = [
                _hole(terminal, there, kinds.get(terminal), float(shown[live.nodes[terminal]]) if terminal in live.nodes else None)
                for terminal, there in pins.items()
            ]
            found.append(Face(part=part, name=part_name(f"{part}.x"), rows=_rows(holes)))
    return found


def _hole(terminal: str, there: list[End], kind: str | None, volts: float | None) -> Hole:
    first = there[0] if there else None
    return Hole(
        pin=terminal.partition(".")[2],
        terminal=terminal,
        kind=kind,
        wires=[end.wire for end in there],
        label=", ".join(end.label for end in there),
        colour=first.colour if first else None,
        area_m2=first.area_m2 if first else None,
        goes_to=", ".join(terminal_name(end.other) for end in there),
        volts=round(volts, 3) if volts is not None else None,
    )


def _rows(holes: list[Hole]) -> list[list[Hole]]:
    """Pins of one letter together, at most ten in a row, halves of a larger lot above each other."""
    by_letter: defaultdict[str, list[Hole]] = defaultdict(list)
    for hole in holes:
        by_letter[hole.pin.rstrip("0123456789") if hole.pin[-1:].isdigit() and len(holes) > _IN_A_ROW else ""].append(hole)
    rows: list[list[Hole]] = []
    for lot in by_letter.values():
        many = -(-len(lot) // _IN_A_ROW)
        each = -(-len(lot) // many)
        rows += [lot[i : i + each] for i in range(0, len(lot), each)]
    return rows
