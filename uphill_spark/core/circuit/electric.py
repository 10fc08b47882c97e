"""The harness in balance: what every question about volts and currents is put to."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, get_args

import numpy as np

from ..given import Build
from ..physics.network import Array, Branch, Solution, Source
from ..physics.pump import PumpFit
from .branches import Gone, branches, sources
from .conductors import Made, fuse_loads, links_of
from .harness import Harness
from .netlist import MINUS, Circuit, Link, Netlist
from .pulsed import Draw
from .states import ORDER, STATES, KeyState, Switched
from .supply import Supply

if TYPE_CHECKING:  # what was solved together with it is handed on, not looked into
    from ..stages.fuel.demand import StateName
    from ..stages.fuel.plumbing import Network as Pipes
    from ..stages.fuel.plumbing import Plumbing, Solved


#: What volts in the harness rest on: which wires there are, how they run, what hangs on them, and how long the injectors beside are open.
RESTS_ON = (
    "engine.fuel_mass_flow",
    "/wiring/fitted", "/wiring/branches", "/wiring/profile", "/wiring/extras", "/wiring/insulation", "/wiring/fan_current", "/wiring/unit_current", "/fuel/lift/current", "/sensors/decisions", "/ignition/kind",
    "/wiring/battery", "/wiring/charging", "/wiring/grounds", "/wiring/own", "/wiring/added", "/wiring/old", "/wiring/sits", "/wiring/left_out", "/fuel/lift", "/engine/cylinders", "/engine/rev_limit", "/injectors",
    "/ignition/coil", "/ignition/timed_by_unit", "/ignition/speed_signal", "/ignition/igniter", "/wiring/unit", "/wiring/gearbox", "/air/by_wire", "/sensors/trigger/wants",
)  # fmt: skip
_ALWAYS = (True,) * len(ORDER)
_WHEN: dict[Switched, tuple[bool, ...]] = {what: tuple(what in STATES[k].on for k in ORDER) for what in get_args(Switched)}


@dataclass(frozen=True, slots=True)
class Feed:
    """What stands behind a thing as it sees it: volts with nothing drawn by it, and the resistance out and back [ohm] (Thevenin)."""

    volts: float
    ohms: float


@dataclass(frozen=True, slots=True)
class Electric:
    """The harness in balance, in every state of key and engine, and the fuel system as solved on it."""

    build: Build
    harness: Harness
    made: dict[str, Made]
    most: dict[str, Draw]
    solution: Solution
    resistance: Array
    loads: dict[str, int]
    fit: PumpFit
    pipes: Pipes
    need_m3_s: float
    hydraulics: dict[StateName, tuple[Plumbing, Solved]]
    rounds: int
    supply: Supply
    gone: Gone
    drawn_a: dict[KeyState, float]

    @property
    def netlist(self) -> Netlist:
        """The list of what is joined to what."""
        return self.harness.netlist

    @property
    def held(self) -> dict[str, list[float]]:
        """Terminals whose volts [V] are held, by state."""
        return self.supply.held()

    @property
    def branches(self) -> list[tuple[str, Branch]]:
        """Every resistor by its name, as it was solved."""
        return branches(self.netlist, self.made, self.supply, self.gone)

    @property
    def sources(self) -> list[Source]:
        """Every source, as it was solved."""
        return sources(self.supply, self.gone)

    def volts(self, terminal: str, state: KeyState, against: str = MINUS) -> float:
        """Volts of a terminal against another, battery minus if none is named. Raises KeyError for a terminal that is not there."""
        k = ORDER.index(state)
        return self.solution.potential(terminal, k) - self.solution.potential(against, k)

    def across(self, load: str, state: KeyState) -> float:
        """Volts across a load [V]."""
        return float(self.solution.volts[ORDER.index(state), self.loads[load]])

    def drawn(self, load: str, state: KeyState) -> float:
        """What a load draws [A]."""
        return float(self.solution.amps[ORDER.index(state), self.loads[load]])

    def feed(self, load: str, state: KeyState) -> Feed:
        """The harness as a load sees it."""
        k, j = ORDER.index(state), self.loads[load]
        ohms = float(self.resistance[k, j])
        return Feed(float(self.solution.volts[k, j]) + ohms * float(self.solution.amps[k, j]), ohms)

    def amps(self, wire: str, state: KeyState) -> float:
        """What a wire carries [A], as a size."""
        m = self.made[wire]
        a, b = m.wire.nets
        return abs(self.volts(a, state, b)) / m.ohms

    def lost(self, ends: Sequence[tuple[str, str]]) -> Array:
        """Volts between pairs of terminals, as a size, by (state, pair)."""
        nodes, u = self.solution.nodes, self.solution.u
        a, b = ([nodes[pair[k]] for pair in ends] for k in (0, 1))
        return np.abs(u[:, a] - u[:, b])

    def most_carried(self) -> dict[str, Draw]:
        """The most that each wire carries in any state: what is solved on average, and what pulses add to it."""
        most = self.lost([m.wire.nets for m in self.made.values()]).max(axis=0)
        found = {}
        for i, (key, m) in enumerate(self.made.items()):
            average = float(most[i]) / m.ohms
            found[key] = Draw(average, average + m.most.effective - m.most.average, average + m.most.peak - m.most.average)
        return found

    def circuit_drops(self) -> dict[str, float]:
        """What each circuit loses [V] out and back in its worst state, at the peak of what pulses: its wires, its fuse and its relay."""
        links = {x.key: x for x in self.netlist.links}
        ends: list[tuple[str, str]] = []
        closed: list[tuple[bool, ...]] = []
        starts, pulses = [], []
        for circuit in self.netlist.circuits:
            starts.append(len(ends))
            joints = [links[key] for key in links_of(circuit) if key in links]
            pulses.append(self._pulses(circuit, joints))
            ends += [*(w.nets for w in circuit.wires), *((x.a, x.b) for x in joints)]
            closed += [_ALWAYS] * len(circuit.wires) + [
                tuple(c and x.key not in self.gone[k] for c, k in zip(_ALWAYS if x.when is None else _WHEN[x.when], ORDER, strict=True))
                for x in joints
            ]  # open, it loses nothing
        most = np.add.reduceat(self.lost(ends) * np.array(closed).T, starts, axis=1).max(axis=0)
        return {c.key: float(v) + more for c, v, more in zip(self.netlist.circuits, most, pulses, strict=True)}

    def _pulses(self, circuit: Circuit, joints: Sequence[Link]) -> float:
        """What pulses lose [V] over their average, in the wires of a circuit, its fuse and its relay."""
        over = {w.key: self.made[w.key].most.peak - self.made[w.key].most.average for w in circuit.wires}
        return sum(self.made[key].ohms * amps for key, amps in over.items()) + sum(x.ohms for x in joints) * max(over.values())

    @property
    def fuse_loads(self) -> dict[str, float]:
        """The most [A] that each fuse has to carry."""
        return fuse_loads(self.made)
