"""What a finding is, and the registry of checks."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal, Protocol

from ..figures import Figure, Result, show
from ..stations import OF_FINDINGS, StationKey
from ..worked import SPECS, STAGE_OF, Worked

Severity = Literal["stop", "sort_out", "unknown", "watch", "note", "sound"]
#: Worst first. What is not known yet stands above a watch: it may be anything.
SEVERITIES: tuple[Severity, ...] = ("stop", "sort_out", "unknown", "watch", "note", "sound")
WORDS: dict[Severity, str] = {
    "stop": "Stop",
    "sort_out": "Sort out",
    "unknown": "Not known yet",
    "watch": "Watch",
    "note": "Note",
    "sound": "Sound",
}


class Finding(Result):
    """A check's verdict. `at` is the place in the build, `figure` the published figure it rests on, `limit` in that figure's unit."""

    code: str
    severity: Severity
    station: StationKey
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
    source: str
    overruled: str | None = None


class Say(Protocol):
    """Makes a finding of the check that is run: severity, why, what to do; `limit` in the unit of the figure."""

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
    ) -> Finding: ...


Body = Callable[[Worked, Say], Iterator[Finding]]


@dataclass(frozen=True, slots=True)
class Check:
    """A registered check: its code and words, and the function that judges."""

    code: str
    station: StationKey
    at: str
    title: str
    figure: str | None
    source: str
    body: Body

    def run(self, worked: Worked, figures: dict[str, Figure]) -> list[Finding]:
        """The findings, each with its figure's value and, for a Stop that was signed for, the reason written."""

        def say(
            severity: Severity,
            why: str,
            do: str = "",
            *,
            at: str | None = None,
            limit: float | None = None,
            settle: str | None = None,
            figure: str | None = None,
        ) -> Finding:
            place = at if at is not None else self.at
            name = figure or self.figure
            found = figures[name] if name else None
            if name:
                worked.result(STAGE_OF[name])  # the figure is taken from it: what is said rests on that too
            overrules = worked.build.start.overrules if severity == "stop" else []
            return Finding(
                code=self.code,
                severity=severity,
                station=self.station,
                at=place,
                title=self.title,
                figure=name,
                value=found.value if found else None,
                unit=found.unit if found else None,
                shown=found.shown if found else None,
                shown_limit=show(limit, found.unit, SPECS[name].share) if found and name and limit is not None else None,
                limit=limit,
                why=why,
                do=do,
                settle=settle,
                source=self.source,
                overruled=next((f"{o.reason} ({o.by})" for o in overrules if (o.code, o.at) == (self.code, place)), None),
            )

        return list(self.body(worked, say))


CHECKS: list[Check] = []


def check(code: str, at: str, title: str, *, figure: str | None = None, source: str) -> Callable[[Body], Body]:
    """Register a check. It lives at the station that its module belongs to."""

    def register(body: Body) -> Body:
        if any(c.code == code for c in CHECKS):
            raise ValueError(f"check {code} is registered twice")
        CHECKS.append(Check(code, OF_FINDINGS[body.__module__.rsplit(".", 1)[-1]], at, title, figure, source, body))
        return body

    return register


def grade(value: float, watch: float, sort_out: float, stop: float | None = None) -> Severity:
    """Severity of a figure that is worse the larger it is: above each limit the next word applies."""
    if stop is not None and value > stop:
        return "stop"
    return "sort_out" if value > sort_out else "watch" if value > watch else "sound"


def above(severity: Severity, watch: float, sort_out: float, stop: float | None = None) -> float:
    """The limit that a figure graded so stands above; the first for one that is sound."""
    limits: dict[Severity, float | None] = {"sort_out": sort_out, "stop": stop}
    return limits.get(severity) or watch


def worse(*severities: Severity) -> Severity:
    """The worst of several."""
    return min(severities, key=SEVERITIES.index)
