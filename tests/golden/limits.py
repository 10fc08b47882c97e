"""Where findings turn: for every quantity of the demo cars, the values on both sides of each limit that it crosses, half a per cent apart.

`python -m tests.golden limits` finds them by bisection, which takes minutes; the test works out both sides of each, which takes seconds. So a limit
that moves by more than that is noticed, whichever finding it stands in.
"""

from __future__ import annotations

import itertools
import re
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

from tests.golden import document
from tests.leaves import NOT_VALUES, at, leaves, with_sections_of, with_value
from uphill_spark import demo
from uphill_spark.core.errors import BuildError, NotConverged
from uphill_spark.core.findings import judge
from uphill_spark.core.given import parse
from uphill_spark.core.given.fields import FieldInfo, info_at
from uphill_spark.core.given.pencil import pencilled
from uphill_spark.core.reads import Recall
from uphill_spark.core.units import DIMENSIONS, from_si, si, unit_of
from uphill_spark.core.worked import FiguresAsAsked, Worked, work_out

FOLDER = Path(__file__).parent
APART = 0.005  # of the value, how close the two sides of a limit are brought
#: Rows of a table after the second turn the same findings.
LATER_ROW = re.compile(r"/(?:curve|dead_time|points|box|bench|teeth|flows)/(?:[2-9]|\d\d)(?:/|$)")
#: The demo cars, and two of the others: under pressure, and thin air with another fuel.
CARS = (*demo.NAMES, "blown_six", "mountain_coupe")
_STEPS = 12  # of a count, up and down
_SHARES = (0.0, 0.02, 0.05, 0.1, 0.2, 0.35, 0.5, 0.7, 0.85, 1.0)  # of the field's range
_TIMES = (0.5, 0.8, 0.9, 0.95, 0.98, 1.0, 1.02, 1.05, 1.1, 1.25, 2.0)  # of what stands there

Said = dict[tuple[str, str, str], int]


def said(worked: Worked) -> Said:
    """How often each finding stands with each severity and at each kind of place."""
    found: Said = {}
    for f in judge(Recall(worked), FiguresAsAsked(worked), pencilled(worked.build)):
        key = (f.code, "sound" if f.severity == "sound_if" else f.severity, f.at.rpartition("/")[2] if f.at.count("/") < 3 else "")
        found[key] = found.get(key, 0) + 1
    return found


def turned(a: Said, b: Said) -> str:
    """What is said on one side and not on the other."""
    moved = {(code, severity) for code, severity, _ in a.keys() | b.keys()}
    rows = []
    for code, severity in sorted(moved):
        n, m = (sum(v for k, v in s.items() if k[:2] == (code, severity)) for s in (a, b))
        if n != m:
            rows.append(f"{code} {severity} {n}>{m}")
    return ", ".join(rows)


class Car:
    """A demo car whose quantities are turned up and down, one at a time."""

    def __init__(self, name: str) -> None:
        self.doc = document(name)
        self.worked = work_out(parse(self.doc), drawn=False)

    def said_with(self, pointer: str, value: str | int) -> Said | None:
        """What is said with another value; None where that would be no build."""
        try:
            build = with_sections_of(self.worked.build, with_value(self.doc, pointer, value), pointer)
            return said(work_out(build, self.worked, drawn=False))
        except (BuildError, NotConverged):
            return None

    def turns(self, pointer: str) -> Iterator[str]:
        """Each limit that a field crosses, as a line."""
        info, there = info_at(pointer), at(self.doc, pointer)
        if isinstance(there, int) and not isinstance(there, bool):
            counts = range(there - _STEPS, there + _STEPS)
            told = [(n, s) for n in counts if (s := self.said_with(pointer, n)) is not None]
            for (n, a), (m, b) in itertools.pairwise(told):
                if m == n + 1 and turned(a, b):
                    yield f"{pointer} | {n} | {m} | {turned(a, b)}"
            return
        if info is None or info.kind != "quantity" or not isinstance(there, str):
            return
        scale = Scale(info, there)
        known = [(x, s) for x in scale.looked_at() if (s := self.said_with(pointer, scale.written(x))) is not None]
        for (low, a), (high, b) in itertools.pairwise(known):
            if not turned(a, b):
                continue
            while high - low > scale.apart(low, high):
                middle = (low + high) / 2
                s = self.said_with(pointer, scale.written(middle))
                if s is None:
                    break
                if turned(a, s):
                    high, b = middle, s
                else:
                    low, a = middle, s
            else:
                yield f"{pointer} | {scale.written(low)} | {scale.written(high)} | {turned(a, b)}"


class Scale:
    """A field's values as numbers and as they are written."""

    def __init__(self, info: FieldInfo, there: str) -> None:
        dimension = info.dimension or ""
        self.ratio = dimension == "ratio"
        self.unit = "" if self.ratio else unit_of(there) if unit_of(there) in ("degC", "gauge") else DIMENSIONS[dimension].si_unit
        self.unit = {"m**2": "mm**2", "revolution/s": "rpm", "dimensionless": "1"}.get(self.unit, self.unit)
        self.low, self.high = (self._number(si(x or "", dimension)) for x in (info.at_least, info.at_most))
        self.now = self._number(si(there, dimension))

    def _number(self, value: float) -> float:
        return value if self.ratio else from_si(value, self.unit)

    def looked_at(self) -> list[float]:
        """Values to look at, in their order."""
        shares = {self.low + (self.high - self.low) * s for s in _SHARES}
        return sorted(x for x in shares | {self.now * t for t in _TIMES} if self.low <= x <= self.high)

    def written(self, x: float) -> str:
        return f"{x:.9g}" + ("" if "." in f"{x:.9g}" else ".0") if self.ratio else f"{x:.9g} {self.unit}"

    def apart(self, low: float, high: float) -> float:
        return max(APART * max(abs(low), abs(high)), (self.high - self.low) * 1e-6)


def found(name: str) -> list[str]:
    """Every turn of a car."""
    car = Car(name)
    return [
        line
        for pointer in leaves(car.doc)
        if not pointer.startswith(NOT_VALUES) and not LATER_ROW.search(pointer)
        for line in car.turns(pointer)
    ]


def write() -> None:
    """Find them all anew."""
    with ProcessPoolExecutor() as pool:
        for name, lines in zip(CARS, pool.map(found, CARS), strict=True):
            (FOLDER / f"{name}.limits.txt").write_text("\n".join(lines) + "\n")


def kept(name: str) -> list[tuple[str, str | int, str | int, str]]:
    """The turns that were found last: pointer, value below, value above, what turns."""
    rows = (row.split(" | ") for row in (FOLDER / f"{name}.limits.txt").read_text().splitlines())
    return [(a, _value(b), _value(c), d) for a, b, c, d in rows]


def _value(text: str) -> str | int:
    return int(text) if re.fullmatch(r"-?\d+", text) else text
