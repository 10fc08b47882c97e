"""The fuel's path as a person strings it together: the names of parts in order, from the tank to the rail and back.

    tank - strainer - pump - filter - supply - rail - regulator - return_line - tank

Five names stand for what is described apart from the path: tank, pump, rail, regulator, and lift with surge_tank where there is one. All others
are names of runs, filters, valves and dampers. Where the regulator stands decides the scheme: after the rail, what is left over comes back from
the rail; before it, only what the engine takes goes on, and what comes after the rail in the list is the way back from the regulator. A path that
ends at the rail has no way back at all.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import Literal

Scheme = Literal["return", "tank_regulator", "dead_head"]
FIXED = ("tank", "lift", "surge_tank", "pump", "rail", "regulator")
END = ("tank", "surge_tank")


@dataclass(frozen=True, slots=True)
class Sections:
    """The path cut at pump, rail and regulator: names of parts, in the direction of flow.

    lift      tank to surge tank, lift pump not counted; empty without one
    suction   the tank that the pump draws from, to the pump
    forward   pump to rail or regulator, whichever comes first: passes all that the pump gives
    between   rail to regulator (what is left over), or regulator to rail (what the engine takes)
    back      from the regulator to the tank: what is left over
    """

    lift: tuple[str, ...]
    suction: tuple[str, ...]
    forward: tuple[str, ...]
    between: tuple[str, ...]
    back: tuple[str, ...]
    regulator_first: bool
    ends: str | None

    @property
    def scheme(self) -> Scheme:
        """Return from the rail, regulator before the rail with a way back, or dead-head."""
        if not self.regulator_first:
            return "return"
        return "tank_regulator" if self.ends else "dead_head"

    @property
    def to_rail(self) -> tuple[str, ...]:
        """Every part from pump to rail."""
        return self.forward + (self.between if self.regulator_first else ())

    @property
    def from_rail(self) -> tuple[str, ...]:
        """Every part from the rail, or from a regulator before it, back to the tank."""
        return self.back if self.regulator_first else self.between + self.back

    @property
    def under_pressure(self) -> tuple[str, ...]:
        """Every part that sees the pump's pressure: up to rail and regulator."""
        return self.forward + self.between


def check_path(path: Sequence[str], parts: Collection[str], has_lift: bool) -> None:
    """Raises ValueError "pointer|given|wants" for a path that cannot carry fuel to a rail."""
    for name in parts:
        if name in FIXED:
            raise ValueError(f"/parts/{name}|{name}|another name: this one stands for the {_word(name)} itself")
    if not path or path[0] != "tank":
        raise ValueError(f"/path|{_shown(path)}|a path that starts at the tank")
    for name in ("pump", "regulator", "rail"):
        _once(path, name)
    places = {name: path.index(name) for name in ("pump", "regulator", "rail")}
    seen: dict[str, int] = {}
    for i, name in enumerate(path):
        if name not in FIXED and name not in parts:
            raise ValueError(f"/path/{i}|{name}|a part that is described under parts, or one of {', '.join(FIXED)}")
        if name in seen and not (name in END and i == len(path) - 1):
            raise ValueError(f"/path/{i}|{_shown(path)}|each part once: {_word(name)} comes a second time, which makes a loop")
        seen.setdefault(name, i)
    lost = [name for name in parts if name not in seen]
    if lost:
        raise ValueError(f"/parts/{lost[0]}|{_word(lost[0])} joined to nothing|a place on the path for it, or take it out")
    if places["pump"] > min(places["rail"], places["regulator"]):
        raise ValueError(f"/path/{places['pump']}|{_shown(path)}|the pump before rail and regulator")
    _lift(path, places["pump"], has_lift)
    _surge_tank_in_place(path, places["pump"])
    last, first_of_two = len(path) - 1, max(places["rail"], places["regulator"])
    if path[last] not in END:
        if last == places["rail"]:
            return  # dead-head: nothing comes back
        what = "the regulator has nowhere to let fuel go" if last == places["regulator"] else "the return leads nowhere"
        raise ValueError(f"/path|{_shown(path)}|tank or surge_tank at the end: {what}")
    if last < first_of_two:
        raise ValueError(f"/path/{last}|{_shown(path)}|rail and regulator before the way back ends")


def cut(path: Sequence[str]) -> Sections:
    """A checked path, cut into its sections."""
    pump, rail, regulator = (path.index(name) for name in ("pump", "rail", "regulator"))
    first, second = sorted((rail, regulator))
    ends = path[-1] if path[-1] in END else None
    source = path.index("surge_tank") if "surge_tank" in path[:pump] else 0
    return Sections(
        lift=tuple(name for name in path[1:source] if name != "lift"),
        suction=tuple(path[source + 1 : pump]),
        forward=tuple(path[pump + 1 : first]),
        between=tuple(path[first + 1 : second]),
        back=tuple(path[second + 1 : -1]) if ends else (),
        regulator_first=regulator < rail,
        ends=ends,
    )


def _once(path: Sequence[str], name: str) -> None:
    found = [i for i, other in enumerate(path) if other == name]
    more = {
        "pump": "; a pump that fills a surge tank is the lift pump",
        "regulator": "; two regulators work against each other",
        "rail": "; several rails in a row count as one",
    }
    if not found:
        raise ValueError(f"/path|{_shown(path)}, no {name}|one {name} on the path")
    if len(found) > 1:
        raise ValueError(f"/path/{found[1]}|{len(found)} times {name}|one {name}{more[name]}")


def _lift(path: Sequence[str], pump: int, has_lift: bool) -> None:
    before = path[:pump]
    if has_lift != ("lift" in path) or has_lift != ("surge_tank" in before):
        wants = (
            "lift and surge_tank before the pump" if has_lift else "a lift pump and surge tank described, or neither of them on the path"
        )
        raise ValueError(f"/path|{_shown(path)}|{wants}")
    if has_lift and ("lift" not in before or before.index("lift") > before.index("surge_tank")):
        raise ValueError(f"/path|{_shown(path)}|the lift pump, then the surge tank that it fills, then the pump")
    if path[-1] == "surge_tank" and not has_lift:
        raise ValueError(f"/path/{len(path) - 1}|surge_tank|the tank: this build has no surge tank")


def _surge_tank_in_place(path: Sequence[str], pump: int) -> None:
    """Past the pump a surge tank can only be where the way back ends."""
    for i, name in enumerate(path):
        if name == "surge_tank" and pump < i < len(path) - 1:
            raise ValueError(f"/path/{i}|{_shown(path)}|the surge tank before the pump, or at the end of the way back")


def _word(name: str) -> str:
    return name.replace("_", " ")


def _shown(path: Sequence[str]) -> str:
    text = " → ".join(_word(name) for name in path) or "nothing"
    return text if len(text) <= 120 else text[:117] + "..."
