"""What flows where in a position of the key: amps out and back in every branch, volts and amps at every part, amps in every wire."""

from __future__ import annotations

import networkx

from ..figures import Result
from .electric import Electric
from .netlist import BLOCK, PLUS
from .overlay import where
from .states import ORDER, KeyState

#: Loads that are told at their place; of those that are many of a kind the first stands for all.
_TOLD = ("unit", "pump", "lift", "coils", "injector_1", "injectors", "oxygen_heater", "fan", "starter")
_WORDS = {"injector_1": "injectors", "unit": "control unit", "oxygen_heater": "oxygen heater"}
LEAST = 5e-3  # A, under which nothing is said to flow


class BranchFlow(Result):
    """What flows in a branch [A]: away from the battery, and towards it. The rest comes back by the block and the body."""

    key: str
    out_a: float
    back_a: float


class PartVolts(Result):
    """A part at its place: volts across it, amps that it draws; of many of a kind, all amps together."""

    place: str
    part: str
    name: str
    volts: float
    amps: float


class WireFlow(Result):
    """What a wire carries [A], from its start to its end; less than nought the other way."""

    key: str
    amps: float


class Flows(Result):
    """The whole harness in one state."""

    state: KeyState
    branches: list[BranchFlow]
    parts: list[PartVolts]
    wires: list[WireFlow]


def flows(electric: Electric, state: KeyState) -> Flows:
    """What flows where in a state."""
    branches = electric.build.wiring.branches
    graph: networkx.Graph[str] = networkx.Graph()
    for key, b in branches.items():
        graph.add_edge(b.start, b.end, key=key)
    depth = networkx.single_source_shortest_path_length(graph, "battery")
    out, back = dict.fromkeys(branches, 0.0), dict.fromkeys(branches, 0.0)
    wires = []
    for key, m in electric.made.items():
        amps = electric.volts(m.wire.nets[0], state, m.wire.nets[1]) / m.ohms
        wires.append(WireFlow(key=key, amps=round(amps, 4)))
        here = m.wire.start_place
        for branch in m.route:
            b = branches[branch]
            there = b.end if here == b.start else b.start
            outward = (depth[there] > depth[here]) == (amps > 0)
            (out if outward else back)[branch] += abs(amps)
            here = there
    return Flows(
        state=state, branches=[BranchFlow(key=key, out_a=_told(out[key]), back_a=_told(back[key])) for key in branches], parts=_parts(electric, state), wires=wires,
    )  # fmt: skip


def _told(amps: float) -> float:
    return round(amps, 3) if amps >= LEAST else 0.0


def _parts(electric: Electric, state: KeyState) -> list[PartVolts]:
    places, k, found = where(electric.netlist), ORDER.index(state), []
    for load in electric.netlist.loads:
        j = electric.loads.get(load.key)
        if j is None or (load.key not in _TOLD and not load.key.startswith("own_")):
            continue
        alike = [x for x in electric.loads if load.key == "injector_1" and x.startswith("injector_")] or [load.key]
        amps = sum(float(electric.solution.amps[k, electric.loads[x]]) for x in alike)
        if load.key == "starter" and amps < LEAST:
            continue
        word = _WORDS.get(load.key, load.key.removeprefix("own_").replace("_", " "))
        own = electric.build.wiring.own.get(load.key.removeprefix("own_"))
        place = places.get(BLOCK if load.plus == PLUS else load.plus, "engine")
        found.append(
            PartVolts(
                place=place,
                part=load.key,
                name=own.label if own is not None and load.key.startswith("own_") else word,
                volts=round(electric.across(load.key, state), 3),
                amps=_told(amps),
            )
        )
    return found
