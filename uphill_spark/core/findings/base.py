"""What a finding is, and the registry of checks."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Literal, Protocol

from ..figures import Figure, Result, told
from ..given import Build
from ..given.document import touches
from ..given.edit import unescape
from ..given.fields import called
from ..given.own import unit_of_figure
from ..stations import OF_FINDINGS, StationKey, bench_of
from ..worked import DEPENDS, SPECS, STAGE_OF, Worked

Severity = Literal["stop", "sort_out", "unknown", "watch", "note", "sound_if", "sound"]
#: What a Stop bars: standing still with the engine running, moving the car, the road. What bars one bars all that come after it.
Gate = Literal["start", "move", "road"]
GATES: tuple[Gate, ...] = ("start", "move", "road")
#: Worst first. What is not known yet stands above a watch: it may be anything. What is sound on values in pencil is sound only if they hold.
SEVERITIES: tuple[Severity, ...] = ("stop", "sort_out", "unknown", "watch", "note", "sound_if", "sound")
#: Nothing is to be done about these.
AT_REST: tuple[Severity, ...] = ("note", "sound_if", "sound")
WORDS: dict[Severity, str] = {
    "stop": "Stop",
    "sort_out": "Sort out",
    "unknown": "Not known yet",
    "watch": "Watch",
    "note": "Note",
    "sound_if": "Sound if pencil holds",
    "sound": "Sound",
}


class Finding(Result):
    """A check's verdict. `bench` is where it lives at its station, `at` the place in the build, `figure` the published figure it rests on, `limit` in that figure's unit.

    `holds`: nobody turns the key over it without signing; `bars` is the gate that it shuts where it is a Stop. `rests_on`: values in pencil under it; `could_turn`: those of them that would turn it within their
    own doubt, None until that was asked.
    """

    code: str
    severity: Severity
    station: StationKey
    bench: str
    at: str
    title: str
    figure: str | None = None
    value: float | None = None
    unit: str | None = None
    limit: float | None = None
    shown: str | None = None
    shown_limit: str | None = None
    why: str
    do: str
    settle: str | None = None
    source: str = ""
    holds: bool = False
    bars: Gate = "start"
    rests_on: list[str] = []
    could_turn: list[str] | None = None
    overruled: str | None = None


def holding(findings: Sequence[Finding]) -> list[Finding]:
    """What holds the first start, and nobody has signed for: Stops, and what has to be known before the key is turned."""
    return [f for f in findings if f.holds and f.overruled is None]


def barring(findings: Sequence[Finding], gate: Gate) -> list[Finding]:
    """Stops that shut a gate of their own, and nobody has signed for; those of the gates before it are not told again."""
    return [f for f in findings if f.bars == gate and f.severity == "stop" and f.overruled is None]


class Say(Protocol):
    """Makes a finding of the check that is run: severity, why, what to do; `limit` in the unit of the figure; `bars`, which gate a Stop shuts."""

    def __call__(
        self,
        severity: Severity,
        why: str,
        do: str = "",
        *,
        at: str | None = None,
        limit: float | None = None,
        settle: str | None = None,
        figure: str | None = None,
        bars: Gate = "start",
    ) -> Finding: ...


Body = Callable[[Worked, Say], Iterator[Finding]]


@dataclass(frozen=True)
class Check:
    """A registered check: its code and words, and the function that judges.

    `rests` names places in the build and figures that the verdict hangs on, besides `at` and `figure`; a test changes every value of a build and holds that.
    `gate` is None for most. For what has to be known before anybody turns the key it names the places that must not be in pencil then, and what the check does not know holds
    the first start. A `*` stands for any name or number.
    """

    code: str
    station: StationKey
    at: str
    title: str
    figure: str | None
    source: str
    body: Body
    rests: tuple[str, ...] = ()
    gate: tuple[str, ...] | None = None

    @cached_property
    def places(self) -> tuple[str, ...]:
        """Every place in the build that the verdict hangs on."""
        under = (self.at, *self.rests, *((self.figure,) if self.figure else ()))
        return tuple(dict.fromkeys(p for u in under for p in ((u,) if u.startswith("/") else DEPENDS[u])))

    def run(self, worked: Worked, figures: dict[str, Figure], resting: tuple[str, ...] = ()) -> list[Finding]:
        """The findings, each with its figure's value and, for what was signed for, the reason written. `resting` are the places in pencil that it hangs on."""
        open_ = [p for p in resting if any(covers(worked.build, p, g) for g in self.gate)] if self.gate else []

        def say(
            severity: Severity,
            why: str,
            do: str = "",
            *,
            at: str | None = None,
            limit: float | None = None,
            settle: str | None = None,
            figure: str | None = None,
            bars: Gate = "start",
        ) -> Finding:
            place = at if at is not None else self.at
            name = figure or self.figure
            found = figures[name] if name else None
            if name:
                worked.result(STAGE_OF[name])  # the figure is taken from it: what is said rests on that too
                unit_of_figure(worked.build, worked.units, name, SPECS[name].unit)  # and on the field whose unit it is told in
            if open_ and severity in AT_REST:
                names = list(dict.fromkeys(called(p) for p in open_))
                named = ", ".join(names[:_NAMED]) + (f" and {len(names) - _NAMED} more" if len(names) > _NAMED else "")
                why = f"Only assumed so far: {named}. {why}"
                do, settle, severity, place = "Look, measure, and enter what is on the car.", settle or named, "unknown", open_[0]
            elif severity == "sound" and resting:
                severity = "sound_if"
            holds = bars == "start" and (severity == "stop" or (severity == "unknown" and self.gate is not None))
            overrules = worked.build.start.overrules if holds or severity == "stop" else []
            return Finding(
                code=self.code,
                severity=severity,
                station=self.station,
                bench=bench_of(place, self.station)[1],
                at=place,
                title=self.title,
                figure=name,
                value=found.value if found else None,
                unit=found.unit if found else None,
                shown=found.shown if found else None,
                shown_limit=told(limit, SPECS[name], unit_of_figure(worked.build, worked.units, name, found.unit))[0]
                if found and name and limit is not None
                else None,
                limit=limit,
                why=why,
                do=do,
                settle=settle,
                source=self.source,
                holds=holds,
                bars=bars,
                rests_on=list(resting),
                could_turn=None,
                overruled=next((f"{o.reason} ({o.by})" for o in overrules if (o.code, o.at) == (self.code, place)), None),
            )

        return list(self.body(worked, say))


_NAMED = 4  # places told by name, the others as a number
CHECKS: list[Check] = []


def check(
    code: str,
    at: str,
    title: str,
    *,
    figure: str | None = None,
    source: str,
    rests: tuple[str, ...] = (),
    gate: tuple[str, ...] | None = None,
) -> Callable[[Body], Body]:
    """Register a check. It lives at the station that its module belongs to."""

    def register(body: Body) -> Body:
        if any(c.code == code for c in CHECKS):
            raise ValueError(f"check {code} is registered twice")
        body.__doc__ = f"{code}: {title}. Source: {source}."
        CHECKS.append(Check(code, OF_FINDINGS[body.__module__.rsplit(".", 1)[-1]], at, title, figure, source, body, rests, gate))
        return body

    return register


def covers(build: Build, place: str, pattern: str) -> bool:
    """Whether a place is one that a pattern stands for, lies in it, or is over one that the build has."""
    return touches(place, pattern) and _reaches(build, place.split("/")[1:], pattern.split("/")[1:])


def _reaches(node: object, place: list[str], pattern: list[str]) -> bool:
    """Whether what stands at a place has something inside that a longer pattern stands for."""
    if not pattern:
        return True
    token = unescape(place[0]) if place else pattern[0]
    if isinstance(node, (list, dict)):
        keys = list(node) if isinstance(node, dict) else list(range(len(node)))
        below = [node[k] for k in keys if token == "*" or str(k) == token]
    else:
        below = [getattr(node, token)] if hasattr(node, token) else []
    return any(_reaches(value, place[1:], pattern[1:]) for value in below)


@lru_cache(maxsize=8192)
def _hanging_on(place: str) -> tuple[str, ...]:
    """Codes of the checks that hang on a place."""
    return tuple(c.code for c in CHECKS if any(touches(place, p) for p in c.places))


@lru_cache(maxsize=256)
def resting(pencil: tuple[str, ...]) -> dict[str, tuple[str, ...]]:
    """For every check the places in pencil that it hangs on."""
    found: dict[str, list[str]] = {c.code: [] for c in CHECKS}
    for place in pencil:
        for code in _hanging_on(place):
            found[code].append(place)
    return {code: tuple(places) for code, places in found.items()}


def grade(value: float, watch: float, sort_out: float, stop: float | None = None) -> Severity:
    """Severity of a figure that is worse the larger it is: above each limit the next word applies. Value and limits in one unit [any], the limits rising."""
    if stop is not None and value > stop:
        return "stop"
    return "sort_out" if value > sort_out else "watch" if value > watch else "sound"


def above(severity: Severity, watch: float, sort_out: float, stop: float | None = None) -> float:
    """The limit [unit of the limits] that a figure graded so stands above; the first for one that is sound."""
    limits: dict[Severity, float | None] = {"sort_out": sort_out, "stop": stop}
    return limits.get(severity) or watch


def worse(*severities: Severity) -> Severity:
    """The worst of several."""
    return min(severities, key=SEVERITIES.index)
