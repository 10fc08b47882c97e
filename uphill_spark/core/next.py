"""What to do next: acts, the one first that clears or settles most for its minutes.

Stops first, the engine's before all others, then what has to be known before the key is turned, then the measurement under most verdicts that stand on pencil, then the order of work,
then the steps of the first start. Minutes are usual ones of a person who has the tools beside him, for ranking and for an evening's plan.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from typing import Literal

from .figures import Result
from .findings import Finding, holding
from .given.fields import called
from .stages.start import StartResult
from .stations import BY_KEY, ORDER, StationKey, bench_of

#: How many are told.
MOST = 8
#: Minutes to measure or look up one value, and values after which another evening begins.
READING, AN_EVENING = 5, 12
_NAMED = 3  # values told by name

Kind = Literal["clear", "settle", "measure", "mend", "sign"]


class Act(Result):
    """One thing to do: clear a Stop, settle what must be known, measure what is in pencil, mend, or sign a step. `at` is the place in the build where it is entered,
    `clears` how many findings it clears, settles or takes off pencil."""

    kind: Kind
    says: str
    why: str
    station: StationKey
    bench: str
    at: str
    clears: int
    minutes: int


def acts(findings: Sequence[Finding], start: StartResult) -> list[Act]:
    """The next acts, best first, `MOST` at most."""
    held = holding(findings)
    found = _ranked([f for f in held if f.severity == "stop"], "clear")
    found += _ranked([f for f in held if f.severity != "stop"], "settle")
    found += _measured(findings)
    rest = [f for f in findings if f.severity in ("sort_out", "unknown", "watch") and f not in held and f.overruled is None]
    found += [_act("mend" if f.severity != "unknown" else "settle", [f]) for f in sorted(rest, key=lambda f: ORDER.index(f.station))]
    step = next((s for s in start.steps if not s.done), None)
    if not held and step is not None:
        at = f"/start/steps/{step.number}"
        found.append(
            Act(kind="sign", says=f"Step {step.number}: {step.title}", why="Nothing holds the first start.", station="start", bench="steps", at=at, clears=1, minutes=BY_KEY["start"].minutes)
        )  # fmt: skip
    return found[:MOST]


def _ranked(findings: Sequence[Finding], kind: Kind) -> list[Act]:
    """One act a place: the engine first, for nothing else holds on one that is not fit; then what clears most for its minutes, then the order of work."""
    by_place: defaultdict[str, list[Finding]] = defaultdict(list)
    for f in findings:
        by_place[f.at].append(f)
    found = [_act(kind, group) for group in by_place.values()]
    return sorted(found, key=lambda a: (a.station != "engine", -a.clears / a.minutes, ORDER.index(a.station)))


def _act(kind: Kind, group: Sequence[Finding]) -> Act:
    f = group[0]
    station, bench = bench_of(f.at)
    says = f.do or (f"{f.settle[0].upper()}{f.settle[1:]}." if f.settle else f"See to it: {f.title.lower()}.")
    return Act(kind=kind, says=says, why=f.why, station=station, bench=bench, at=f.at, clears=len(group), minutes=BY_KEY[station].minutes)


def _measured(findings: Sequence[Finding]) -> list[Act]:
    """One act a bench that has values in pencil under something sound: a person with the tape in hand measures what is there."""
    resting: defaultdict[tuple[StationKey, str], Counter[str]] = defaultdict(Counter)
    verdicts: defaultdict[tuple[StationKey, str], set[tuple[str, str]]] = defaultdict(set)
    for f in findings:
        if f.severity == "sound_if":
            for place in f.rests_on:
                resting[bench_of(place)][place] += 1
                verdicts[bench_of(place)].add((f.code, f.at))
    found = []
    for (station, bench), places in resting.items():
        names = list(dict.fromkeys(called(place) for place, _ in places.most_common()))
        told = ", ".join(names[:_NAMED]) + (f" and {len(names) - _NAMED} more" if len(names) > _NAMED else "")
        many = len(verdicts[station, bench])
        found.append(
            Act(
                kind="measure",
                says=f"Measure, or state: {told}.",
                why=f"{many} {'verdict rests' if many == 1 else 'verdicts rest'} on what nobody measured here.",
                station=station,
                bench=bench,
                at=places.most_common(1)[0][0],
                clears=many,
                minutes=READING * min(len(places), AN_EVENING),
            )
        )
    return sorted(found, key=lambda a: (-a.clears / a.minutes, ORDER.index(a.station)))
