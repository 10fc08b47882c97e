"""A wire followed end to end: from what feeds it, through every fuse, contact, splice and plug on its way, to its ground."""

from __future__ import annotations

import itertools

import networkx

from ..figures import Result
from .diagram import Spot, Tie, spot, tie, tie_kind, tie_word
from .electric import Electric
from .netlist import BLOCK, BODY, MINUS, PLUS, UNIT_FIVE, UNIT_GROUND
from .overlay import where
from .states import ORDER, KeyState

_SEEN_IN: tuple[KeyState, ...] = ("run", "full")
_SEEN = 1e-7  # V
_GROUNDS = (MINUS, BLOCK, BODY)
_JOINT, _LOAD = 1.0, 1e3  # how far a joint is, and how far a load: a feed is looked for without passing one
_RESISTS = 100.0  # ohm, from which on a joint counts as a load: a track, a winding, a resistor inside a part


class Traced(Result):
    """The way of a wire: its terminals from the feed to the ground, what joins each to the next, the places of the terminals; and the wire that was asked about."""

    wire: str
    spots: list[Spot]
    ties: list[Tie]
    places: list[str]


def traced(electric: Electric, wire: str, state: KeyState) -> Traced:
    """A wire's way in a state. Raises KeyError for one that is not there."""
    own = electric.made[wire]
    graph = _graph(electric)
    high, low = own.wire.nets
    if high in _GROUNDS or (low not in _GROUNDS and _falls(electric, high, low) < 0):
        high, low = low, high
    graph.remove_edge(high, low, key=wire)
    before = _way(graph, PLUS, high)
    graph.remove_nodes_from([n for n in before if n not in (high, low)])
    after = next((way for end in (*_GROUNDS, UNIT_GROUND) if len(way := _way(graph, low, end)) or low == end), [low])
    spots, sits = [*(before or [high]), *(after or [low])], where(electric.netlist)
    return Traced(
        wire=wire, spots=[spot(electric, n, state) for n in spots], ties=[_tie(electric, a, b, wire if (a, b) == (high, low) else None, state) for a, b in itertools.pairwise(spots)],
        places=[sits.get(n, "") for n in spots],
    )  # fmt: skip


def _falls(electric: Electric, a: str, b: str) -> float:
    """By how much [V] one terminal stands above another, in the first state in which it is to be seen: what stands still may run later."""
    return next((v for state in _SEEN_IN if abs(v := electric.volts(a, state, b)) > _SEEN), 0.0)


def _graph(electric: Electric) -> networkx.MultiGraph[str]:
    graph: networkx.MultiGraph[str] = networkx.MultiGraph()
    graph.add_nodes_from((PLUS, MINUS))
    for key, b in electric.branches:
        if not key.startswith(("battery.", "charging_lead")):
            graph.add_edge(b.a, b.b, key=key, far=_LOAD if key.startswith("load.") or b.ohms >= _RESISTS else _JOINT)
    for load in electric.netlist.loads:
        if load.key in electric.loads and load.key != "starter":
            graph.add_edge(load.plus, load.minus, key=f"load.{load.key}", far=_LOAD)
            if load.key == "unit":
                graph.add_edge(load.plus, UNIT_FIVE, key="unit.five_volt", far=_JOINT)
    return graph


def _way(graph: networkx.MultiGraph[str], start: str, end: str) -> list[str]:
    """The nearest way; empty where there is none."""
    if start not in graph or end not in graph or not networkx.has_path(graph, start, end):
        return []
    found: list[str] = networkx.shortest_path(graph, start, end, weight=lambda _, __, edges: min(e["far"] for e in edges.values()))
    return found


def _tie(electric: Electric, a: str, b: str, wire: str | None, state: KeyState) -> Tie:
    """What joins two neighbours on the way."""
    k, made = ORDER.index(state), electric.made
    key = wire or next((key for key, m in made.items() if {a, b} == set(m.wire.nets)), None)
    if key is not None:
        m = made[key]
        return tie(key, m.wire.label, "wire", (a, b), electric.amps(key, state), False, m.colour, m.area_m2)
    load = next((x for x in electric.netlist.loads if {a, b} == {x.plus, x.minus} and x.key in electric.loads), None)
    if load is not None:
        return tie(
            f"load.{load.key}",
            load.key.removeprefix("own_").replace("_", " "),
            "load",
            (a, b),
            electric.drawn(load.key, state),
            False,
            None,
            None,
        )
    for name, branch in electric.branches:
        if {a, b} == {branch.a, branch.b}:
            shut = branch.closed[k]
            amps = abs(electric.volts(a, state, b)) / branch.ohms if shut else 0.0
            return tie(name, tie_word(name), tie_kind(name) or "joint", (a, b), amps, not shut, None, None)
    return tie("unit.five_volt", "5 V inside the control unit", "joint", (a, b), 0.0, False, None, None)
