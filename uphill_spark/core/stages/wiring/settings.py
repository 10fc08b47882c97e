"""What a control unit can be set to, and which of it this build asks for."""

from __future__ import annotations

from typing import Literal

from ...figures import Result
from ...given import Build
from ...given.unit import Setting

WORDS: dict[Setting, str] = {
    "trigger_pattern": "the trigger wheel's pattern",
    "firing_order": "the firing order",
    "output_order": "which output fires when",
    "injector_figure": "the injectors' flow",
    "dead_times": "a table of dead times",
    "timing_lock": "a locked timing for the light",
    "trigger_angle": "the trigger angle",
    "sensor_curves": "the curves of the senders",
    "fan_points": "the fan's switching points",
    "idle_valve": "the kind of idle valve",
    "rev_limit": "a rev limit",
}


class SettingRow(Result):
    """A setting, whether this build asks for it, and what its sheet says; None where nobody has asked."""

    key: Setting
    label: str
    wanted: bool
    can: Literal["yes", "no"] | None


def rows(build: Build) -> list[SettingRow]:
    """Every setting, those that this build asks for first."""
    asked, said = wanted(build), build.wiring.unit.can_set
    found = [SettingRow(key=key, label=label, wanted=key in asked, can=said.get(key)) for key, label in WORDS.items()]
    return sorted(found, key=lambda row: not row.wanted)


def wanted(build: Build) -> set[Setting]:
    """What this build asks a control unit to be set to."""
    found: set[Setting] = {"injector_figure", "dead_times", "sensor_curves", "rev_limit"}
    if build.sensors.trigger is not None:
        found.add("trigger_pattern")
    if build.ignition.timed_by_unit:
        found |= {"firing_order", "timing_lock", "trigger_angle"}
    if build.wiring.unit.numbers == "by_place" and build.ignition.letters:
        found.add("output_order")
    if "fan" in build.wiring.extras:
        found.add("fan_points")
    if "idle_valve" in build.wiring.extras:
        found.add("idle_valve")
    return found
