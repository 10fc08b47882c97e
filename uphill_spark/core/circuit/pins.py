"""Pins: every signal that ends at the control unit gets a pin, an assignment of least cost between signals and pins."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from scipy.optimize import linear_sum_assignment

from ..figures import Result
from ..given import Build
from ..reference import PinData, profiles
from .netlist import Circuit, Conductor

#: Kinds of pin that a signal may use, best first. A kind after the first is borrowed and recorded as such.
ACCEPTS = {"low_side": ("low_side", "injector"), "thermistor": ("thermistor", "analogue")}
_BORROWED, _WITHOUT, _IMPOSSIBLE = 100.0, 1e4, 1e6


class PinRow(Result):
    """A pin of the control unit and what ended up on it."""

    pin: str
    kind: str
    limit_a: float
    wires: list[str]
    borrowed: bool


@lru_cache(maxsize=16)
def _pins(profile: str) -> list[tuple[str, PinData]]:
    """Every pin of a control unit with its kind, in the sheet's order."""
    return [(name, group) for group in profiles()[profile].pins for name in group.pins]


def assign(build: Build, circuits: list[Circuit]) -> tuple[list[PinRow], list[str]]:
    """Pins with their wires, and labels of signals left without one; the "unit.?kind" ends of the circuits are named in place.

    Wires whose end carries the same "#tag" share a pin. Cost prefers the sheet's order; a borrowed kind costs more than any order.
    """
    pins = _pins(build.wiring.profile)
    signals: dict[str, tuple[str, list[Conductor]]] = {}
    for wire in (w for circuit in circuits for w in circuit.wires):
        for end in (wire.start, wire.end):
            if end.startswith("unit.?"):
                kind, _, tag = end.removeprefix("unit.?").partition("#")
                signals.setdefault(f"{kind}#{tag}" if tag else wire.key, (kind, []))[1].append(wire)
    chosen = _match(tuple(kind for kind, _ in signals.values()), build.wiring.profile)
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
def _match(kinds: tuple[str, ...], profile: str) -> tuple[int | None, ...]:
    """Pin number for each signal, or None. Earlier pins first, signals in their order; when pins run out the later signals go without."""
    pins = _pins(profile)
    n, m = len(kinds), len(pins)
    cost = np.full((n, m + n), _IMPOSSIBLE)
    for i, kind in enumerate(kinds):
        cost[i, m + i] = _WITHOUT - i  # a place of its own for going without: dearer for the earlier signal
        for rank, accepted in enumerate(ACCEPTS.get(kind, (kind,))):
            for j, (_, group) in enumerate(pins):
                if group.kind == accepted:
                    cost[i, j] = rank * _BORROWED + j * 1e-2 - i * j * 1e-7  # the product keeps signals in order along the pins
    _, columns = linear_sum_assignment(cost)
    return tuple(j if j < m else None for j in columns.tolist())
