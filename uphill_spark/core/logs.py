"""A log as it is looked at: seconds, and a column for each quantity that was taken from it. What is missing is not a number."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from .live import Quantity
from .physics.air import Array

Mask = NDArray[np.bool_]
RUNS_OVER, CRANKS_TO = 450.0, 400.0  # rpm, over which an engine runs by itself, and up to which a starter turns it
GAP = 2.0  # s between two rows, from where on they are no one stretch


@dataclass(frozen=True)
class Log:
    """A log: `time` [s] rising, `columns` by quantity, each in that quantity's unit and as long as `time`."""

    time: Array
    columns: Mapping[Quantity, Array]

    def __post_init__(self) -> None:
        if any(len(column) != len(self.time) for column in self.columns.values()):
            raise ValueError("the columns of a log differ in length")

    @property
    def rows(self) -> int:
        """How many rows."""
        return len(self.time)

    def __contains__(self, key: Quantity) -> bool:
        return key in self.columns

    def get(self, key: Quantity) -> Array:
        """A column [its unit]; one that was not logged has no numbers."""
        found = self.columns.get(key)
        return np.full(self.rows, np.nan) if found is None else found

    @cached_property
    def every(self) -> float:
        """Time between two rows [s], as a rule."""
        return float(np.median(np.diff(self.time))) if self.rows > 1 else 0.1

    @cached_property
    def lasts(self) -> Array:
        """Seconds for which each row stands: nothing for one before a gap."""
        if self.rows < 2:
            return np.zeros(self.rows)
        step = np.diff(self.time, append=self.time[-1])
        return np.where(step > GAP, self.every, step)

    @cached_property
    def running(self) -> Mask:
        """Where the engine runs by itself."""
        return np.nan_to_num(self.get("speed")) > RUNS_OVER

    @cached_property
    def mixture(self) -> Array:
        """Lambda of both banks together, where there are two."""
        one, other = self.get("lambda"), self.get("lambda_2")
        return np.where(np.isfinite(one) & np.isfinite(other), (one + other) / 2, np.where(np.isfinite(one), one, other))

    @cached_property
    def _filled(self) -> dict[Quantity, Array]:
        return {}

    def filled(self, key: Quantity) -> Array:
        """A column with what is missing held from the row before; what is missing at its beginning from the first that is there. Asked for by every part of a reading, so it is made once: not to be written into."""
        if key not in self._filled:
            self._filled[key] = self._held(self.get(key))
        return self._filled[key]

    def _held(self, column: Array) -> Array:
        there = np.isfinite(column)
        if there.all() or not there.any():
            return column
        last = np.maximum.accumulate(np.where(there, np.arange(self.rows), -1))
        last[last < 0] = int(np.argmax(there))
        return column[last]


def stretches(mask: Mask) -> list[tuple[int, int]]:
    """Where it is so, as stretches of rows [from, to)."""
    edges = np.flatnonzero(np.diff(np.concatenate(([False], mask, [False])).astype(np.int8)))
    return [(int(a), int(b)) for a, b in zip(edges[::2], edges[1::2], strict=True)]
