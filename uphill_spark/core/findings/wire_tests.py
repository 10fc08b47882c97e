"""WIRE-18: the test sheet. What fails is told with the faults that would show it, likeliest first."""

from __future__ import annotations

from collections.abc import Iterator

from ..circuit.faults import Taken, Tester
from ..circuit.netlist import MINUS, terminal_name
from ..circuit.states import STATES
from ..stages.wiring.tested import CONTINUITY, TestRow
from ..worked import Worked
from .base import Finding, Say, check

_CAUSES = 3


@check(
    "WIRE-18",
    "/wiring/tests",
    "The test sheet",
    source="volts from the solve of the whole harness; ohms end to end",
    rests=("wiring.unit.volts.run", "/wiring/feed/taken_from"),
)
def sheet(w: Worked, say: Say) -> Iterator[Finding]:
    rows = w.wiring.tests
    typed = [r for r in rows if r.wire in w.build.wiring.tests]
    if not typed:
        return
    failed = [r for r in typed if r.verdict == "fail"]
    for row in failed:
        yield from _failed(w, say, row)
    for row in typed:
        if row.covered and row.verdict != "fail":
            yield say("sort_out", f"{row.label.capitalize()} is {'hidden' if row.stage == 'hidden' else 'wrapped'} and not tested.", "Test it before it is covered: end to end, no short, volts by position of the key.", at=f"/wiring/tests/{row.wire}/stage")  # fmt: skip
    done = sum(r.verdict == "pass" for r in rows)
    if not failed and not any(r.covered for r in typed):
        yield say("sound" if done == len(rows) else "note", f"{done} of {len(rows)} wires are tested and pass.")


def _failed(w: Worked, say: Say, row: TestRow) -> Iterator[Finding]:
    at, word = f"/wiring/tests/{row.wire}", row.label.capitalize()
    if row.short == "fail":
        grounded = w.build.wiring.tests[row.wire].short == "to_ground"
        yield say("stop", f"{word} has a short to {'ground' if grounded else 'another wire'}.", "Do not fuse it. Find where it chafes: at clips, holes and crimps, battery disconnected.", at=f"{at}/short")  # fmt: skip
    if row.continuity == "fail" and row.continuity_ohm is not None:
        yield say("sort_out", f"{word} has {row.continuity_ohm:.3g} Ω end to end; {CONTINUITY:g} Ω is the most.", "Its crimps first, then the wire: bend it along its length while the meter is on.", at=f"{at}/continuity")  # fmt: skip
    wrong = [v for v in row.volts if v.verdict == "fail" and v.read_v is not None]
    if wrong:
        worst = max(wrong, key=lambda v: abs((v.read_v or 0.0) - v.expected_v))
        yield say(
            "sort_out",
            f"{word}: {worst.read_v:.2f} V at {terminal_name(row.far)}, {STATES[worst.state].word}; {worst.expected_v:.2f} V should be there.",
            _likeliest(w, row) if w.drawn else "Measure at the plugs before it.",
            at=f"{at}/volts/{worst.state}",
        )  # fmt: skip


def _likeliest(w: Worked, row: TestRow) -> str:
    """What would show such volts, in words: worked out where somebody reads it, since no verdict rests on it."""
    readings = [Taken(red=row.far, black=MINUS, state=v.state, volts=v.read_v) for v in row.volts if v.read_v is not None]
    causes = Tester(w.circuit, near=row.wire).explain(readings).suspects[:_CAUSES]
    if not causes:
        return "No single fault of its circuit shows that: measure at the plugs before it."
    return f"Likeliest: {'; or '.join(c.label for c in causes if c.key != 'sound')}."
