"""Arithmetic that takes many numbers side by side or one: the same equations then run for a thousand lanes at once, or for one as fast as plain numbers go (an array of one number costs twenty times as much)."""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

_lists: dict[
    int, tuple[Any, list[float]]
] = {}  # rows that were read before, as lists; the row itself is held, so that its number stays its own


def where(when: Any, this: Any, other: Any) -> Any:
    """`this` [any unit] where it is so, else `other`."""
    if isinstance(when, bool):
        return this if when else other
    return np.where(when, this, other)


def maximum(a: Any, b: Any) -> Any:
    """The larger [any one unit]."""
    if isinstance(a, float) and isinstance(b, (float, int)):
        return a if a > b else b
    return np.maximum(a, b)


def minimum(a: Any, b: Any) -> Any:
    """The smaller [any one unit]."""
    if isinstance(a, float) and isinstance(b, (float, int)):
        return a if a < b else b
    return np.minimum(a, b)


def within(value: Any, low: float | None, high: float | None) -> Any:
    """A value [any one unit] held between two ends; the library's own asks more questions of small arrays than it does arithmetic."""
    if isinstance(value, float):
        return low if low is not None and value < low else high if high is not None and value > high else value
    held = value if low is None else np.maximum(value, low)
    return held if high is None else np.minimum(held, high)


def no(so: Any) -> Any:
    """Whether it is not so."""
    return not so if isinstance(so, bool) else ~so


def isnan(value: Any) -> Any:
    """Whether there is no number [any unit]."""
    return value != value


def exp(value: Any) -> Any:
    """e to the power of a number [1]."""
    return math.exp(value) if isinstance(value, float) else np.exp(value)


def exp2(value: Any) -> Any:
    """Two to the power of a number [1]."""
    return 2.0**value if isinstance(value, float) else np.exp2(value)


def sqrt(value: Any) -> Any:
    """The root [root of any unit]."""
    return math.sqrt(value) if isinstance(value, float) else np.sqrt(value)


def cos(value: Any) -> Any:
    """The cosine of an angle [rad]."""
    return math.cos(value) if isinstance(value, float) else np.cos(value)


def num(value: Any) -> NDArray[np.float64]:
    """A number, or an array of numbers [any unit]: told as an array, as which it is meant."""
    return value if type(value) is float else float(value) if isinstance(value, (float, bool, int)) else np.asarray(value, dtype=np.float64)  # type: ignore[return-value]


def listed(row: Any) -> Sequence[float]:
    """A row of numbers [any unit] as a list, made once."""
    if isinstance(row, (list, tuple)):
        return row
    known = _lists.get(id(row))
    if known is None or known[0] is not row:
        known = _lists[id(row)] = (row, [float(v) for v in row])
    return known[1]


def interp(x: Any, xs: Any, ys: Any) -> Any:
    """A curve read between its points [any units], held at its ends."""
    if not isinstance(x, float):
        return np.interp(x, xs, ys)
    across, up = listed(xs), listed(ys)
    if x <= across[0]:
        return up[0]
    if x >= across[-1]:
        return up[-1]
    k = bisect_right(across, x) - 1
    return up[k] + (up[k + 1] - up[k]) * (x - across[k]) / (across[k + 1] - across[k])


def place(x: float, xs: Sequence[float]) -> tuple[int, float]:
    """Where a number [any one unit] lies on an axis: the cell, and how far into it (0 to 1)."""
    if x <= xs[0]:
        return 0, 0.0
    if x >= xs[-1]:
        return len(xs) - 2, 1.0
    k = bisect_right(xs, x) - 1
    return k, (x - xs[k]) / (xs[k + 1] - xs[k])
