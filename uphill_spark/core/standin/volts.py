"""What a fault of the harness does to the volts that matter: at the unit, pump, coils, injectors, sensors, starter; and what the pump then holds at the rail."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import cached_property

from ..circuit.faults import Fault
from ..circuit.live import Change, Live
from ..circuit.netlist import BLOCK, MINUS, PLUS
from ..circuit.states import CHARGING_V, TIRED_V, KeyState
from ..stages.fuel.demand import StateName
from ..worked import Worked

Wrong = Mapping[KeyState, Sequence[Fault]] | Sequence[Fault]
STOPS_V = 3.0  # under which a pump does not turn


def faults_in(wrong: Wrong, state: KeyState) -> Sequence[Fault]:
    """What is wrong in a state of the key, where it is told state by state; else what is wrong in all."""
    return wrong.get(state, ()) if isinstance(wrong, Mapping) else wrong


class Harness:
    """The harness of a build, asked with faults in it."""

    def __init__(self, w: Worked) -> None:
        self.w, self.electric = w, w.circuit
        self._live: dict[KeyState, Live] = {}
        self._sound: dict[KeyState, dict[str, float]] = {}
        self._rails: dict[tuple[StateName, float], float] = {}

    def live(self, state: KeyState) -> Live:
        """The harness in one state, made ready once."""
        if state not in self._live:
            self._live[state] = Live(self.electric, state)
        return self._live[state]

    @cached_property
    def places(self) -> dict[str, tuple[str, str]]:
        """Where the leads go: red and black, by what is read."""
        made = self.electric.made
        loads = {load.key: load for load in self.electric.netlist.loads}
        found: dict[str, tuple[str, str]] = {
            key: (loads[key].plus, loads[key].minus) for key in ("unit", "pump", "coils", "starter") if key in loads
        }
        feed, ground = found.get("unit", (PLUS, MINUS))
        injector = next((load for key, load in loads.items() if key.startswith("injector")), None)
        if injector is not None:
            found["injector_feed"] = (injector.plus, MINUS)
        if "coils" in found:
            found["coil_plus"] = (found["coils"][0], MINUS)
        found |= {"ground_pin": (ground, MINUS), "feed_drop": (PLUS, feed), "block_volts": (BLOCK, MINUS)}
        if "ignition_feed" in made:
            found["ignition"] = (made["ignition_feed"].wire.nets[1], MINUS)
        five = next((m.wire.nets[0] for key, m in made.items() if key.endswith("_5v")), None)
        if five is not None:
            found["five_volts"] = (five, ground)
        return found

    def read(self, wrong: Wrong, state: KeyState) -> dict[str, float]:
        """What a meter shows [V] in a state with faults in the harness. Raises NotConverged where it does not settle."""
        faults = faults_in(wrong, state)
        if not faults and state in self._sound:
            return self._sound[state]
        live, changes = self.with_faults(faults, state)
        u = live.metered(changes)
        found = {
            key: float(u[live.nodes[a]] - u[live.nodes[b]]) for key, (a, b) in self.places.items() if a in live.nodes and b in live.nodes
        }
        if state in ("idle", "full", "night"):
            found["charging"] = min(
                float(u[live.nodes[PLUS]] - u[live.nodes[MINUS]]), TIRED_V if any(f.uncharged for f in faults) else CHARGING_V
            )
        if not faults:
            self._sound[state] = found
        return found

    def with_faults(self, faults: Sequence[Fault], state: KeyState) -> tuple[Live, list[Change]]:
        """The harness in a state, and what faults change of it there."""
        live = self.live(state)
        if any(f.uncharged for f in faults):
            live = live.uncharged
        return live, [change for f in faults for change in f.changes(live) or ()]

    def across(self, name: StateName, volts: float) -> float:
        """Pressure across an injector [Pa] with the pump at some volts, in a state of the fuel system."""
        key = (name, round(volts, 2))
        if key not in self._rails:
            system, _ = self.electric.hydraulics[name]
            if volts < STOPS_V:
                self._rails[key] = 0.0
            else:
                self._rails[key] = max(float(system.solve(self.electric.fit, volts, 0.0).rail - system.mouth_pa), 0.0)
        return self._rails[key]

    def held(self, name: StateName, volts: float, sound: float) -> float:
        """The same [share of what it is with sound volts]; all of it where that is nothing."""
        whole = self.across(name, sound)
        return self.across(name, volts) / whole if whole > 0 else 1.0
