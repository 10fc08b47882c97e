"""The catalogue of findings, in the order of work. Importing this package registers every check."""

from __future__ import annotations

from importlib import import_module

from ..figures import Figure
from ..stations import ORDER, STATIONS
from ..worked import Worked
from .base import CHECKS, SEVERITIES, WORDS, Check, Finding, Severity

__all__ = ["CHECKS", "SEVERITIES", "WORDS", "Check", "Finding", "Severity", "judge"]
#: The modules that the stations name, imported for what they register.
_MODULES = tuple(import_module(f".{name}", __name__) for station in STATIONS for name in station.findings)


def judge(worked: Worked, figures: dict[str, Figure]) -> list[Finding]:
    """Every check's findings, worst first, then in the order of work."""
    found = [finding for check in CHECKS for finding in check.run(worked, figures)]
    return sorted(found, key=lambda f: (SEVERITIES.index(f.severity), ORDER.index(f.station), f.code))
