"""An engine's measures as the cycle wants them: told where they were told, else by the ratios that are usual in engines of its class, each with how far it may be off."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ...given import Build
from ...given.engine import Cam, Chamber, Engine
from ...physics.cycle import Cylinder, Valve
from . import ROD_OVER_STROKE
from .cam import USUAL_CLOSING, inlet_closing

#: Inlet valve's head over the bore, of one valve and of each of two (Heywood, table 6.1); exhaust over inlet.
HEAD_OVER_BORE: dict[Chamber, float] = {"flat_head": 0.43, "wedge": 0.47, "hemispherical": 0.50, "pent_roof": 0.47}
HEAD_OF_TWO, EXHAUST_OVER_INLET = 0.385, 0.85
#: Lift over the inlet's head, open for [deg], fully open at [deg from top], by cam, seat to seat (Heywood, ch. 6.3).
LIFT: dict[Cam, float] = {"standard": 0.22, "touring": 0.235, "sport": 0.255, "competition": 0.275}
OPEN: dict[Cam, float] = {"standard": 250.0, "touring": 264.0, "sport": 282.0, "competition": 302.0}
CENTRE: dict[Cam, float] = {"standard": 110.0, "touring": 109.0, "sport": 107.0, "competition": 105.0}
SEAT_EACH_SIDE = 4.0  # deg that a valve moves before a card's lift and after it
TRACT = {"throttle_body": 0.42, "port_plenum": 0.35, "individual_throttles": 0.30}  # m
TRACT_OVER_THROAT = 0.75  # area of the tract over the valves' heads
#: Back pressure [Pa] at the flow of full power, and how well ports flow, by what was noted.
BACK = {"cast_manifold": 25e3, "tubular": 12e3, "open_pipes": 4e3}
#: The same where the exhaust was not noted: who fits such a cam fits such an exhaust.
USUAL_BACK: dict[Cam, float] = {"standard": 24e3, "touring": 18e3, "sport": 12e3, "competition": 7e3}
FLOWS: dict[Chamber, float] = {"flat_head": 0.70, "wedge": 1.0, "hemispherical": 1.0, "pent_roof": 1.0}
USUAL_OCTANE = {"E0": 95, "E10": 95, "E85": 105}
HEATING = {"E0": 43.4e6, "E10": 41.8e6, "E85": 29.2e6}  # J/kg (Heywood, app. D)


@dataclass(frozen=True, slots=True)
class Guess:
    """A measure that nobody told: its place in the build, the value taken [SI], and by how much of it it may be off (a standard deviation, as a share)."""

    place: str
    label: str
    value: float
    off: float


@dataclass(frozen=True, slots=True)
class Measures:
    """A cylinder as it is worked, its back pressure at full power [Pa], its octane, and what of it was guessed."""

    cylinder: Cylinder
    back_pa: float
    octane: float
    guesses: tuple[Guess, ...]


def measures(build: Build, scaled: dict[str, float] | None = None) -> Measures:
    """The measures of a build; `scaled` [1] multiplies what was guessed, by its place. Raises NoEngine for measures that make none."""
    e, scaled, guesses = build.engine, scaled or {}, list[Guess]()

    def taken(place: str, label: str, told: float | None, usual: float, off: float) -> float:
        if told is not None:
            return told
        guesses.append(Guess(f"/engine/{place}", label, usual, off))
        return usual * scaled.get(f"/engine/{place}", 1.0)

    bore, stroke = _bore_and_stroke(e, taken)
    rod = taken("rod", "Connecting rod", e.rod.si if e.rod else None, ROD_OVER_STROKE * stroke, 0.04)
    many = e.inlet_valves if e.inlet_valves > 1 else (2 if e.valve_train == "four_valve" else 1)
    share = HEAD_OF_TWO if many > 1 else HEAD_OVER_BORE[e.chamber]
    head = taken("inlet_valve", "Inlet valve", e.inlet_valve.si if e.inlet_valve else None, share * bore, 0.04)
    out = taken("exhaust_valve", "Exhaust valve", e.exhaust_valve.si if e.exhaust_valve else None, EXHAUST_OVER_INLET * head, 0.04)
    card = e.cam_card
    lift = taken(
        "cam_card/lift", "Valve lift", card.lift.si if card and card.lift else None, LIFT[e.cam] * head * (0.92 if many > 1 else 1.0), 0.07
    )
    closing = inlet_closing(e)
    shuts = 540.0 + (taken("inlet_closing", "Inlet valve closes", closing, USUAL_CLOSING[e.cam], 0.12))
    if card is not None:
        lasts, out_lasts, out_centre = (
            card.inlet_duration.si + 2 * SEAT_EACH_SIDE,
            card.exhaust_duration.si + 2 * SEAT_EACH_SIDE,
            card.exhaust_centre.si,
        )
        shuts += SEAT_EACH_SIDE
    else:
        lasts = taken("cam_card", "How long the valves are open", None, OPEN[e.cam], 0.03)
        out_lasts, out_centre = lasts, CENTRE[e.cam]
    tract = taken("tract", "Inlet tract", e.tract.si if e.tract else None, TRACT[e.layout], 0.25)
    flows = FLOWS[e.chamber]
    inlet = Valve(many, head, lift, shuts - lasts, shuts, flows)
    exhaust = Valve(
        e.exhaust_valves or (many if many > 1 else 1),
        out,
        lift,
        360.0 - out_centre - out_lasts / 2,
        360.0 - out_centre + out_lasts / 2,
        flows,
    )
    back = BACK.get(e.exhaust, 0.0)
    if e.exhaust == "not_noted":
        guesses.append(Guess("/engine/exhaust", "Exhaust", USUAL_BACK[e.cam], 0.5))
        back = USUAL_BACK[e.cam] * scaled.get("/engine/exhaust", 1.0)
    area = many * math.pi / 4 * head**2 * TRACT_OVER_THROAT
    cylinder = Cylinder(bore, stroke, rod, e.compression_ratio.si, inlet, exhaust, tract, area)
    swept = e.displacement.si / e.cylinders
    return Measures(_fitted(cylinder, swept), back, float(e.octane or USUAL_OCTANE[e.fuel]), tuple(guesses))


def _bore_and_stroke(e: Engine, taken: object) -> tuple[float, float]:
    """Bore and stroke [m]: one from the other and the displacement where only one was told; square where neither was."""
    swept = e.displacement.si / e.cylinders
    if e.bore is not None and e.stroke is not None:
        return e.bore.si, e.stroke.si
    if e.bore is not None:
        return e.bore.si, swept / (math.pi / 4 * e.bore.si**2)
    if e.stroke is not None:
        return math.sqrt(swept / (math.pi / 4 * e.stroke.si)), e.stroke.si
    stroke = taken("stroke", "Stroke", None, (swept * 4 / math.pi) ** (1 / 3), 0.08)  # type: ignore[operator]
    return math.sqrt(swept / (math.pi / 4 * stroke)), stroke


def _fitted(cylinder: Cylinder, swept: float) -> Cylinder:
    """The same with the bore that makes the displacement exact: bore and stroke are told rounded."""
    return replace(cylinder, bore=cylinder.bore * math.sqrt(swept / cylinder.swept))
