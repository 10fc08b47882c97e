"""What holds a contact shut: a relay's coil by its own volts, an output of the control unit by the unit being awake. Found by the solve, not assumed."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple

from .branches import FIVE
from .netlist import Netlist
from .states import STATES, KeyState, Switched

#: V across a relay's coil under which it does not pull in, and under which one that is in lets go (usual relays of 12 V by their sheets, warm).
PULLS_IN, LETS_GO = 8.0, 4.5
AWAKE = 6.0  # V between its feed and its ground, and at its ignition input, under which a control unit is not awake
#: Relays whose coil lies beside another's.
_BESIDE = {"coil_relay": "main_relay", "oxygen_relay": "main_relay", "lift_relay": "pump_relay"}
_INSIDE = (".driver", "unit.pump_contact", "unit.twelve_volt", "unit.bridge_plus")


class Holds(NamedTuple):
    """A joint, the terminals whose volts hold it shut, the least [V] for that with the engine still, and while it turns."""

    joint: str
    plus: str
    minus: str
    still_v: float
    turning_v: float
    when: Switched | None

    def least(self, state: KeyState) -> float:
        """The least volts [V] in a state: a relay that was pulled in with the key holds on less while the starter turns."""
        return self.still_v if STATES[state].engine == "still" else self.turning_v


def holding(netlist: Netlist) -> list[Holds]:
    """Everything that is held shut."""
    return list(_holding(netlist))


def _holding(netlist: Netlist) -> Iterator[Holds]:
    without = {
        w.key for w in netlist.conductors if w.end == "unit.none"
    }  # no pin was left for it: told as that, and planned as if there were one
    coils = {load.plus.removesuffix(".86") for load in netlist.loads if load.kind == "relay_coil"}
    coils = {coil for coil in coils if f"{coil}_coil" not in without}
    awake = [(load.plus, load.minus) for load in netlist.loads if load.key in ("unit", "ignition_input")]
    for link in netlist.links:
        relay = link.key.removesuffix(".contact")
        coil = _BESIDE.get(relay, relay)
        if relay != link.key and coil in coils:
            yield Holds(link.key, f"{coil}.86", f"{coil}.85", PULLS_IN, LETS_GO, link.when)
        elif link.key.endswith(_INSIDE):
            for plus, minus in awake:
                yield Holds(link.key, plus, minus, AWAKE, AWAKE, link.when)
    for plus, minus in awake:
        yield Holds(FIVE, plus, minus, AWAKE, AWAKE, "main")


def let_go(held: list[Holds], state: KeyState, volts: Callable[[str, str], float]) -> set[str]:
    """The joints that are not held, by the volts between terminals in a state."""
    return {h.joint for h in held if volts(h.plus, h.minus) < h.least(state)}
