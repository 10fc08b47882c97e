"""A meter on the harness: volts, ohms and amps between any two terminals, in any position of the key, with the control unit's plug on or off.

A voltmeter draws through its own resistance, so that a wire that hangs in the air reads nothing, as it does on the car.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

import numpy as np

from ..figures import Result
from ..physics.network import LEAK
from .electric import Electric
from .joints import FIELD_OHM
from .live import UNIT, Change, Live, stamp
from .netlist import BLOCK, MINUS, PLUS, terminal_name
from .states import STATES, SYSTEM_VOLTS, KeyState

OPEN_OHM = 1e6  # ohm, from which on an ohmmeter shows that the way is open
RINGS = 30.0  # ohm, under which a buzzer sounds: it proves a path, and nothing of what the path can carry
SHUNT_OHM, METER_FUSE_A = 0.01, 10.0  # inside a meter that is set to amps, and the fuse that goes where it is put across a battery

Quantity = Literal["volts", "ohms", "amps"]


class Reading(Result):
    """What a meter shows: volts [V] of red against black, ohms between them, or amps [A] through it; None where the way is open or its fuse goes. `says` tells it
    in words, `proves` what that proves."""

    red: str
    black: str
    state: KeyState
    quantity: Quantity
    plugged: bool
    value: float | None
    says: str
    proves: str


def resistance(electric: Electric, red: str, black: str, *, plugged: bool = False) -> float | None:
    """What an ohmmeter shows [ohm] with the key off and the battery off: None where the way is open.

    Motors and coils are read as their windings: usual volts over the most that they draw. Electronics, and what a solenoid shuts off, let nothing through.
    """
    live = Live(electric, "off", plugged=plugged)
    n = len(live.nodes)
    g = np.zeros((n, n))
    for key, (a, b) in live.ends.items():
        if key.startswith("battery."):  # it is off
            continue
        stamp(g, live.nodes[a], live.nodes[b], 1 / live.ohms[key])
    for a, b, ohms in _windings(electric):
        if a in live.nodes and b in live.nodes and (plugged or not a.startswith(UNIT)):
            stamp(g, live.nodes[a], live.nodes[b], 1 / ohms)
    g[np.arange(n), np.arange(n)] += LEAK
    d = np.zeros(n)
    d[live.nodes[red]] += 1.0
    d[live.nodes[black]] -= 1.0
    found = float(d @ np.linalg.solve(g, d))
    return None if found > OPEN_OHM else found


def _windings(electric: Electric) -> Iterable[tuple[str, str, float]]:
    i, coil = electric.build.injectors, electric.build.ignition.coil
    for load in electric.netlist.loads:
        if load.kind == "injector":
            yield load.plus, load.minus, (i.resistance.si + i.ballast.si) / load.count
        elif load.kind == "coils":
            yield load.plus, load.minus, coil.resistance.si / load.count
        elif load.kind in ("pump", "lift", "fan"):
            yield load.plus, load.minus, SYSTEM_VOLTS / max(electric.most[load.key].average, 1e-3)
    yield "alternator.exciter", BLOCK, FIELD_OHM


def amps(live: Live, red: str, black: str) -> float | None:
    """What a meter set to amps shows [A] with its leads on two terminals; None where its own fuse goes."""
    u = live.potentials([Change(red, black, 1 / SHUNT_OHM)])
    found = float(u[live.nodes[red]] - u[live.nodes[black]]) / SHUNT_OHM
    return found if abs(found) <= METER_FUSE_A else None


def read(electric: Electric, red: str, black: str, state: KeyState, quantity: Quantity = "volts", *, plugged: bool = True) -> Reading:
    """A reading between two terminals. Ohms are read with the key and the battery off, whatever the state. Raises KeyError for a terminal that is not there."""
    if quantity == "ohms":
        value, state = resistance(electric, red, black, plugged=plugged), "off"
        rings = " The buzzer sounds." if value is not None and value < RINGS else ""
        says = (
            f"{terminal_name(red)} to {terminal_name(black)}: {'open' if value is None else f'{value:.3g} Ω'}, key and battery off.{rings}"
        )
        proves = (
            "that there is a path, and nothing of what it can carry or of the position of the key."
            if value is not None
            else "that no path leads there, or a contact on it is at rest."
        )
    elif quantity == "amps":
        value = amps(Live(electric, state, plugged=plugged), red, black)
        shown = f"more than {METER_FUSE_A:g} A: its own fuse goes" if value is None else f"{value:.3g} A"
        says = f"{terminal_name(red)} to {terminal_name(black)}, through the meter: {shown}, {STATES[state].word}."
        proves = "what passes between two open ends, a fuse's blades or a relay's 30 and 87. Never across a feed and its ground; a clamp round one wire instead where more may flow."
    else:
        value = Live(electric, state, plugged=plugged).volts(red, black)
        says = f"{terminal_name(red)} against {terminal_name(black)}: {value:.3f} V, {STATES[state].word}."
        proves = "what is there, with what hangs on it now. Of a wire with nothing on it, only with a 21 W lamp as load: ten megohms hide a bad joint."
    return Reading(red=red, black=black, state=state, quantity=quantity, plugged=plugged, value=value, says=says, proves=proves)


def terminals(electric: Electric) -> list[str]:
    """Every terminal that a lead can be put on: the ends of wires as they are printed, fuses behind their blade, the posts, the head."""
    ends = {end for m in electric.made.values() for end in (m.wire.start, m.wire.end, *m.wire.nets)} & set(electric.solution.nodes)
    return sorted(ends | {PLUS, MINUS}, key=lambda name: (_way(name), name.partition(".")[0], *counted(name)))


#: Parts in the order in which current passes them.
_ON_THE_WAY = (
    "battery",
    "fuse",
    "ignition_switch",
    "main_relay",
    "pump_relay",
    "lift_relay",
    "coil_relay",
    "oxygen_relay",
    "fan_relay",
    "unit",
    "pump",
    "lift",
    "coils",
    "splice_injectors",
)


def _way(name: str) -> int:
    part = name.partition(".")[0]
    return _ON_THE_WAY.index(part) if part in _ON_THE_WAY else len(_ON_THE_WAY) + (part in ("head", "body"))


def counted(name: str) -> tuple[str, int, str]:
    """A pin so that A2 comes before A10, and plus before minus."""
    part, _, pin = name.partition(".")
    letters = pin.rstrip("0123456789")
    number = int(pin[len(letters) :] or 0)
    return ({"plus": "0", "minus": "1"}.get(letters, letters), number, part)
