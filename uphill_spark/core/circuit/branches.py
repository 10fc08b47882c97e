"""The netlist as resistors and sources: what is put to the solver, to the meter, and into a circuit file. One home for all three."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache

from ..physics.network import Branch, Source
from ..reference import devices
from .conductors import Made
from .netlist import UNIT_FIVE, UNIT_GROUND, Netlist
from .states import FIVE_VOLT, ORDER, STATES, SYSTEM_VOLTS, KeyState
from .supply import Supply

FIVE = "unit.five_volt"  # the key by which that supply lets go
FIVE_OHM = 0.5  # ohm, behind which the control unit's 5 V stand
#: Joints that have let go, by state: a relay whose coil does not get its volts.
Gone = Mapping[KeyState, frozenset[str]]


@cache
def on(when: str | None) -> tuple[bool, ...]:
    """In which states, in their order, something is switched on."""
    return tuple(when is None or when in STATES[k].on for k in ORDER)


def branches(netlist: Netlist, made: Mapping[str, Made], supply: Supply, gone: Gone) -> list[tuple[str, Branch]]:
    """Every resistor [ohm] by the name of what it is: wires, joints, and loads that are resistors behind the word load."""
    always = (True,) * len(ORDER)
    found = [*supply.branches(), *((key, Branch(*m.wire.nets, m.ohms, always)) for key, m in made.items())]
    found += [(link.key, Branch(link.a, link.b, link.ohms, on(link.when))) for link in netlist.links]
    for load in netlist.loads:
        data = devices().load[load.kind]
        if data.law == "resistance":
            found.append((f"load.{load.key}", Branch(load.plus, load.minus, SYSTEM_VOLTS / data.amps, on(load.when))))
    if any(gone.values()):
        found = [
            (key, b._replace(closed=tuple(c and key not in gone[k] for c, k in zip(b.closed, ORDER, strict=True)))) for key, b in found
        ]
    return found


def sources(supply: Supply, gone: Gone) -> list[Source]:
    """The control unit's own 5 V [V, ohm], which goes when it is not awake; what a spent alternator gives."""
    awake = tuple(c and FIVE not in gone[k] for c, k in zip(on("main"), ORDER, strict=True))
    return [Source(UNIT_FIVE, UNIT_GROUND, FIVE_VOLT, FIVE_OHM, awake), *supply.sources()]
