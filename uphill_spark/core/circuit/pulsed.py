"""Currents that come in pulses: their average for the alternator, their effective value for heat and fuse, their peak for the drop.

Pulses of several alike, spread evenly over their period, add where they overlap; fired together they add whole.
"""

from __future__ import annotations

import math
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Draw:
    """What something draws [A]: average, effective (root of the mean square), peak."""

    average: float
    effective: float
    peak: float

    @classmethod
    def steady(cls, amps: float) -> Draw:
        """A current that does not pulse."""
        return cls(amps, amps, amps)

    def __add__(self, other: Draw) -> Draw:
        """Both on one wire: effective values are added as they are, which is the most that they can come to."""
        return Draw(self.average + other.average, self.effective + other.effective, self.peak + other.peak)


NOTHING = Draw(0.0, 0.0, 0.0)


def squares(amps: float, share: float, many: int, *, together: bool) -> Draw:
    """`many` that draw `amps` for a share of the time, spread evenly or all together.

    >>> squares(1.0, 0.25, 4, together=False)
    Draw(average=1.0, effective=1.0, peak=1.0)
    >>> squares(1.0, 0.25, 4, together=True)
    Draw(average=1.0, effective=2.0, peak=4.0)
    """
    share = min(max(share, 0.0), 1.0)
    average = many * share * amps
    if together:
        return Draw(average, many * amps * math.sqrt(share), many * amps if share else 0.0)
    low = math.floor(many * share + 1e-12)
    part = max(many * share - low, 0.0)
    effective = amps * math.sqrt((1 - part) * low**2 + part * (low + 1) ** 2)
    return Draw(average, effective, amps * (low + (part > 1e-12)))


def ramps(amps: float, share: float, many: int) -> Draw:
    """`many` coils that charge in a ramp to `amps` for a share of the time, spread evenly: one alone has I d / 2, I sqrt(d / 3) and I.

    >>> one = ramps(6.0, 0.75, 1)
    >>> round(one.average, 9), round(one.effective, 9), one.peak
    (2.25, 3.0, 6.0)
    """
    share = min(max(share, 0.0), 1.0)
    if share == 0.0:
        return NOTHING
    square = sum(_together(share, min(k / many, 1 - k / many)) + _wrapped(share, k / many) for k in range(many))
    peak = sum(max(1 - k / many / share, 0.0) for k in range(many))
    return Draw(many * amps * share / 2, amps * math.sqrt(many * square), amps * peak)


def _together(share: float, lag: float) -> float:
    """Mean of the product of two ramps over a period, the second later by a lag of at most half of it, without what comes round."""
    both = share - lag
    return (both**3 / 3 + lag * both**2 / 2) / share**2 if both > 0 else 0.0


def _wrapped(share: float, lag: float) -> float:
    """What of that comes round from the other side."""
    other = max(lag, 1 - lag)
    both = share - other
    return (both**3 / 3 + other * both**2 / 2) / share**2 if both > 0 and lag > 0 else 0.0
