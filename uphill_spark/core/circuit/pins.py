"""Pins: every signal that ends at the control unit gets a pin, an assignment of least cost between signals and pins."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from scipy.optimize import linear_sum_assignment

from ..figures import Result
from ..given import Build
from ..reference import PinData, profiles
from .netlist import Circuit, Conductor, bare_on_unit

#: Kinds of pin that a signal may use, best first. A kind after the first is borrowed and recorded as such.
ACCEPTS = {
    "low_side": ("low_side", "injector"),
    "thermistor": ("thermistor", "analogue"),
    "speed_input": ("speed_input", "cam_input", "analogue"),
}
_BORROWED, _WITHOUT, _IMPOSSIBLE, _BY_HAND = 100.0, 1e4, 1e6, -1e5


class PinRow(Result):
    """A pin of the control unit and what ended up on it."""

    pin: str
    kind: str
    limit_a: float
    wires: list[str]
    borrowed: bool


#: What a pump output bears [A] where its sheet tells nothing: a switched output, a relay inside.
PUMP_OUTPUT = {"high_side": 15.0, "relay_inside": 40.0}
_SPARE_12V, _HEATER, _BRIDGE = 1.0, 5.0, 10.0  # A


def _told(build: Build) -> tuple[tuple[str, str, float], ...]:
    """Pins that the unit's own sheet tells of beyond those of its profile: name, kind, limit [A]."""
    u = build.wiring.unit
    found: list[tuple[str, str, float]] = []
    if u.pump_output in PUMP_OUTPUT:
        limit = u.pump_limit.si if u.pump_limit is not None else PUMP_OUTPUT[u.pump_output]
        found.append(("PUMP", "pump_output", limit))
        if u.pump_output == "relay_inside":
            found.append(("PUMP30", "pump_supply", limit))
    found += [(f"12V{k + 1}", "twelve_volt", _SPARE_12V) for k in range(u.spare_12v or 0)]
    found += [(f"5V{k + 1}", "five_volt", 0.1) for k in range(u.spare_5v or 0)]
    if u.oxygen == "inside":
        found.append(("HEAT", "heater", _HEATER))
    if u.bridge == "inside":
        found += [("M+", "bridge_plus", _BRIDGE), ("M-", "bridge_minus", _BRIDGE)]
    return tuple(found)


#: What pins of a kind bear [A] where their sheet says nothing.
USUAL_LIMIT = {"feed": 15.0, "power_ground": 15.0, "ignition_feed": 1.0, "injector": 3.0, "low_side": 1.0, "coil_power": 10.0, "pump_output": 15.0, "pump_supply": 40.0, "heater": 5.0, "bridge_plus": 10.0, "bridge_minus": 10.0, "twelve_volt": 1.0}  # fmt: skip
_SIGNAL = 0.1  # A, of all others
Own = tuple[tuple[str, str, float], ...]


def _own(build: Build) -> Own:
    """The pin table of the unit's own sheet: name, kind, limit [A]."""
    rows = build.wiring.unit.pins
    return tuple((row.pin, row.kind, row.limit.si if row.limit is not None else USUAL_LIMIT.get(row.kind, _SIGNAL)) for row in rows)


@lru_cache(maxsize=64)
def _pins(profile: str, power_stage: bool, told: tuple[tuple[str, str, float], ...], own: Own) -> list[tuple[str, PinData]]:
    """Every pin of a control unit with its kind, in the sheet's order, those that its own sheet tells of last. With a power stage inside, coil outputs are no logic."""
    if own:
        return [(name, PinData(kind=kind, pins=[name], limit=limit)) for name, kind, limit in own]
    found = []
    for group in profiles()[profile].pins:
        kind = "coil_power" if power_stage and group.kind == "coil_logic" else group.kind
        made = group if kind == group.kind else group.model_copy(update={"kind": kind, "limit": COIL_POWER})
        found += [(name, made) for name in group.pins]
    return found + [(name, PinData(kind=kind, pins=[name], limit=limit)) for name, kind, limit in told]


COIL_POWER = 10.0  # A at the peak, of a power stage inside a control unit


def assign(build: Build, circuits: list[Circuit]) -> tuple[list[PinRow], list[str]]:
    """Pins with their wires, and labels of signals left without one; the "unit.?kind" ends of the circuits are named in place.

    Wires whose end carries the same "#tag" share a pin. Cost prefers the sheet's order; a borrowed kind costs more than any order.
    """
    key = (build.wiring.profile, bare_on_unit(build), _told(build), _own(build))
    pins = _pins(*key)
    signals: dict[str, tuple[str, list[Conductor]]] = {}
    for wire in (w for circuit in circuits for w in circuit.wires):
        for end in (wire.start, wire.end):
            if end.startswith("unit.?"):
                kind, _, tag = end.removeprefix("unit.?").partition("#")
                signals.setdefault(f"{kind}#{tag}" if tag else wire.key, (kind, []))[1].append(wire)
    by_hand = build.wiring.unit.chosen
    wanted = tuple(next((by_hand[w.key] for w in wires if w.key in by_hand), None) for _, wires in signals.values())
    chosen = _match(tuple(kind for kind, _ in signals.values()), wanted, key)
    on: dict[str, list[str]] = {}
    named: dict[str, str] = {}
    short: list[str] = []
    borrowed: set[str] = set()
    for (kind, wires), index in zip(signals.values(), chosen, strict=True):
        if index is None:
            short.extend(w.label for w in wires)
        for wire in wires:
            named[wire.key] = "unit.none" if index is None else f"unit.{pins[index][0]}"
        if index is not None:
            on[pins[index][0]] = [w.key for w in wires]
            if pins[index][1].kind != kind:
                borrowed.add(pins[index][0])
    rows = [
        PinRow(pin=name, kind=group.kind, limit_a=group.limit, wires=on.get(name, []), borrowed=name in borrowed) for name, group in pins
    ]
    for wire in (w for circuit in circuits for w in circuit.wires):
        if wire.key in named:
            wire.start, wire.end = (named[wire.key] if end.startswith("unit.?") else end for end in (wire.start, wire.end))
    return rows, short


@lru_cache(maxsize=256)
def _match(kinds: tuple[str, ...], wanted: tuple[str | None, ...], key: tuple[str, bool, Own, Own]) -> tuple[int | None, ...]:
    """Pin number for each signal, or None. A pin `wanted` by hand is held where its kind fits. Earlier pins first, signals in their order; when pins run out the later signals go without."""
    pins = _pins(*key)
    n, m = len(kinds), len(pins)
    cost = np.full((n, m + n), _IMPOSSIBLE)
    for i, kind in enumerate(kinds):
        cost[i, m + i] = _WITHOUT - i  # a place of its own for going without: dearer for the earlier signal
        for rank, accepted in enumerate(ACCEPTS.get(kind, (kind,))):
            for j, (_, group) in enumerate(pins):
                if group.kind == accepted:
                    by_hand = _BY_HAND if pins[j][0] == wanted[i] else 0.0
                    cost[i, j] = by_hand + rank * _BORROWED + j * 1e-2 - i * j * 1e-7  # the product keeps signals in order along the pins
    _, columns = linear_sum_assignment(cost)
    return tuple(j if j < m else None for j in columns.tolist())
