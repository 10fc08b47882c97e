"""Volts at the things that matter in every position of the key, what charges and what is drawn, and how long a battery lasts asleep."""

from __future__ import annotations

from ...circuit.electric import Electric
from ...circuit.netlist import BLOCK, MINUS, PLUS
from ...circuit.states import ORDER, STATES, KeyState
from ...circuit.supply import alternator
from ...figures import Result
from ...given import Build

HALF = 0.5  # of what it holds, down to which a starter battery may be emptied and still start
_DAY_H = 24.0


class StateRow(Result):
    """A position of key and engine: volts at the battery's posts, at what was asked for [V], what is drawn and what charges [A], what is left over [A]; how far the block sits up [V]."""

    key: KeyState
    word: str
    posts_v: float
    unit_v: float | None
    pump_v: float | None
    coils_v: float | None
    injectors_v: float | None
    drawn_a: float
    charges_a: float | None
    balance_a: float | None
    rise_v: float
    let_go: list[str]


def rows(build: Build, circuit: Electric) -> list[StateRow]:
    """Every state, in the order in which a key and an engine pass through them."""
    return [_row(build, circuit, key) for key in ORDER]


def _row(build: Build, circuit: Electric, state: KeyState) -> StateRow:
    drawn, charges = circuit.drawn_a[state], alternator(build, state)
    injector = next((load.key for load in circuit.netlist.loads if load.kind == "injector"), "")
    return StateRow(
        key=state,
        word=STATES[state].word,
        posts_v=circuit.volts(PLUS, state),
        unit_v=_across(circuit, "unit", state),
        pump_v=_across(circuit, "pump", state),
        coils_v=_across(circuit, "coils", state),
        injectors_v=_across(circuit, injector, state),
        drawn_a=drawn,
        charges_a=charges,
        balance_a=None if charges is None else charges - drawn,
        rise_v=circuit.volts(BLOCK, state, MINUS),
        let_go=sorted(circuit.gone[state]),
    )


def _across(circuit: Electric, load: str, state: KeyState) -> float | None:
    return max(circuit.across(load, state), 0.0) if load in circuit.loads else None


def memory_days(build: Build) -> float | None:
    """Days [d] until the battery is half empty with everything off; None where its size or what it gives then was not told."""
    b = build.wiring.battery
    if b.capacity is None or b.asleep is None or b.asleep.si <= 0:
        return None
    return b.capacity * HALF / b.asleep.si / _DAY_H
