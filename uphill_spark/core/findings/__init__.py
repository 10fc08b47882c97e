"""The catalogue of findings, one module a stage, in the order of work. Importing this package registers every check."""

from __future__ import annotations

from ..figures import Figure
from ..stations import ORDER
from ..worked import Worked
from . import air, engine, engine_health, fuel, fuel_system, ignition, injectors, sensor_places, sensors, trigger, tune, wiring
from .base import CHECKS, SEVERITIES, WORDS, Check, Finding, Severity

__all__ = ["CHECKS", "SEVERITIES", "WORDS", "Check", "Finding", "Severity", "judge"]
_MODULES = (
    engine,
    engine_health,
    fuel,
    fuel_system,
    injectors,
    air,
    sensors,
    sensor_places,
    trigger,
    ignition,
    wiring,
    tune,
)  # imported for what they register


def judge(worked: Worked, figures: dict[str, Figure]) -> list[Finding]:
    """Every check's findings, worst first, then in the order of work."""
    found = [finding for check in CHECKS for finding in check.run(worked, figures)]
    return sorted(found, key=lambda f: (SEVERITIES.index(f.severity), ORDER.index(f.station), f.code))
