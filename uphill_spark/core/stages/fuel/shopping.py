"""What the fuel station needs from the shop: metres by class, fittings, clamps, the parts themselves."""

from __future__ import annotations

from ...build import Build
from ...build.fuel import Line
from ...figures import Result
from ...reference import lines

SPARE = 1.10  # metres over what is measured
_HOSE = ("30R6", "30R7", "30R9", "30R10", "30R14T2")
_IN_THE_LINE = ("entry", "exit")  # losses at the ends, nothing to buy


class Item(Result):
    """One line of the list."""

    what: str
    quantity: float
    unit: str
    note: str


def shopping(build: Build) -> list[Item]:
    """The list, in the order in which fuel meets the parts."""
    f = build.fuel
    items = []
    if f.strainer is not None:
        items.append(Item(what="strainer", quantity=1, unit="piece", note=f"{f.strainer.fineness}, before the pump"))
    if f.suction is not None:
        items += _line("suction", f.suction)
    if f.lift is not None:
        items.append(Item(what=f.lift.name, quantity=1, unit="piece", note=f"{f.lift.flow}"))
        items.append(Item(what="surge tank", quantity=1, unit="piece", note=f"{f.lift.usable} usable, overflow to the main tank"))
    items.append(Item(what=f.pump.name, quantity=1, unit="piece", note=f.pump.place.replace("_", " ")))
    items.append(
        Item(what="fine filter", quantity=1, unit="piece", note=f"{f.filter.fineness}, {f.filter.pressure_drop} at {f.filter.at_flow}")
    )
    items += _line("supply", f.supply)
    items.append(
        Item(
            what="regulator",
            quantity=1,
            unit="piece",
            note=f"{f.regulator.set_pressure}, spring side to {f.regulator.reference.replace('_', ' ')}",
        )
    )
    if f.scheme != "dead_head":
        items += _line("return", f.return_line)
    return items


def _line(name: str, line: Line) -> list[Item]:
    label = lines()[line.material].label
    items = [Item(what=label, quantity=round(line.length.si * SPARE, 2), unit="m", note=f"{name}, {line.bore} bore, 10 % over")]
    items += [
        Item(what=x.kind.replace("_", " "), quantity=x.count, unit="piece", note=f"{name}, for {line.bore}")
        for x in line.fittings
        if x.count and x.kind not in _IN_THE_LINE
    ]
    if line.material in _HOSE:
        items.append(
            Item(
                what="rolled-edge injection clamp",
                quantity=2 * (1 + sum(x.count for x in line.fittings if x.kind not in _IN_THE_LINE)),
                unit="piece",
                note=f"{name}, both ends of each hose",
            )
        )
    items.append(Item(what="clip", quantity=max(round(line.length.si / 0.3), 1), unit="piece", note=f"{name}, every 300 mm"))
    return items
