"""A variable-reluctance sensor: volts go with speed and fall away with the gap; below what the input switches at there is no speed, and no start."""

from __future__ import annotations

import math

from ...given.trigger import Trigger

#: Peak volts for each rev/s of a common sensor over a 36-tooth wheel at no gap, and the gap [m] over which they fall to a third (makers' usual curves).
VOLTS_PER_SPEED = 0.55
FALLS_OVER = 0.75e-3
USUAL_GAP = 0.8e-3


def strength(t: Trigger) -> float:
    """Peak volts [V s] for each rev/s of the crank at the gap as it is: from the spin test where one was made, else usual for a wheel of so many teeth."""
    gap = mean_gap(t)
    if t.spin is not None and t.spin.volts is not None and t.spin.speed is not None:
        return math.sqrt(2) * t.spin.volts.si / t.spin.speed.si
    return VOLTS_PER_SPEED * t.teeth / 36 * math.exp(-gap / FALLS_OVER)


def mean_gap(t: Trigger) -> float:
    """Mean of the gaps measured [m]; a usual one where none was."""
    read = t.gaps_read
    return sum(read) / len(read) if read else USUAL_GAP


def no_start_speed(t: Trigger) -> float:
    """Speed [rev/s] below which the input does not switch, at the widest place round the wheel."""
    widest = max(t.gaps_read, default=mean_gap(t))
    return t.threshold.si / (strength(t) * math.exp(-(widest - mean_gap(t)) / FALLS_OVER))


def peak(t: Trigger, speed: float, gap: float) -> float:
    """Peak volts at a speed [rev/s] and a gap [m]."""
    return strength(t) * speed * math.exp(-(gap - mean_gap(t)) / FALLS_OVER)
