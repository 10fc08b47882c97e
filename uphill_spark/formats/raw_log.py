"""A log as it came out of a file: columns by the names that they had there, seconds, and every line that could not be read."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from ..core.errors import FormatError
from ..core.live import QUANTITIES
from ..core.physics.air import Array

LARGEST = 600_000_000  # bytes of a file, packed or not
ROWS_MOST, COLUMNS_MOST = 5_000_000, 240
BROKEN_TOLD = 200  # lines that are kept word for word; the others are counted
BACK_MOST = 0.02  # of the rows, in which a clock may go back, before it is no clock


@dataclass(frozen=True)
class Broken:
    """A line or block that could not be read: its number in the file, counted from 1, what stood there, and why it is not a row."""

    line: int
    text: str
    why: str


@dataclass
class RawLog:
    """Seconds, and columns of numbers with their names and units as they stood; lines that were no rows (word for word, the first of them, and how many in all); cells that were no numbers; what was noticed, in words."""

    time: Array
    names: list[str]
    units: list[str]
    columns: list[Array]
    broken: list[Broken] = field(default_factory=list)
    broken_count: int = 0
    cells_lost: int = 0
    notes: list[str] = field(default_factory=list)

    @property
    def rows(self) -> int:
        """How many rows."""
        return len(self.time)


def of_quantities(found: Mapping[str, Array]) -> RawLog:
    """Columns by quantity, with their clock as "time", as a log: each called by the word of its quantity."""
    keys = [key for key in QUANTITIES if key in found]
    return RawLog(
        found["time"],
        [QUANTITIES[k].word for k in keys],
        [QUANTITIES[k].unit for k in keys],
        [np.asarray(found[k], dtype=np.float64) for k in keys],
    )


def named_once(names: list[str]) -> tuple[list[str], list[str]]:
    """Names, each once: what stands twice gets a number behind; those that did."""
    seen: dict[str, int] = {}
    found, twice = [], []
    for k, name in enumerate(names):
        plain = " ".join(name.split())[:80] or f"column {k + 1}"
        seen[plain] = seen.get(plain, 0) + 1
        if seen[plain] > 1:
            twice.append(plain)
            plain = f"{plain} ({seen[plain]})"
        found.append(plain)
    return found, twice


def clocked(time: Array, what: str, line_of: np.ndarray | None = None) -> tuple[Array, np.ndarray, list[str]]:
    """A clock that never goes back: seconds from the first row, the rows in that order, what was noticed. One that begins again is taken on. Raises FormatError for one that runs backwards."""
    notes: list[str] = []
    there = np.isfinite(time)
    if not there.any():
        raise FormatError(f"The column {what!r} holds no time that can be read. Seconds, 12:34:56.7, or a date with a time will do.")
    rows = np.flatnonzero(there)
    if len(rows) < len(time):
        notes.append(f"{len(time) - len(rows):,} rows without a time are left out.")
    t = time[rows].astype(np.float64)
    back = np.flatnonzero(np.diff(t) < 0)
    if len(back) > max(BACK_MOST * len(t), 3):
        line = int(line_of[rows[back[0] + 1]]) if line_of is not None else int(rows[back[0] + 1]) + 1
        raise FormatError(
            f"Time runs backwards in {len(back):,} of {len(t):,} rows, first at line {line:,}: {what!r} is no clock, or the rows are not in order. Sort them by time, or choose another column."
        )
    if len(back):
        every = float(np.median(np.diff(t)[np.diff(t) > 0])) if (np.diff(t) > 0).any() else 0.1
        shift = np.zeros(len(t))
        for k in back:
            shift[k + 1 :] += t[k] - t[k + 1] + max(every, 1e-3) + 5.0
        t = t + shift
        lines = [int(line_of[rows[k + 1]]) if line_of is not None else int(rows[k + 1]) + 1 for k in back[:3]]
        notes.append(
            f"The clock begins again {len(back)} time{'s' if len(back) > 1 else ''} (first at line {lines[0]:,}): taken as another stretch, five seconds after."
        )
    same = int((np.diff(t) == 0).sum())
    if same > 0.5 * len(t):
        raise FormatError(f"The column {what!r} stands still in most rows: it is no clock.")
    return np.asarray(t - t[0], dtype=np.float64), rows, notes
