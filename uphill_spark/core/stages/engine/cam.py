"""The cam by its card: when the inlet shuts, how long both valves are open, what class that is, and whether the inlet valve chokes."""

from __future__ import annotations

import math

from ...given.engine import Cam, Engine

#: Overlap [crank deg] up to which a road cam counts as a class, where cards are taken at small lift (Heywood, ch. 6.3).
CLASS_BY_OVERLAP: tuple[tuple[float, Cam], ...] = ((32.0, "standard"), (52.0, "touring"), (78.0, "sport"), (math.inf, "competition"))
SOUND = 343.0  # m/s, in the charge at 20 degC
MEAN_COEFFICIENT = 0.35  # of the valve's area, over its whole opening (Taylor, The Internal Combustion Engine, vol. 1, ch. 6)
#: Inlet Mach index above which volumetric efficiency falls away (Taylor, vol. 1, ch. 6).
CHOKES = 0.6


def inlet_closing(e: Engine) -> float | None:
    """When the inlet shuts [deg after bottom]: as told, else from the card."""
    if e.inlet_closing is not None:
        return e.inlet_closing.si
    card = e.cam_card
    return min(max(card.inlet_centre.si + card.inlet_duration.si / 2 - 180.0, 0.0), 110.0) if card else None


#: Usual closing of the inlet [deg after bottom] by cam, where neither angle nor card is known (Heywood, ch. 6.3).
USUAL_CLOSING = {"standard": 48.0, "touring": 55.0, "sport": 64.0, "competition": 72.0}


def overlap(e: Engine) -> float | None:
    """Crank degrees [deg] with both valves open, round top dead centre; below 0 they never are."""
    card = e.cam_card
    if card is None:
        return None
    opens = card.inlet_duration.si / 2 - card.inlet_centre.si  # before top
    closes = card.exhaust_duration.si / 2 - card.exhaust_centre.si  # after top
    return opens + closes


def cam_class(degrees: float) -> Cam:
    """The class of cam that has so much overlap."""
    return next(name for most, name in CLASS_BY_OVERLAP if degrees <= most)


def mach_index(e: Engine, piston_speed: float, speed_share: float) -> float | None:
    """Taylor's inlet Mach index Z = (b/D)^2 s / (C n a) at full power; None where bore or valve is not known.

    `piston_speed` [m/s] is the mean one at the rev limit, `speed_share` the speed of full power over the limit.
    """
    if e.bore is None or e.inlet_valve is None:
        return None
    return (e.bore.si / e.inlet_valve.si) ** 2 * piston_speed * speed_share / (MEAN_COEFFICIENT * e.inlet_valves * SOUND)
