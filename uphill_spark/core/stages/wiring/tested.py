"""The test sheet: for each wire what should be read of it, from the solve, and whether what was read is that."""

from __future__ import annotations

from functools import lru_cache
from typing import Literal

import numpy as np

from ...circuit.conductors import Made
from ...circuit.electric import Electric
from ...circuit.netlist import MINUS
from ...circuit.states import ORDER, STATES, KeyState
from ...figures import Result
from ...given import Build
from ...given.harness import Stage, WireTest

CONTINUITY = 0.5  # ohm, the most end to end that an ohmmeter may show
#: V that a reading may be off: a rested battery differs from car to car, less where its own volts were measured; an alternator's regulator more.
OFF_PLANNED, OFF_MEASURED, OFF_CHARGING, OFF_SHARE = 0.6, 0.25, 0.7, 0.02
_NOT_HELD = ("_output", "_trigger", "_signal")  # ends that pulse or that a sensor moves: no steady volts to hold a meter to
_COVERED: tuple[Stage, ...] = ("hidden", "wrapped")

Verdict = Literal["pass", "fail", "open"]


class VoltsRow(Result):
    """Volts expected at a wire's far end in a state, what was read, and by how much it may be off [V]."""

    state: KeyState
    expected_v: float
    read_v: float | None
    off_v: float
    verdict: Verdict


class TestRow(Result):
    """A wire on the test sheet. `far` is the end at which volts are read."""

    __test__ = False  # what runs tests is not to take it for one

    wire: str
    label: str
    near: str
    far: str
    stage: Stage
    continuity_ohm: float | None
    continuity: Verdict
    short: Verdict
    volts: list[VoltsRow]
    verdict: Verdict
    covered: bool


def rows(build: Build, circuit: Electric) -> list[TestRow]:
    """Every wire, in the order in which it is printed."""
    tests, far = build.wiring.tests, [far_end(m) for m in circuit.made.values()]
    nodes, u = circuit.solution.nodes, circuit.solution.u
    expected = u[:, [nodes[end] for end in far]] - u[:, [nodes[MINUS]]]
    least = np.array([_least(build, state) for state in ORDER])[:, None]
    off = least * np.clip(np.abs(expected) / 6.0, 0.4, 1.0) + OFF_SHARE * np.abs(expected)
    shown, may = np.round(expected, 3).T.tolist(), np.round(off, 3).T.tolist()
    return [
        _row(m, end, tests.get(key, _UNTESTED), volts, offs)
        for (key, m), end, volts, offs in zip(circuit.made.items(), far, shown, may, strict=True)
    ]


_UNTESTED = WireTest()
_READ_IN = [(k, state) for k, state in enumerate(ORDER) if state not in ("accessory", "night")]


def _row(m: Made, far: str, test: WireTest, expected: list[float], off: list[float]) -> TestRow:
    volts = [] if m.wire.key.endswith(_NOT_HELD) else [_volts(state, expected[k], off[k], test) for k, state in _READ_IN]
    ohms = test.continuity.si if test.continuity is not None else None
    continuity: Verdict = "open" if ohms is None else "pass" if ohms <= CONTINUITY else "fail"
    short: Verdict = "open" if test.short is None else "pass" if test.short == "none" else "fail"
    all_of = [continuity, short, *(v.verdict for v in volts if v.read_v is not None)]
    verdict: Verdict = "fail" if "fail" in all_of else "pass" if continuity == short == "pass" else "open"
    return TestRow(
        wire=m.wire.key, label=m.wire.label, near=m.wire.start, far=far, stage=test.stage, continuity_ohm=ohms, continuity=continuity, short=short,
        volts=volts, verdict=verdict, covered=test.stage in _COVERED and verdict != "pass",
    )  # fmt: skip


def _volts(state: KeyState, expected: float, off: float, test: WireTest) -> VoltsRow:
    read = test.volts.get(state)
    return _judged(state, expected, off, None if read is None else read.si)


@lru_cache(maxsize=8192)
def _judged(state: KeyState, expected: float, off: float, read: float | None) -> VoltsRow:
    """One position of the key. Frozen, and most stay as they are from one edit to the next."""
    verdict: Verdict = "open" if read is None else "pass" if abs(read - expected) <= off else "fail"
    return VoltsRow(state=state, expected_v=expected, read_v=read, off_v=off, verdict=verdict)


def far_end(m: Made) -> str:
    """The terminal at which a wire's volts are read: its end away from the battery; of a ground the end at the part."""
    a, b = m.wire.nets
    return a if b == MINUS or m.wire.key.endswith("_ground") else b


def _least(build: Build, state: KeyState) -> float:
    """By how much [V] a reading may be off in a state, at least, where whole volts are expected."""
    planned = OFF_MEASURED if build.wiring.battery.rest is not None else OFF_PLANNED
    return planned if STATES[state].engine in ("still", "cranking") else OFF_CHARGING
