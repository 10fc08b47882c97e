"""The catalogue of findings, in the order of work. Importing this package registers every check."""

from __future__ import annotations

from functools import partial
from importlib import import_module

from ..figures import Figure
from ..reads import Recall
from ..stations import BY_KEY, ORDER, STATIONS
from ..worked import Still, no_limit
from .base import AT_REST, CHECKS, GATES, SEVERITIES, WORDS, Check, Finding, Gate, Severity, barring, holding, resting

__all__ = [
    "AT_REST",
    "CHECKS",
    "GATES",
    "OF_WORK",
    "SEVERITIES",
    "WORDS",
    "Check",
    "Finding",
    "Gate",
    "Severity",
    "barring",
    "holding",
    "judge",
    "worst_first",
]
#: The modules that the stations name, imported for what they register.
_MODULES = tuple(import_module(f".{name}", __name__) for station in STATIONS for name in station.findings)


_RANK = {severity: i for i, severity in enumerate(SEVERITIES)}
_PLACE = {station: i for i, station in enumerate(ORDER)}


#: Checks of the build, and those of the work beside it, which rests on what the first say.
OF_BUILD = [c for c in CHECKS if not BY_KEY[c.station].beside]
OF_WORK = [c for c in CHECKS if BY_KEY[c.station].beside]


def judge(
    recall: Recall, figures: dict[str, Figure], pencil: tuple[str, ...], still: Still = no_limit, checks: list[Check] = OF_BUILD
) -> list[Finding]:
    """The findings of every check (of the build, if no others are named), worst first, then in the order of work; `pencil` are the places whose values nobody chose or measured.

    A check that looks at nothing that has changed since the build that is recalled, with the same in pencil, says the same again and is not asked.
    """
    under = resting(pencil)
    found: list[Finding] = []
    for check in checks:
        still()
        rests = under[check.code]
        found += recall.of((check.code, rests), partial(check.run, figures=figures, resting=rests))
    return worst_first(found)


def worst_first(findings: list[Finding]) -> list[Finding]:
    """Findings in the order in which they are told: the worst first, then in the order of work."""
    return sorted(findings, key=lambda f: (_RANK[f.severity], _PLACE[f.station], f.code))
