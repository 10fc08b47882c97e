"""What the fuel station needs from the shop: metres by class, fittings, clamps, the parts themselves."""

from __future__ import annotations

import math

from ...figures import Result
from ...given import Build
from ...given.fuel import CheckValve, Filter, Run
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
    """The list, in the order in which fuel meets the parts. What is carried over is not bought."""
    f = build.fuel
    kept = build.engine.carried_over
    items: list[Item] = []
    for name in f.path:
        if name in f.parts and isinstance(f.parts[name], Run) and "fuel_lines" in kept:
            continue
        if name in f.parts:
            items += _part(name.replace("_", " "), f.parts[name], pressed=name in f.sections.under_pressure)
        elif name == "lift" and f.lift is not None:
            items.append(_piece(f.lift.name, f"{f.lift.flow}"))
        elif name == "surge_tank" and f.lift is not None and not any(x.what == "surge tank" for x in items):
            items.append(_piece("surge tank", f"{f.lift.usable} usable, overflow to the main tank"))
        elif name == "pump" and "fuel_pump" not in kept:
            items.append(_piece(f.pump.name, f.pump.place.replace("_", " ")))
        elif name == "regulator":
            sees = f.regulator.reference.replace("_", " ")
            items.append(_piece("regulator", f"{f.regulator.set_pressure}, spring side to {sees}"))
    return items


def _piece(what: str, note: str) -> Item:
    return Item(what=what, quantity=1, unit="piece", note=note)


def _part(name: str, part: object, *, pressed: bool) -> list[Item]:
    if isinstance(part, Run):
        return _run(name, part, pressed=pressed)
    if isinstance(part, Filter):
        return [_piece("filter", f"{name}, {part.fineness}, {part.pressure_drop} at {part.at_flow}")]
    return [_piece("check valve" if isinstance(part, CheckValve) else "damper", name)]


def _run(name: str, run: Run, *, pressed: bool) -> list[Item]:
    data = lines()[run.material]
    what = f"{data.label}: not this, it is not made for the pressure here" if pressed and not data.pressure_side else data.label
    items = [Item(what=what, quantity=round(run.length.si * SPARE, 2), unit="m", note=f"{name}, {run.bore} bore, 10 % over")]
    bought = [x for x in run.fittings if x.count and x.kind not in _IN_THE_LINE]
    items += [
        Item(what=x.kind.replace("_", " "), quantity=x.count, unit="piece", note=f"{name}, for {run.bore}, {x.bore or run.bore} inside")
        for x in bought
    ]
    if run.material in _HOSE:
        clamps = 2 * (1 + sum(x.count for x in bought))
        items.append(Item(what="rolled-edge injection clamp", quantity=clamps, unit="piece", note=f"{name}, both ends of each hose"))
    clips = max(math.ceil(run.length.si / min(run.clips.si, 0.3) - 1e-9) - 1, 1)
    items.append(Item(what="clip", quantity=clips, unit="piece", note=f"{name}, every 300 mm"))
    return items
