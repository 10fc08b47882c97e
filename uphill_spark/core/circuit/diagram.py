"""One circuit by itself, from what feeds it to its ground: its terminals with their volts, what joins them with the amps in it, in a position of the key."""

from __future__ import annotations

from typing import Literal

from ..figures import Result
from .electric import Electric
from .netlist import BLOCK, BODY, MINUS, PLUS, UNIT_GROUND, part_name, terminal_name
from .states import ORDER, KeyState

Kind = Literal["wire", "fuse", "contact", "switch", "strap", "load", "joint"]


#: Terminals that everything hangs on: what else does is no part of a circuit.
_SHARED = {PLUS, MINUS, BLOCK, BODY, UNIT_GROUND, "splice_injectors", "ignition_switch.run"}


class Spot(Result):
    """A terminal of a circuit: in words, the part it is on, its volts against battery minus [V]; whether it is a post, a ground or neither."""

    key: str
    name: str
    part: str
    volts: float
    end: Literal["feed", "ground", "between"]


class Tie(Result):
    """What joins two terminals, the one nearer to the feed first: a wire with its colour and size [m2], a fuse, a contact, a load; amps [A] in it, whether it is open."""

    key: str
    label: str
    kind: Kind
    start: str
    end: str
    amps: float
    open: bool
    colour: str | None
    area_m2: float | None


class Diagram(Result):
    """A circuit as it is drawn."""

    key: str
    label: str
    spots: list[Spot]
    ties: list[Tie]


class CircuitName(Result):
    """A circuit that can be drawn."""

    key: str
    label: str


def names(electric: Electric) -> list[CircuitName]:
    """Every circuit of the harness, in its order."""
    return [CircuitName(key=c.key, label=c.label) for c in electric.netlist.circuits]


def diagram(electric: Electric, key: str, state: KeyState) -> Diagram:
    """A circuit of the harness. Raises KeyError for one that is not there."""
    circuit = {c.key: c for c in electric.netlist.circuits}[key]
    own = {end for w in circuit.wires for end in w.nets}
    inside = own - _SHARED
    loads = {load.key: load for load in electric.netlist.loads if load.plus in inside or load.minus in inside}
    inside |= {end for load in loads.values() for end in (load.plus, load.minus)} - _SHARED
    straps = {"block_strap"} if BLOCK in own or BODY in own else set()
    straps |= {"body_strap"} if BODY in own else set()
    k = ORDER.index(state)
    ties = [
        _tie(
            electric,
            w.key,
            w.label,
            "wire",
            w.nets,
            electric.amps(w.key, state),
            False,
            electric.made[w.key].colour,
            electric.made[w.key].area_m2,
        )
        for w in circuit.wires
    ]
    for name, branch in electric.branches:
        kind = tie_kind(name)
        if kind is None or name.startswith("load.") or not ({branch.a, branch.b} & inside or name in straps):
            continue
        shut = branch.closed[k]
        amps = abs(electric.volts(branch.a, state, branch.b)) / branch.ohms if shut else 0.0
        ties.append(_tie(electric, name, tie_word(name), kind, (branch.a, branch.b), amps, not shut, None, None))
    for load in loads.values():
        j = electric.loads.get(load.key)
        amps = (
            float(electric.solution.amps[k, j])
            if j is not None
            else abs(electric.volts(load.plus, state, load.minus)) / _ohms(electric, load.key)
        )
        ties.append(
            _tie(
                electric,
                f"load.{load.key}",
                load.key.removeprefix("own_").replace("_", " "),
                "load",
                (load.plus, load.minus),
                amps,
                False,
                None,
                None,
            )
        )
    used = dict.fromkeys(end for t in ties for end in (t.start, t.end))
    return Diagram(key=key, label=circuit.label, spots=[spot(electric, n, state) for n in used], ties=ties)


def spot(electric: Electric, terminal: str, state: KeyState) -> Spot:
    """A terminal as it is drawn."""
    end: Literal["feed", "ground", "between"] = (
        "feed" if terminal == PLUS else "ground" if terminal in (MINUS, BLOCK, BODY, UNIT_GROUND) else "between"
    )
    return Spot(
        key=terminal, name=terminal_name(terminal), part=part_name(terminal), volts=round(electric.volts(terminal, state), 3), end=end
    )


def _ohms(electric: Electric, load: str) -> float:
    return next(b.ohms for name, b in electric.branches if name == f"load.{load}")


def tie_kind(name: str) -> Kind | None:
    """What a joint is; None of one that is not drawn."""
    if name.startswith("fuse."):
        return "fuse"
    if name.endswith((".contact", "unit.pump_contact")):
        return "contact"
    if name == "ignition_switch":
        return "switch"
    if name in ("block_strap", "body_strap"):
        return "strap"
    return (
        "joint"
        if name.endswith(
            (".86", ".plus", ".inside", ".driver", ".upper", ".lower", "sensors.body", ".second", "charge_lamp", ".field", ".diodes")
        )
        else None
    )


def tie_word(name: str) -> str:
    """A joint in words.

    >>> tie_word("fuse.pump"), tie_word("pump_relay.contact"), tie_word("ignition_switch")
    ('pump fuse', 'pump relay', 'ignition switch')
    """
    if name.startswith("fuse."):
        return f"{name.removeprefix('fuse.').replace('_', ' ')} fuse"
    if name.endswith((".inside", ".driver", ".upper", ".lower")):
        return "inside"
    return name.removeprefix("load.").removesuffix(".contact").removesuffix(".86").removesuffix(".plus").replace("_", " ").replace(".", " ")


def _tie(
    electric: Electric,
    key: str,
    label: str,
    kind: Kind,
    ends: tuple[str, str],
    amps: float,
    is_open: bool,
    colour: str | None,
    area: float | None,
) -> Tie:
    """Drawn downwards: the end that stands higher with everything on comes first."""
    a, b = ends
    if electric.volts(a, "full") < electric.volts(b, "full") - 1e-9:
        a, b = b, a
    return tie(key, label, kind, (a, b), amps, is_open, colour, area)


def tie(key: str, label: str, kind: Kind, ends: tuple[str, str], amps: float, is_open: bool, colour: str | None, area: float | None) -> Tie:
    """What joins two terminals, as it is drawn: amps [A] in it, a wire's size [m2]."""
    return Tie(
        key=key, label=label, kind=kind, start=ends[0], end=ends[1], amps=round(abs(amps), 4), open=is_open, colour=colour, area_m2=area
    )
