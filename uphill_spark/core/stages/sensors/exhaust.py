"""Where the oxygen sensor may sit: stretches of the exhaust that are straight, after all pipes of the bank join, hot enough but not too hot, with pipe after them."""

from __future__ import annotations

import math
from collections.abc import Callable

from ...figures import Result
from ...given.sensors import OxygenSensor

#: Pipe from the ports [m] that cools the gas enough for most heated cells (makers' usual figures: 600 to 900 mm); the part's own sheet wins.
COOLS = 0.60
#: After the merge [m] the gas of all cylinders has mixed; farther on, or so much farther than heat alone asks for, it comes late and cool.
MIXED, LATE, ASIDE = 0.05, 0.25, 0.60
TAIL = 0.45  # m of pipe that keeps outside air from washing back
OFF_BEND = 0.06  # m clear of a bend: the gas has turned
LOWEST, HIGHEST = 10.0, 80.0  # degrees above level: water runs off, and heat that rises does not stand in it; 10 to 45 are best


class Piece(Result):
    """A stretch as it lies: distance from the ports [m], and the running sum of bends before it [deg], for drawing from the side."""

    begins_m: float
    ends_m: float
    heading_deg: float
    bend_deg: float
    what: str


class Misplaced(Result):
    """Why a sensor's place is wrong: a sentence with a gap for each of its lengths [m]."""

    says: str
    lengths_m: tuple[float, ...]

    def told(self, tell: Callable[[float], str]) -> str:
        """The sentence, each length [m] told by `tell`."""
        return self.says.format(*map(tell, self.lengths_m))


class Limits(Result):
    """Between which distances [m from the ports] and angles [deg above level] the sensor may sit, and whether its own sheet says so."""

    heat_m: float
    nearest_m: float
    farthest_m: float
    lowest_deg: float
    highest_deg: float
    by_sheet: bool


class ExhaustResult(Result):
    """The way, where the sensor may sit [m from the ports], where it sits, and what is wrong with that."""

    pieces: list[Piece]
    length_m: float
    merge_m: float | None
    catalyst_m: float | None
    allowed_m: list[tuple[float, float]]
    limits: Limits
    distance_m: float | None
    clock_deg: float | None
    wrong: list[Misplaced]


def work_out(o: OxygenSensor) -> ExhaustResult:
    """The exhaust of an oxygen sensor, and the verdict on its place."""
    pieces: list[Piece] = []
    at, heading = 0.0, 0.0
    merge: float | None = None
    catalyst: float | None = None
    side = 1.0
    for s in o.path:
        if s.length is None:
            break  # what lies behind a stretch of unknown length lies nowhere
        if s.what == "catalyst" and catalyst is None:
            catalyst = at
        ends = at + s.length.si
        # Bends alternate, as a pipe does that has to come out level at the back.
        turn = side * s.bend.si
        side = -side if s.bend.si > 0 else side
        pieces.append(Piece(begins_m=at, ends_m=ends, heading_deg=heading, bend_deg=s.bend.si, what=s.what))
        if s.what == "merge":
            merge = ends
        at, heading = ends, heading + turn
    limits = _limits(o, merge or 0.0)
    allowed = _allowed(pieces, at, limits, catalyst) if pieces else []
    distance = o.distance.si if o.distance else None
    clock = o.clock.si if o.clock else None
    return ExhaustResult(
        pieces=pieces, length_m=at, merge_m=merge, catalyst_m=catalyst, allowed_m=allowed, limits=limits, distance_m=distance, clock_deg=clock,
        wrong=_wrong(pieces, at, merge, catalyst, distance, clock, limits),
    )  # fmt: skip


def _limits(o: OxygenSensor, merge: float) -> Limits:
    """Limits for a place: by the part's sheet, else by how the pipe cools what passes. Heat is counted from the ports, mixing from the merge [m]."""
    heat = o.nearest.si if o.nearest is not None else COOLS
    nearest = max(merge + (MIXED if merge else 0.0), heat)
    return Limits(
        heat_m=heat, nearest_m=nearest, farthest_m=o.farthest.si if o.farthest is not None else max(merge + LATE, nearest + ASIDE),
        lowest_deg=o.clock_least.si if o.clock_least is not None else LOWEST, highest_deg=o.clock_most.si if o.clock_most is not None else HIGHEST,
        by_sheet=any(x is not None for x in (o.nearest, o.farthest, o.clock_least, o.clock_most)),
    )  # fmt: skip


def _allowed(pieces: list[Piece], length: float, limits: Limits, catalyst: float | None) -> list[tuple[float, float]]:
    """Stretches that meet every rule, longest pieces whole."""
    low, high = limits.nearest_m, min(limits.farthest_m, length - TAIL, catalyst if catalyst is not None else math.inf)
    found = []
    for i, p in enumerate(pieces):
        if p.what in ("catalyst", "silencer", "flexible", "merge"):
            continue
        bent_before = i > 0 and pieces[i - 1].bend_deg > 0
        start = max(p.begins_m + (OFF_BEND if bent_before else 0.0), low)
        end = min(p.ends_m - (OFF_BEND if p.bend_deg > 0 else 0.0), high)
        if end - start > 0.01:
            found.append((start, end))
    return found


def _wrong(
    pieces: list[Piece],
    length: float,
    merge: float | None,
    catalyst: float | None,
    distance: float | None,
    clock: float | None,
    limits: Limits,
) -> list[Misplaced]:
    wrong: list[Misplaced] = []

    def say(says: str, *lengths: float) -> None:
        wrong.append(Misplaced(says=says, lengths_m=lengths))

    if clock is not None and clock < limits.lowest_deg:
        say(
            f"it points {abs(clock):.0f}° below level, so water stands in it and cracks it"
            if clock < 0
            else f"at {clock:.0f}° above level water stays in it; {limits.lowest_deg:.0f}° at least"
        )
    elif clock is not None and clock > limits.highest_deg:
        say(f"at {clock:.0f}° above level heat stands in it; {limits.highest_deg:.0f}° at most")
    if distance is None or not pieces:
        return wrong
    after = distance - (merge or 0.0)
    here = next((p for p in pieces if p.begins_m <= distance <= p.ends_m), None)
    if distance > length:
        say("it sits beyond the tail")
    elif length - distance < TAIL:
        say("only {} of pipe follow it, so outside air washes back and reads lean; {} at least", length - distance, TAIL)
    if merge is not None and after < 0:
        say("it sits before all pipes of the bank join and sees one cylinder")
    elif merge is not None and after < MIXED:
        say("it sits {} after the merge, before what the pipes bring has mixed; {} at least", after, MIXED)
    if distance < limits.heat_m and after >= 0:
        say("only {} of pipe from the ports cool the gas: too hot; {} at least", distance, limits.heat_m)
    elif distance > limits.farthest_m:
        say("it sits {} from the ports: late and cool; {} at most on this pipe", distance, limits.farthest_m)
    if catalyst is not None and distance > catalyst:
        say("it sits after the catalyst, which hides what the engine burnt")
    if here is not None and here.what in ("silencer", "flexible"):
        say(f"it sits in the {here.what.replace('flexible', 'flexible pipe')}")
    k = pieces.index(here) if here is not None else -1
    if here is not None and (
        (here.bend_deg > 0 and here.ends_m - distance < OFF_BEND)
        or (k > 0 and pieces[k - 1].bend_deg > 0 and distance - here.begins_m < OFF_BEND)
    ):
        say("it sits in a bend, where the gas crowds to one side")
    return wrong
