"""The test sheet: for each wire what should be read of it, from the solve, and whether what was read is that."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

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
    tests = build.wiring.tests
    return [_row(build, circuit, m, tests.get(key, _UNTESTED)) for key, m in circuit.made.items()]


_UNTESTED = WireTest()


def _row(build: Build, circuit: Electric, m: Made, test: WireTest) -> TestRow:
    volts = list(_volts(build, circuit, m, test))
    ohms = test.continuity.si if test.continuity is not None else None
    continuity: Verdict = "open" if ohms is None else "pass" if ohms <= CONTINUITY else "fail"
    short: Verdict = "open" if test.short is None else "pass" if test.short == "none" else "fail"
    all_of = [continuity, short, *(v.verdict for v in volts if v.read_v is not None)]
    verdict: Verdict = "fail" if "fail" in all_of else "pass" if continuity == short == "pass" else "open"
    return TestRow(
        wire=m.wire.key, label=m.wire.label, near=m.wire.start, far=far_end(m), stage=test.stage, continuity_ohm=ohms, continuity=continuity, short=short,
        volts=volts, verdict=verdict, covered=test.stage in _COVERED and verdict != "pass",
    )  # fmt: skip


def far_end(m: Made) -> str:
    """The terminal at which a wire's volts are read: its end away from the battery; of a ground the end at the part."""
    a, b = m.wire.nets
    return a if b == MINUS or m.wire.key.endswith("_ground") else b


def _volts(build: Build, circuit: Electric, m: Made, test: WireTest) -> Iterator[VoltsRow]:
    if m.wire.key.endswith(_NOT_HELD):
        return
    for state in ORDER:
        if state in ("accessory", "night"):
            continue
        expected, read = circuit.volts(far_end(m), state), test.volts.get(state)
        off = _off(build, state, expected)
        verdict: Verdict = "open" if read is None else "pass" if abs(read.si - expected) <= off else "fail"
        yield VoltsRow(
            state=state, expected_v=round(expected, 3), read_v=read.si if read is not None else None, off_v=round(off, 3), verdict=verdict
        )


def _off(build: Build, state: KeyState, expected: float) -> float:
    planned = OFF_MEASURED if build.wiring.battery.rest is not None else OFF_PLANNED
    least = planned if STATES[state].engine in ("still", "cranking") else OFF_CHARGING
    return least * min(1.0, max(abs(expected) / 6.0, 0.4)) + OFF_SHARE * abs(expected)
