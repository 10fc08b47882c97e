"""Where temperature sensors may sit, and what is wrong with the other places."""

from __future__ import annotations

#: What a coolant sensor reads where it does not sit in moving coolant on the engine's side.
COOLANT_WRONG = {
    "dead_pocket": "In a dead pocket it reads late and low",
    "radiator": "In the radiator it reads what has been cooled, and nothing until the thermostat opens",
    "heater_hose": "In the heater's hose it reads nothing while the heater is shut",
}
COOLANT_RIGHT = ("before_thermostat", "head")
#: Places in which heat soaks an air sensor after a stop.
AIR_SOAKED = ("metal_plenum", "runner", "near_exhaust")
AIR_PLACES = ("after_filter", "after_blower", "plastic_plenum", *AIR_SOAKED)


def air_right(place: str, *, boosted: bool) -> bool:
    """Whether an air sensor reads the charge there: behind a blower where there is one, and out of what soaks it with heat."""
    if place in AIR_SOAKED:
        return False
    return place != ("after_filter" if boosted else "after_blower")


def places(*, boosted: bool) -> dict[str, dict[str, bool]]:
    """Every place by sensor, and whether it is right."""
    return {
        "coolant": {**dict.fromkeys(COOLANT_RIGHT, True), **dict.fromkeys(COOLANT_WRONG, False)},
        "air": {place: air_right(place, boosted=boosted) for place in AIR_PLACES},
    }
