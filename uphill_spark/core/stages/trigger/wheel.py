"""The wheel as it turns: its edges over two turns of the crank, tooth and gap widths, and what a control unit can tell it by."""

from __future__ import annotations

import math
from typing import NamedTuple

from ...figures import Result
from ...given.trigger import Trigger

#: Least tooth and gap that a Hall cell switches on and off over [m]; a variable-reluctance tip wants its own width (makers' usual figures).
HALL_LEAST = 4e-3
TIP_USUAL = 5e-3
TOOTH_SHARE = 0.5  # of the pitch, where the wheel was not measured


class Tooth(NamedTuple):
    """A tooth (or window) in crank degrees: where it begins and ends, counted from the first tooth after the gap as it passes the sensor."""

    begins: float
    ends: float


class SyncCase(Result):
    """One place at which the unit could take its bearings: the turn, phase events seen in the turn before it, and how many places look the same."""

    turn: int
    gap_deg: float
    phase_events: int | None
    alike: int


def cycle(t: Trigger) -> float:
    """Crank degrees [deg] in which the wheel repeats itself: one turn of the crank, or of the distributor."""
    return 720.0 if t.on == "distributor" else 360.0


def teeth_of(t: Trigger) -> list[Tooth]:
    """Every tooth of the wheel, once round, in crank degrees."""
    gear = cycle(t) / 360.0
    if t.pattern == "windows":
        first = min(w.opens.si for w in t.windows)
        rows = sorted(t.windows, key=lambda w: w.opens.si)
        return [Tooth((w.opens.si - first) * gear, (w.opens.si - first + w.width.si) * gear) for w in rows]
    pitch = cycle(t) / t.teeth
    half = TOOTH_SHARE * pitch / 2
    found = [Tooth(k * pitch - half, k * pitch + half) for k in range(t.teeth - t.missing)]
    if t.pattern == "added":  # the one more sits half way to the next
        found.insert(1, Tooth(pitch / 2 - half / 2, pitch / 2 + half / 2))
        found[0] = Tooth(-half / 2, half / 2)
    return found


def degrees_per_tooth(t: Trigger) -> float:
    """Crank degrees [deg] from one tooth to the next; of windows, on average."""
    return cycle(t) / (len(t.windows) if t.pattern == "windows" else t.teeth)


def gap_after(t: Trigger) -> tuple[float, float]:
    """The long gap in crank degrees [deg], from the end of the tooth before it to the beginning of the tooth after: empty where there is none."""
    rows = teeth_of(t)
    spaces = [((rows[i + 1].begins if i + 1 < len(rows) else rows[0].begins + cycle(t)) - row.ends, row.ends) for i, row in enumerate(rows)]
    widest = max(s for s, _ in spaces)
    if widest <= 1.2 * sorted(s for s, _ in spaces)[len(spaces) // 2]:
        return (0.0, 0.0)
    start = next(at for s, at in spaces if s == widest)
    return (start, start + widest)


def pitch_m(t: Trigger) -> float | None:
    """Tooth to tooth on the rim [m]."""
    if t.diameter is None:
        return None
    return math.pi * t.diameter.si / (len(t.windows) if t.pattern == "windows" else t.teeth + (t.pattern == "added"))


def least_pitch_m(t: Trigger) -> float:
    """Pitch [m] that the sensor needs: tooth and space each as wide as it can tell."""
    return 2 * (HALL_LEAST if t.sensor == "hall" else t.tip.si if t.tip else TIP_USUAL)


def same_places(t: Trigger) -> int:
    """How many places round the wheel look alike: 1 where number one can be told from the wheel alone."""
    rows = teeth_of(t)
    n, whole = len(rows), cycle(t)
    shape = [
        (round(r.ends - r.begins, 6), round((rows[(i + 1) % n].begins + (whole if i + 1 == n else 0)) - r.ends, 6))
        for i, r in enumerate(rows)
    ]
    return sum(shape[k:] + shape[:k] == shape for k in range(n))


def gives_phase(t: Trigger) -> bool:
    """Whether the wheel itself tells the two turns of a cycle apart: one that turns with the distributor and looks the same from one place only."""
    return t.on == "distributor" and same_places(t) == 1


def phase_starts(t: Trigger) -> list[float]:
    """Where phase events begin [crank deg after number one's top], none where that is not known."""
    if t.phase is None or t.phase.at is None:
        return []
    return [(t.phase.at.si + k * 720.0 / t.phase.events) % 720.0 for k in range(t.phase.events)]


def sync_cases(t: Trigger, angle: float | None) -> list[SyncCase]:
    """Every place in the cycle [deg], at a trigger angle [deg], at which the wheel shows its mark, with the phase events of the turn before it: places that look the same cannot be told apart."""
    if angle is None:
        return []
    end = gap_after(t)[1]
    turns = 1 if t.on == "distributor" else 2
    seen: list[tuple[int, float, int | None]] = []
    for turn in range(turns):
        at = (turn * 360.0 - angle + end) % 720.0  # the first tooth after the gap, degrees after top
        events = sum((at - start) % 720.0 < 720.0 / turns for start in phase_starts(t)) if t.phase and t.phase.at else None
        seen.append((turn + 1, at, events))
    places = same_places(t)
    return [SyncCase(turn=turn, gap_deg=at, phase_events=n, alike=places * sum(m == n for _, _, m in seen)) for turn, at, n in seen]


def phase_allowed(t: Trigger, angle: float | None) -> list[tuple[float, float]]:
    """Stretches of the 720 degrees [deg], at a trigger angle [deg], in which the phase event may come: clear of the long gap by one tooth on either side."""
    if angle is None:
        return []
    start, end = gap_after(t)
    if end <= start:
        return [(0.0, 720.0)]
    margin = degrees_per_tooth(t)
    whole = cycle(t)
    shut = sorted((k * whole + start - angle - margin) % 720.0 for k in range(round(720 / whole)))
    width = end - start + 2 * margin
    return [((s + width) % 720.0, shut[(i + 1) % len(shut)]) for i, s in enumerate(shut)]
