"""The solved harness as a plain circuit file that any simulator of that family reads: resistors, the posts, what each load draws.

Element names are ours with their kind before them; a load stands as the current that it draws in balance, so that every node can be held against ours.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from ..core.circuit.electric import Electric
from ..core.circuit.netlist import MINUS
from ..core.circuit.states import ORDER, STATES, KeyState
from ..core.physics.network import LEAK, LEAST_OHMS


def node(name: str) -> str:
    """A terminal's name as a node: battery minus is node 0."""
    return "0" if name == MINUS else re.sub(r"[^a-z0-9_]", "_", name.lower())


def write(electric: Electric, state: KeyState, title: str) -> str:
    """The circuit file of one state."""
    return "\n".join([*_lines(electric, state, title), ""])


def _lines(electric: Electric, state: KeyState, title: str) -> Iterator[str]:
    k = ORDER.index(state)
    yield f"* {re.sub(r'[^ -~]', ' ', title)[:80]}: {STATES[state].word}"
    yield "* V battery and the unit's own 5 V, R wires, joints and resistors in ohm, I what each load draws in balance"
    for post, volts in electric.held.items():
        if post != MINUS:
            yield f"V{node(post)} {node(post)} 0 DC {volts[k]:.12g}"
    for s in electric.sources:
        if s.on[k]:
            inner = f"{node(s.plus)}_behind"
            yield f"V{node(s.plus)} {inner} {node(s.minus)} DC {s.volts:.12g}"
            yield f"R{inner} {inner} {node(s.plus)} {s.ohms:.12g}"
    for key, b in electric.branches:
        if b.closed[k] and node(b.a) != node(b.b):
            yield f"R{node(key)} {node(b.a)} {node(b.b)} {max(b.ohms, LEAST_OHMS):.12g}"
    for load in electric.netlist.loads:
        j = electric.loads.get(load.key)
        if j is not None and (amps := float(electric.solution.amps[k, j])):
            yield f"I{node(load.key)} {node(load.plus)} {node(load.minus)} DC {amps:.12g}"
    for name in electric.solution.nodes:
        if name not in electric.held:
            yield f"Rleak_{node(name)} {node(name)} 0 {1 / LEAK:.6g}"
    yield ".op"
    yield ".end"
