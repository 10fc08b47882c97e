"""Paths of the common schemes, strung from the parts that a build has: what appears and what goes when the scheme changes."""

from __future__ import annotations

from typing import Any, Literal

from ...given.edit import Patch, put, take_out
from ...given.fuel import FuelSystem
from ...given.path import Scheme

PumpPlace = Literal["in_tank", "external", "surge_tank"]
_ENDS = [{"kind": "entry", "count": 1}, {"kind": "exit", "count": 1}]
STRAINER = {"kind": "filter", "pressure_drop": "1 kPa", "at_flow": "150 L/h", "fluid": "working_fuel", "fineness": "100 um"}
SUCTION = {"kind": "run", "material": "30R14T2", "bore": "12.7 mm", "length": "0.5 m", "fittings": _ENDS[:1], "clamps": "rolled_edge"}
SHORT_RETURN = {"kind": "run", "material": "30R14T2", "bore": "9.5 mm", "length": "0.4 m", "fittings": _ENDS, "clamps": "rolled_edge"}
LIFT = {"name": "lift pump", "flow": "120 L/h", "usable": "1.5 L"}


def restrung(f: FuelSystem, scheme: Scheme) -> Patch:
    """The patch that gives a build the path of another scheme, with its own parts as far as they have a place in it."""
    cut = f.sections
    before = list(f.path[: f.path.index("pump") + 1])
    ends = cut.ends or ("surge_tank" if f.lift else "tank")
    forth = list(cut.to_rail)
    new: dict[str, Any] = {}
    if scheme == "return":
        back = list(cut.from_rail)
        if cut.regulator_first:  # what led back from a regulator at the tank is too short to come back from the rail
            back = [_free(f, "return_line")]
            new[back[0]] = _as_long_as(f, forth)
        path = [*before, *forth, "rail", "regulator", *back, ends]
    elif scheme == "tank_regulator":
        near = _up_to_the_last_filter(f, forth)
        name = _free(f, "return_hose")
        new[name] = SHORT_RETURN
        path = [*before, *near, "regulator", *forth[len(near) :], "rail", name, ends]
    else:
        path = [*before, *forth, "regulator", "rail"]
    return _patch(f, path, new)


def placed(f: FuelSystem, place: PumpPlace) -> Patch:
    """The patch that puts the pump into the tank, outside it, or behind a surge tank that a lift pump fills."""
    cut = f.sections
    new: dict[str, Any] = {}
    strainers = list(f.filters(cut.suction)) or list(f.filters(cut.lift))[:1]
    if not strainers:
        strainers = [_free(f, "strainer")]
        new[strainers[0]] = STRAINER
    hoses = list(f.runs(cut.suction))
    if place != "in_tank" and not hoses:
        hoses = [_free(f, "suction")]
        new[hoses[0]] = SUCTION
    patch = [put("/fuel/pump/place", "in_tank" if place == "in_tank" else "external")]
    rest = list(f.path[f.path.index("pump") :])
    if cut.ends:
        rest[-1] = "surge_tank" if place == "surge_tank" else "tank"
    if place == "surge_tank":
        patch += [] if f.lift else [put("/fuel/lift", LIFT)]
        path = ["tank", *cut.lift, "lift", "surge_tank", *strainers, *hoses, *rest] if not f.lift else list(f.path)
        path[-len(rest) :] = rest
    else:
        patch += [take_out("/fuel/lift")] if f.lift else []
        path = ["tank", *strainers, *(hoses if place == "external" else []), *rest]
    return [*patch, *_patch(f, path, new)]


def _patch(f: FuelSystem, path: list[str], new: dict[str, Any]) -> Patch:
    gone = [name for name in f.parts if name not in path]
    return [
        *(put(f"/fuel/parts/{name}", part) for name, part in new.items() if name in path),
        put("/fuel/path", path),
        *(take_out(f"/fuel/parts/{name}") for name in gone),
    ]


def _free(f: FuelSystem, name: str) -> str:
    """The name, with a number behind it if it is taken."""
    return next(n for n in (name, *(f"{name}_{i}" for i in range(2, 99))) if n not in f.parts)


def _up_to_the_last_filter(f: FuelSystem, forth: list[str]) -> list[str]:
    """What stays between pump and a regulator at the tank: everything up to the last filter on the way."""
    filters = f.filters(tuple(forth))
    last = max((i for i, name in enumerate(forth) if name in filters), default=-1)
    return forth[: last + 1]


def _as_long_as(f: FuelSystem, forth: list[str]) -> dict[str, Any]:
    """A return line as long as the way forth, of its widest bore, in steel tube."""
    runs = list(f.runs(tuple(forth)).values())
    length = sum(run.length.si for run in runs) or 4.0
    bore = max((run.bore.si for run in runs), default=7.9e-3)
    rise = -sum(run.rise.si for run in runs)
    return {"kind": "run", "material": "steel_tube", "bore": f"{bore * 1e3:.1f} mm", "length": f"{min(length, 30):.2f} m", "rise": f"{rise:.2f} m", "fittings": [*_ENDS, {"kind": "bend_90", "count": 4}]}  # fmt: skip
