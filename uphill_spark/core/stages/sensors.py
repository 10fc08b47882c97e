"""Sensors and trigger: the minimal set for the layout and strategy, thermistor scaling, what the trigger wheel gives."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

from ..build import Build
from ..build.sensors import SensorKind
from ..figures import Result, Spec
from ..physics.thermistor import divider_volts, fit_thermistor

Need = Literal["required", "recommended", "optional"]
State = Literal["fitted", "struck", "proposed"]


class SensorRow(Result):
    """One sensor of the proposed set and what the person says of it."""

    kind: SensorKind
    label: str
    need: Need
    why: str
    place: str
    state: State
    inside_unit: bool
    two_wire: bool


#: Sensors that a throttle-body unit carries inside; they need no wire of their own.
INSIDE_BODY = ("intake_air_temperature", "throttle_position", "manifold_pressure")


class ThermistorCurve(Result):
    temperature_k: list[float]
    resistance_ohm: list[float]
    volts: list[float]
    a: float
    b: float
    c: float


class TriggerResult(Result):
    teeth: int
    missing: int
    tooth_angle_deg: float
    teeth_per_turn: int
    tooth_rate_limit_hz: float
    angle_deg: float | None
    tooth_at_tdc: float | None
    light_offset_deg: float | None


class SensorsResult(Result):
    rows: list[SensorRow]
    coolant: ThermistorCurve | None
    trigger: TriggerResult | None


LABELS: dict[SensorKind, tuple[str, str]] = {
    "coolant_temperature": ("coolant temperature", "engine side of the thermostat, in moving coolant, near the head's outlet"),
    "intake_air_temperature": ("intake air temperature", "in moving air after the filter, out of reach of radiated heat"),
    "throttle_position": ("throttle position", "on the throttle spindle"),
    "manifold_pressure": ("manifold pressure", "a port and a short hose of its own, from the plenum, rising to the sensor"),
    "wideband_oxygen": ("wideband oxygen", "after all pipes of the bank join, on a straight, 10 to 90 degrees above horizontal"),
    "crank": ("crank trigger", "a stiff bracket over the toothed wheel"),
    "cam": ("cam phase", "on anything that turns at half crank speed"),
    "fuel_pressure": ("fuel pressure", "pressure side, after the filter, before the regulator"),
}


def needed(build: Build) -> dict[SensorKind, tuple[Need, str]]:
    """Which sensors this layout and strategy ask for, and why."""
    itb = build.engine.layout == "individual_throttles"
    timed = build.ignition.timed_by_unit
    phase = build.injectors.firing == "sequential" or build.ignition.kind == "coil_per_plug"
    wheel = timed or build.ignition.speed_signal == "trigger_wheel" or build.sensors.trigger is not None
    found: dict[SensorKind, tuple[Need, str]] = {
        "coolant_temperature": ("required", "a cold engine is started and warmed up by it"),
        "intake_air_temperature": ("required", "the mass of air in a cylinder goes with one over temperature"),
        "throttle_position": ("required", "it is the load signal here" if itb else "tip-in, over-run cut and flood clear need it"),
        "manifold_pressure": ("optional", "one throttle per cylinder gives no steady vacuum")
        if itb
        else ("required", "it is the load signal"),
        "wideband_oxygen": ("recommended", "nothing can be learned on the road without it"),
    }
    if wheel:
        found["crank"] = ("required", "the control unit times the spark from it" if timed else "it is the speed signal")
    if phase:
        by_coil = build.ignition.kind == "coil_per_plug"
        need: Need = "required" if build.injectors.firing == "sequential" else "recommended"
        found["cam"] = (need, "coil per plug in sequence needs phase" if by_coil else "sequential injection needs phase")
    found["fuel_pressure"] = ("recommended", "it tells a fuel fault from a table fault")
    return found


def work_out(build: Build) -> SensorsResult:
    """The sensor list, the coolant curve and the trigger's arithmetic."""
    decisions = build.sensors.decisions
    inside = build.wiring.profile == "throttle_body_unit"
    rows = [
        SensorRow(
            kind=kind,
            label=LABELS[kind][0],
            need=need,
            why=why,
            place=LABELS[kind][1],
            state=decisions.get(kind, "proposed"),
            inside_unit=inside and kind in INSIDE_BODY,
            two_wire=kind == "crank" and build.sensors.trigger is not None and build.sensors.trigger.sensor == "variable_reluctance",
        )
        for kind, (need, why) in needed(build).items()
    ]
    return SensorsResult(rows=rows, coolant=_coolant(build), trigger=_trigger(build))


def _coolant(build: Build) -> ThermistorCurve | None:
    thermistor = build.sensors.coolant
    if thermistor is None:
        return None
    fit = fit_thermistor([(p.temperature.si, p.resistance.si) for p in thermistor.points])
    temperatures = [273.15 + t for t in range(-20, 121, 10)]
    ohms = [fit.resistance(t) for t in temperatures]
    volts = [divider_volts(r, thermistor.pull_up.si) for r in ohms]
    return ThermistorCurve(temperature_k=temperatures, resistance_ohm=ohms, volts=volts, a=fit.a, b=fit.b, c=fit.c)


def _trigger(build: Build) -> TriggerResult | None:
    t = build.sensors.trigger
    if t is None:
        return None
    tooth = 360.0 / t.teeth
    offset = t.light_observed.si - t.light_commanded.si if t.light_observed is not None and t.light_commanded is not None else None
    return TriggerResult(
        teeth=t.teeth,
        missing=t.missing,
        tooth_angle_deg=tooth,
        teeth_per_turn=t.teeth - t.missing,
        tooth_rate_limit_hz=t.teeth * build.engine.rev_limit.si,
        angle_deg=t.angle.si if t.angle is not None else None,
        tooth_at_tdc=t.angle.si % 360 / tooth if t.angle is not None else None,
        light_offset_deg=offset,
    )


def _at(kelvin: float) -> Callable[[SensorsResult], float | None]:
    def take(r: SensorsResult) -> float | None:
        return None if r.coolant is None else r.coolant.volts[r.coolant.temperature_k.index(kelvin)]

    return take


_WHEEL = ("/sensors/trigger",)
FIGURES = (
    Spec("sensors.missing", "1", "Required sensors not confirmed",
         ("/sensors/decisions", "/engine/layout", "/ignition", "/injectors/firing", "/sensors/trigger"), "the list for the layout and strategy",
         lambda r: sum(row.need == "required" and row.state != "fitted" for row in r.rows)),
    Spec("sensors.coolant.volts_20C", "V", "Coolant signal at 20 °C", ("/sensors/coolant",), "Steinhart-Hart (1968), 5 V divider", _at(293.15)),
    Spec("sensors.coolant.volts_90C", "V", "Coolant signal at 90 °C", ("/sensors/coolant",), "Steinhart-Hart (1968), 5 V divider", _at(363.15)),
    Spec("sensors.trigger.tooth_angle", "deg", "Crank degrees from tooth to tooth", _WHEEL, "360 / N", lambda r: r.trigger and r.trigger.tooth_angle_deg),
    Spec("sensors.trigger.rate_limit", "Hz", "Teeth a second at the rev limit", (*_WHEEL, "/engine/rev_limit"), "N times revolutions a second",
         lambda r: r.trigger and r.trigger.tooth_rate_limit_hz),
    Spec("sensors.trigger.tooth_at_tdc", "1", "Tooth under the sensor at top dead centre, counted from the gap", _WHEEL, "angle over tooth angle",
         lambda r: r.trigger and r.trigger.tooth_at_tdc),
)  # fmt: skip
