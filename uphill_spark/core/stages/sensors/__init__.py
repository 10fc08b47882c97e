"""Sensors: the set for the layout and strategy, how each reads, where each sits, and whether the screen makes sense with the key on."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

from ...circuit.netlist import BODY_UNIT
from ...figures import Band, Result, Spec
from ...given import Build
from ...given.sensors import ManifoldSensor, SensorKind, ThrottleSensor, line_read, screen_read
from ...physics import air
from ...reference import devices
from ..trigger.wheel import gives_phase
from . import exhaust, keyon
from .exhaust import ExhaustResult
from .keyon import KeyOnRow
from .places import places
from .scaling import Line, ThermistorCurve, line, pressure_line, thermistor_curve
from .strategy import StrategyRow, table

#: What feeds a sensor besides its signal and ground: the unit's 5 V, a fused 12 V, or nothing.
Feed = Literal["five_volt", "twelve_volt", "none"]
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
    feed: Feed
    on_harness: bool


#: Sensors that a throttle-body unit carries inside; they need no wire of their own.
INSIDE_BODY = ("intake_air_temperature", "throttle_position", "manifold_pressure")


class ThrottleResult(Result):
    """The throttle sensor: share of its own travel that the pedal reaches, whether it runs backwards, whether it wants zeroing; the unit's own scale with
    the pedal down, the least that it wants there (both a share [-] or volts [V]), and whether that is reached; None where not both are known."""

    span_v: float
    pedal_share: float | None
    backwards: bool
    zero_again: bool
    screen: float | None
    screen_least: float | None
    screen_reached: bool | None


class PressureResult(Result):
    """The manifold sensor's line, absolute [Pa], the most it must read, and how far the line typed in is off at that."""

    line: Line
    must_read_pa: float
    typed_off_pa: float | None
    shared_with: list[str]


class SensorsResult(Result):
    """The set, how each reads, where each sits, what the screen shows; `still` is what a manifold sensor should show with the engine still."""

    rows: list[SensorRow]
    coolant: ThermistorCurve | None
    air: ThermistorCurve | None
    throttle: ThrottleResult | None
    pressure: PressureResult | None
    fuel_pressure: Line | None
    exhaust: ExhaustResult | None
    oxygen: Line | None
    key_on: list[KeyOnRow]
    still: Band
    strategy: list[StrategyRow]
    places: dict[str, dict[str, bool]]


LABELS: dict[SensorKind, tuple[str, str]] = {
    "coolant_temperature": ("coolant temperature", "engine side of the thermostat, in moving coolant, near the head's outlet"),
    "intake_air_temperature": ("intake air temperature", "in moving air after the filter, out of reach of radiated heat"),
    "throttle_position": ("throttle position", "on the throttle spindle"),
    "manifold_pressure": ("manifold pressure", "a port and a short hose of its own, from the plenum, rising to the sensor"),
    "wideband_oxygen": ("wideband oxygen", "after all pipes of the bank join, on a straight, 10 to 80 degrees above horizontal"),
    "crank": ("crank trigger", "a stiff bracket over the toothed wheel"),
    "cam": ("cam phase", "on anything that turns at half crank speed"),
    "fuel_pressure": ("fuel pressure", "pressure side, after the filter, before the regulator"),
    "air_meter": ("air meter", "after the filter on a straight duct, all other air joining behind it"),
    "narrowband_oxygen": ("narrowband oxygen", "where the pipes of its bank have joined"),
    "narrowband_oxygen_2": ("narrowband oxygen, second bank", "where the pipes of the second bank have joined"),
    "fuel_composition": ("fuel composition", "in the supply line, where fuel keeps flowing"),
}


def needed(build: Build) -> dict[SensorKind, tuple[Need, str]]:
    """Which sensors this layout and strategy ask for, and why."""
    itb = build.engine.layout == "individual_throttles"
    timed = build.ignition.timed_by_unit
    phase = wants_phase(build) and not (build.sensors.trigger is not None and gives_phase(build.sensors.trigger))
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
    s = build.sensors
    if s.meter is not None:
        found["air_meter"] = ("optional", "it weighs the air itself")
    if s.narrowband is not None:
        found["narrowband_oxygen"] = ("optional", "it tells rich from lean, and not by how much")
        if s.narrowband.count > 1:
            found["narrowband_oxygen_2"] = ("optional", "a bank of its own")
    if s.composition is not None:
        found["fuel_composition"] = ("optional", "the blend moves with every fill")
    return found


def wants_phase(build: Build) -> bool:
    """Whether injection or ignition in sequence asks which of the two turns of a cycle it is."""
    return build.injectors.firing == "sequential" or build.ignition.kind == "coil_per_plug"


#: What this stage reads of the build.
READS = (
    "sensors", "engine.layout", "engine.boost", "engine.altitude", "engine.cooling", "air.by_wire", "air.consumers", "injectors.firing", "ignition.kind", "ignition.timed_by_unit",
    "ignition.speed_signal", "wiring.profile",
)  # fmt: skip


def work_out(build: Build) -> SensorsResult:
    """The sensor list, the coolant curve and the trigger's arithmetic."""
    rows = [_row(build, kind, need, why) for kind, (need, why) in needed(build).items()]
    s = build.sensors
    return SensorsResult(
        rows=rows,
        coolant=thermistor_curve("coolant", s.coolant),
        air=thermistor_curve("air", s.air),
        throttle=_throttle(s.throttle) if s.throttle else None,
        pressure=_pressure(build, s.pressure) if s.pressure else None,
        fuel_pressure=pressure_line(s.fuel_pressure),
        exhaust=exhaust.work_out(s.oxygen) if s.oxygen else None,
        oxygen=line(s.oxygen.read) if s.oxygen else None,
        key_on=keyon.rows(build),
        still=keyon.manifold_band(build),
        places=places(boosted=bool(build.engine.boost and build.engine.boost.si > 0)),
        strategy=table(build, {row.kind for row in rows if row.state != "struck"}),
    )


#: What stands for the coolant sensor on an engine that has none.
_BY_AIR = ("head temperature", "in the metal of the head, out of the fan's draught")


def _row(build: Build, kind: SensorKind, need: Need, why: str) -> SensorRow:
    label, place = _BY_AIR if kind == "coolant_temperature" and build.engine.cooling == "air" else LABELS[kind]
    state: State = build.sensors.decisions.get(kind, "proposed")
    pressure = build.sensors.pressure
    in_unit = kind == "manifold_pressure" and pressure is not None and pressure.sits == "in_unit"
    inside = in_unit or (build.wiring.profile == BODY_UNIT and kind in INSIDE_BODY)
    trigger = build.sensors.trigger
    return SensorRow(
        kind=kind, label=label, need=need, why=why, place=place, state=state, inside_unit=inside,
        two_wire=kind == "crank" and trigger is not None and trigger.sensor == "variable_reluctance",
        feed=_feed(build, kind),
        on_harness=not inside and (state == "fitted" or (state == "proposed" and need == "required")),
    )  # fmt: skip


def _feed(build: Build, kind: SensorKind) -> Feed:
    """What feeds a sensor: by its kind, a crank or cam sensor by its own sheet."""
    t = build.sensors.trigger
    if kind == "crank" and t is not None and t.wants == "12 V":
        return "twelve_volt"
    data = devices().sensor[kind]
    return "twelve_volt" if data.twelve_volt else "five_volt" if data.five_volt else "none"


SCREEN_LEAST = 0.85  # of the unit's own scale, that many of them take for wide open at the least


def _throttle(t: ThrottleSensor) -> ThrottleResult | None:
    if t.open is None or t.closed is None:
        return None
    span = t.open.si - t.closed.si
    kind, shown = screen_read(t.screen) if t.screen is not None else ("ratio", None)
    least = screen_read(t.screen_least)[1] if t.screen_least is not None else SCREEN_LEAST if kind == "ratio" else None
    return ThrottleResult(
        screen=shown,
        screen_least=least,
        screen_reached=None if shown is None or least is None else shown <= least if kind == "voltage" and span < 0 else shown >= least,
        span_v=abs(span),
        pedal_share=(t.pedal.si - t.closed.si) / span if t.pedal is not None and span else None,
        backwards=span < 0,
        zero_again=bool(t.stop_turned and (t.zeroed is None or t.stop_turned > t.zeroed)),
    )


def _pressure(build: Build, p: ManifoldSensor) -> PressureResult | None:
    own = pressure_line(p)
    if own is None:
        return None
    extra = air.P_SEA_LEVEL if p.reads == "gauge" else 0.0
    boost = build.engine.boost.si if build.engine.boost else 0.0
    must = 1.1 * (air.P_SEA_LEVEL + boost)
    typed = line(line_read(p.typed))
    at = (must / 1.1 - extra - own.offset) / own.slope if own.slope else 0.0
    port = next((c.port for c in build.air.consumers if c.kind == "pressure_sensor"), None)
    sharing = [c.kind for c in build.air.consumers if port is not None and c.port == port and c.kind != "pressure_sensor"]
    return PressureResult(
        line=own.model_copy(update={"low": own.low + extra, "high": own.high + extra}),
        must_read_pa=must,
        typed_off_pa=typed.offset + typed.slope * at - (own.offset + own.slope * at) if typed else None,
        shared_with=list(sharing),
    )


def _of(sender: str, name: str) -> Callable[[SensorsResult], float | None]:
    def take(r: SensorsResult) -> float | None:
        found: float | None = getattr(getattr(r, sender), name) if getattr(r, sender) is not None else None
        return found

    return take


FIGURES = (
    Spec("sensors.missing", "1", "Required sensors not confirmed",
         ("/sensors/decisions", "/engine/layout", "/engine/boost", "/ignition/kind", "/ignition/timed_by_unit", "/ignition/speed_signal", "/injectors/firing"), "the list for the layout and strategy",
         lambda r: sum(row.need == "required" and row.state != "fitted" for row in r.rows)),
    *(Spec(f"sensors.{name}.{key}", unit, f"{word} {what}", (f"/sensors/{sender}",), source, _of(sender, field))
      for name, sender, word in (("coolant_temperature", "coolant", "Coolant signal"), ("intake_air_temperature", "air", "Intake air signal"))
      for key, unit, what, field, source in (("at_20C", "V", "at 20 °C", "at_20c_v", "Steinhart-Hart (1968), 5 V divider"), ("at_90C", "V", "at 90 °C", "at_90c_v", "Steinhart-Hart (1968), 5 V divider"),
                                             ("step", "K", "to one step of the input, coarsest", "worst_step_k", "5 mV over the slope"))),
    *(Spec(f"sensors.share_error.{name}", "K", f"{word} reads wrong with the other reader by", (f"/sensors/{sender}",), "two pull-ups on one sender", _of(sender, "share_error_k"))
      for name, sender, word in (("coolant_temperature", "coolant", "Coolant"), ("intake_air_temperature", "air", "Intake air"))),
    Spec("sensors.throttle.pedal", "1", "Throttle that the pedal reaches, of the body's own stop", ("/sensors/throttle",), "volts live", lambda r: r.throttle.pedal_share if r.throttle else None, share=True),
    Spec("sensors.pressure.most", "kPa", "Manifold sensor reads up to, absolute", ("/sensors/pressure",), "straight line to 4.75 V", lambda r: r.pressure.line.high if r.pressure else None),
)  # fmt: skip
