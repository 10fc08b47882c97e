"""What to do next: acts, the one first that clears or settles most for its minutes.

Stops first, the engine's before all others, then the benches at which something has to be known before the key is turned, then those at which most verdicts stand on pencil or wait, then
what is to be mended in the order of work, then the steps of the first start. A bench is visited once: what is not known there and what is in pencil there are one act. Minutes are usual ones of a person who has the tools beside him, for ranking and for an evening's plan.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from typing import Literal, cast

from .figures import Result
from .findings import Finding, holding
from .given.fields import called
from .stages.start import StartResult
from .stages.work import WorkResult
from .stations import BY_KEY, ORDER, StationKey, bench_of

#: How many are told.
MOST = 8
#: Minutes to measure or look up one value, and values after which another evening begins.
READING, AN_EVENING = 5, 12
_NAMED = 3  # values told by name
LATER = 2  # rank of a visit that holds nothing

Bench = tuple[StationKey, str]
Kind = Literal["clear", "settle", "measure", "mend", "sign", "do"]


class Act(Result):
    """One thing to do: clear a Stop, settle what must be known, measure what is in pencil, mend, do a task of the work, or sign a step. `at` is the place in the build where it is entered,
    `clears` how many findings it clears, settles or takes off pencil."""

    kind: Kind
    says: str
    why: str
    station: StationKey
    bench: str
    at: str
    clears: int
    minutes: int


def acts(findings: Sequence[Finding], start: StartResult, work: WorkResult, begun: bool) -> list[Act]:
    """The next acts, best first, `MOST` at most. Tasks of the work are among them once it is `begun`: a day is set for it."""
    held = holding(findings)
    found = _stops([f for f in held if f.severity == "stop"])
    first, rest_of_them = _visits(findings)
    found += first + (_tasks(work) if begun else []) + rest_of_them
    rest = [f for f in findings if f.severity in ("sort_out", "watch") and not f.holds and f.overruled is None]
    found += [_act("mend", [f]) for f in sorted(rest, key=lambda f: ORDER.index(f.station))]
    step = next((s for s in start.steps if not s.done), None)
    if not held and step is not None:
        at = f"/start/steps/{step.number}"
        found.append(
            Act(kind="sign", says=f"Step {step.number}: {step.title}", why="Nothing holds the first start.", station="start", bench="steps", at=at, clears=1, minutes=BY_KEY["start"].minutes)
        )  # fmt: skip
    return found[:MOST]


def _stops(findings: Sequence[Finding]) -> list[Act]:
    """One act a place: the engine first, for nothing else holds on one that is not fit; then what clears most for its minutes, then the order of work."""
    by_place: defaultdict[str, list[Finding]] = defaultdict(list)
    for f in findings:
        by_place[f.at].append(f)
    found = [_act("clear", group) for group in by_place.values()]
    return sorted(found, key=lambda a: (a.station != "engine", -a.clears / a.minutes, ORDER.index(a.station)))


def _act(kind: Kind, group: Sequence[Finding]) -> Act:
    f = group[0]
    station, bench = bench_of(f.at)
    return Act(kind=kind, says=_do(f), why=f.why, station=station, bench=bench, at=f.at, clears=len(group), minutes=BY_KEY[station].minutes)


def _do(f: Finding) -> str:
    return f.do or (f"{f.settle[0].upper()}{f.settle[1:]}." if f.settle else f"See to it: {f.title.lower()}.")


#: Tasks that are told at once.
TASKS = 3


def _tasks(work: WorkResult) -> list[Act]:
    """Tasks that may be done now, in the order of the plan: nothing that they need is open, and their parts are here."""
    by_key = {t.key: t for t in work.tasks}
    missing = {p.task for p in work.parts if not p.here and not p.gone}
    order = [p.key for p in work.plan.tasks] or [t.key for t in work.tasks if t.stands == "open"]
    open_ = [by_key[key] for key in order]
    ready = [t for t in open_ if not any(by_key[need].stands == "open" for need in t.needs) and not (t.parts and t.key in missing)]
    return [
        Act(kind="do", says=f"{t.what}.", why=t.why, station=cast(StationKey, t.station), bench=t.bench, at=t.entered_at, clears=1, minutes=round(t.work_s[1] / 60))
        for t in ready[:TASKS]
    ]  # fmt: skip


def _visits(findings: Sequence[Finding]) -> tuple[list[Act], list[Act]]:
    """One act a bench at which something is not known or in pencil: who has the tools there in hand does it all. Those that hold the first start come first, the engine's before
    all others; then, apart, those under most verdicts for their minutes."""
    unknown: defaultdict[Bench, list[Finding]] = defaultdict(list)
    resting: defaultdict[Bench, Counter[str]] = defaultdict(Counter)
    under: Counter[str] = Counter()
    verdicts: defaultdict[Bench, set[tuple[str, str]]] = defaultdict(set)
    for f in findings:
        if f.severity == "unknown" and f.overruled is None:
            unknown[bench_of(f.at)].append(f)
        elif f.severity == "sound_if":
            under.update(f.rests_on)
            for here in {bench_of(place) for place in f.rests_on}:
                verdicts[here].add((f.code, f.at))
    for place, many in under.items():
        resting[bench_of(place)][place] = many
    found = []
    for here in dict.fromkeys([*unknown, *resting]):
        open_ = sorted(unknown[here], key=lambda f: not f.holds)  # nobody has signed for any of them
        holds = sum(f.holds for f in open_)
        act = _visit(here, open_, resting[here], len(verdicts[here]))
        first = 0 if holds and act.station == "engine" else 1 if holds else LATER
        found.append((first, -(holds or act.clears) / act.minutes, ORDER.index(act.station), act))
    ordered = sorted(found, key=lambda row: row[:3])
    return [act for first, *_, act in ordered if first < LATER], [act for first, *_, act in ordered if first == LATER]


def _visit(here: Bench, open_: Sequence[Finding], places: Counter[str], many: int) -> Act:
    names = list(dict.fromkeys(called(place) for place, _ in places.most_common()))
    listed = ", ".join(names[:_NAMED]) + (f" and {len(names) - _NAMED} more" if len(names) > _NAMED else "")
    rests = f"{many} {'verdict rests' if many == 1 else 'verdicts rest'} on what nobody measured here."
    also = [f.title[0].lower() + f.title[1:] for f in open_[1:]] + ([listed] if places and open_ else [])
    told = "; ".join(dict.fromkeys(also))
    return Act(
        kind="settle" if open_ else "measure",
        says=f"{_do(open_[0])}{f' There too: {told}.' if told else ''}" if open_ else f"Measure, or state: {listed}.",
        why=open_[0].why if open_ else rests,
        station=here[0],
        bench=here[1],
        at=open_[0].at if open_ else places.most_common(1)[0][0],
        clears=len(open_) + many,
        minutes=(BY_KEY[here[0]].minutes if open_ else 0) + READING * min(len(places), AN_EVENING),
    )
