"""The test sheet: for each wire what should be read of it, from the solve, and whether what was read is that."""

from __future__ import annotations

from typing import Literal, NamedTuple

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


class Volts(NamedTuple):
    """Volts expected at a wire's far end in a state, what was read, and by how much it may be off [V]."""

    state: KeyState
    expected_v: float
    read_v: float | None
    off_v: float
    verdict: Verdict


class TestRow(Result):
    """A wire on the test sheet. `far` is the end at which volts are read. Volts expected and by how much they may be off [V], by position of the key as in `READ_IN`;
    what was read and how that is judged, empty where nothing was."""

    __test__ = False  # what runs tests is not to take it for one

    wire: str
    label: str
    far: str
    stage: Stage
    continuity_ohm: float | None
    continuity: Verdict
    short: Verdict
    expected_v: list[float]
    off_v: list[float]
    read_v: list[float | None]
    verdicts: list[Verdict]
    verdict: Verdict
    covered: bool

    @property
    def volts(self) -> list[Volts]:
        """The same by position of the key."""
        read = self.read_v or [None] * len(self.expected_v)
        said = self.verdicts or ["open"] * len(self.expected_v)
        return [Volts(*row) for row in zip(READ_IN, self.expected_v, read, self.off_v, said, strict=True)] if self.expected_v else []


#: Positions of the key in which a wire is read.
READ_IN: tuple[KeyState, ...] = tuple(key for key in ORDER if key not in ("accessory", "night"))
_AT = [ORDER.index(key) for key in READ_IN]


def rows(build: Build, circuit: Electric) -> list[TestRow]:
    """Every wire, in the order in which it is printed."""
    tests, far = build.wiring.tests, [far_end(m) for m in circuit.made.values()]
    nodes, u = circuit.solution.nodes, circuit.solution.u[_AT]
    expected = u[:, [nodes[end] for end in far]] - u[:, [nodes[MINUS]]]
    least = np.array([_least(build, state) for state in READ_IN])[:, None]
    off = least * np.clip(np.abs(expected) / 6.0, 0.4, 1.0) + OFF_SHARE * np.abs(expected)
    shown, may = np.round(expected, 3).T.tolist(), np.round(off, 3).T.tolist()
    return [
        _row(m, end, tests.get(key, _UNTESTED), volts, offs)
        for (key, m), end, volts, offs in zip(circuit.made.items(), far, shown, may, strict=True)
    ]


_UNTESTED = WireTest()


def _row(m: Made, far: str, test: WireTest, expected: list[float], off: list[float]) -> TestRow:
    if m.wire.key.endswith(_NOT_HELD):
        expected, off = [], []
    read: list[float | None] = (
        [v.si if (v := test.volts.get(state)) is not None else None for state in READ_IN] if test.volts and expected else []
    )
    verdicts = [_judged(v, want, by) for v, want, by in zip(read, expected, off, strict=True)] if read else []
    ohms = test.continuity.si if test.continuity is not None else None
    continuity: Verdict = "open" if ohms is None else "pass" if ohms <= CONTINUITY else "fail"
    short: Verdict = "open" if test.short is None else "pass" if test.short == "none" else "fail"
    verdict: Verdict = "fail" if "fail" in (continuity, short, *verdicts) else "pass" if continuity == short == "pass" else "open"
    return TestRow(
        wire=m.wire.key, label=m.wire.label, far=far, stage=test.stage, continuity_ohm=ohms, continuity=continuity, short=short, expected_v=expected, off_v=off, read_v=read,
        verdicts=verdicts, verdict=verdict, covered=test.stage in _COVERED and verdict != "pass",
    )  # fmt: skip


def _judged(read: float | None, expected: float, off: float) -> Verdict:
    return "open" if read is None else "pass" if abs(read - expected) <= off else "fail"


def far_end(m: Made) -> str:
    """The terminal at which a wire's volts are read: its end away from the battery; of a ground the end at the part."""
    a, b = m.wire.nets
    return a if b == MINUS or m.wire.key.endswith("_ground") else b


def _least(build: Build, state: KeyState) -> float:
    """By how much [V] a reading may be off in a state, at least, where whole volts are expected."""
    planned = OFF_MEASURED if build.wiring.battery.rest is not None else OFF_PLANNED
    return planned if STATES[state].engine in ("still", "cranking") else OFF_CHARGING
