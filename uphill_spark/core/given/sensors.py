"""Sensors and trigger: which are fitted, how the thermistor reads, what the trigger wheel is."""

from __future__ import annotations

import itertools
from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..errors import UnitError
from ..units import Of, Quantity, si
from .base import Day, Name, Part, Temperature, Volts
from .trigger import Trigger

SensorKind = Literal[
    "coolant_temperature",
    "intake_air_temperature",
    "throttle_position",
    "manifold_pressure",
    "wideband_oxygen",
    "crank",
    "cam",
    "fuel_pressure",
    "air_meter",
    "narrowband_oxygen",
    "narrowband_oxygen_2",
    "fuel_composition",
]
Seen = Literal["yes", "no", "not_looked_at"]
Ohms = Annotated[Quantity, Of("resistance", "1 ohm", "1000 kohm", "2450 ohm")]


class ThermistorPoint(Part):
    """One measured pair."""

    temperature: Temperature | None = Field(default=None, title="Temperature")
    resistance: Ohms | None = Field(default=None, title="Resistance")


class Reader(Part):
    """Another instrument that reads the same sender: a gauge, a fan switch, the old box."""

    name: Name = Field(title="Also read by", examples=["temperature gauge"])
    pull_up: Ohms = Field(title="Its resistor or coil", description="From its supply to the sender.")
    supply: Volts = Field(default=Quantity("12 V", 12.0), title="fed with", validate_default=True)


class Thermistor(Part):
    """Pairs from a pan of ice, a room and a kettle, and the pull-up it is read through."""

    points: list[ThermistorPoint] = Field(default=[], max_length=40, title="Points", description="Three or more.")
    falls: bool = Field(default=True, title="Resistance falls as it gets hotter", description="Nearly all do.")
    pull_up: Ohms | None = Field(default=None, title="Pull-up resistor")
    coldest: Temperature = Field(default=Quantity("-20 degC", 253.15), title="Wanted from", validate_default=True)
    hottest: Temperature = Field(default=Quantity("120 degC", 393.15), title="Wanted up to", validate_default=True)
    shared: Reader | None = Field(default=None, title="Shared sender")

    @property
    def read(self) -> list[tuple[Quantity, Quantity]]:
        """Temperature and resistance of the points of which both were read."""
        return [(p.temperature, p.resistance) for p in self.points if p.temperature is not None and p.resistance is not None]

    @model_validator(mode="after")
    def _falls(self) -> Thermistor:
        for (cold, high), (hot, low) in itertools.pairwise(sorted(self.read, key=lambda pair: pair[0].si)):
            if hot.si - cold.si < 1 or low.si == high.si or (low.si < high.si) != self.falls:
                way = "falls" if self.falls else "rises"
                raise ValueError(
                    f"/points|{high} at {cold}, {low} at {hot}|different temperatures, with resistance that {way} as it gets hotter"
                )
        if self.hottest.si - self.coldest.si < 10:
            raise ValueError(f"/hottest|{self.hottest}|a range of at least 10 K over {self.coldest}")
        return self


class CoolantSender(Thermistor):
    """The coolant sensor: where it sits, and how it is grounded."""

    place: Literal["before_thermostat", "head", "dead_pocket", "radiator", "heater_hose", "not_chosen"] = Field(
        default="not_chosen", title="Sits", description="Engine side of the thermostat, in moving coolant."
    )
    wires: int = Field(default=2, ge=1, le=2, title="Wires", description="One: it grounds through its body.")
    seal: Literal["none", "washer", "thread_tape", "paste"] = Field(default="none", title="Thread sealed with")
    body: Annotated[Quantity, Of("resistance", "0 ohm", "10 kohm", "0.4 ohm")] | None = Field(
        default=None, title="Body to block", description="Ohms, screwed home: under 1."
    )


class AirSender(Thermistor):
    """The intake air sensor and where it sits."""

    place: Literal["after_filter", "plastic_plenum", "metal_plenum", "runner", "after_blower", "near_exhaust", "not_chosen"] = Field(
        default="not_chosen", title="Sits", description="In moving air after the filter, out of reach of heat."
    )


class LinearPoint(Part):
    """Volts and what they stand for."""

    volts: Volts | None = Field(default=None, title="Volts")
    value: Annotated[str, Field(max_length=40)] | None = Field(default=None, title="stands for", examples=["100 kPa"])


class PressureSensor(Part):
    """A pressure sensor by the line on its sheet, or by readings."""

    points: list[LinearPoint] = Field(default=[], max_length=40, title="Volts and pressure", description="Two or more.")
    reads: Literal["absolute", "gauge"] = Field(default="absolute", title="Reads")

    @model_validator(mode="after")
    def _readable(self) -> PressureSensor:
        _are_pressures("points", self.points)
        read = line_read(self.points)
        if len(read) > 1 and len({volts for volts, _ in read}) < 2:
            raise ValueError(f"/points|all at {self.points[0].volts}|two different voltages")
        if len(read) > 1 and len({pressure for _, pressure in read}) < 2:
            raise ValueError(f"/points|all for {self.points[0].value}|two different pressures")
        return self


def line_read(points: list[LinearPoint]) -> list[tuple[float, float]]:
    """Volts and pressure [Pa] of the points of which both were read."""
    return [(p.volts.si, si(p.value, "pressure")) for p in points if p.volts is not None and p.value is not None]


def _are_pressures(name: str, points: list[LinearPoint]) -> None:
    for i, p in enumerate(points):
        if p.value is None:
            continue
        try:
            si(p.value, "pressure")
        except UnitError as error:
            raise ValueError(f"/{name}/{i}/value|{p.value}|{error}") from error


class ManifoldSensor(PressureSensor):
    """The manifold pressure sensor: its line, the curve chosen in the unit, its hose."""

    sits: Literal["own", "in_unit", "not_noted"] = Field(
        default="not_noted", title="Sensor sits", description="By itself, or inside the control unit with a hose to it."
    )
    hose_length: Annotated[Quantity, Of("length", "0 mm", "5 m", "400 mm")] | None = Field(default=None, title="Hose to it")
    typed: list[LinearPoint] = Field(default=[], max_length=2, title="Line chosen in the unit", description="Empty: the same.")
    hose: Literal["rises", "level", "sags", "not_looked_at"] = Field(
        default="not_looked_at", title="Its hose", description="Rising to the sensor, so that fuel drains."
    )

    @model_validator(mode="after")
    def _chosen(self) -> ManifoldSensor:
        _are_pressures("typed", self.typed)
        return self


class FuelPressureSensor(PressureSensor):
    """The fuel pressure sensor: its line and where it sits on the path."""

    sits: Literal["after_filter", "before_filter", "return", "not_chosen"] = Field(
        default="not_chosen", title="Sits", description="Pressure side, after the filter, before the regulator."
    )


ScreenReading = Annotated[str, Field(max_length=40)]


def screen_read(text: str) -> tuple[Literal["ratio", "voltage"], float]:
    """A reading of the unit's own throttle scale: a share [-] or volts [V]. Raises UnitError."""
    try:
        return "ratio", si(text, "ratio")
    except UnitError:
        return "voltage", si(text, "voltage")


class ThrottleSensor(Part):
    """Volts of the throttle sensor as they were read live."""

    closed: Volts | None = Field(default=None, title="Shut", description="Foot off, on the stop screw.")
    open: Volts | None = Field(default=None, title="At the body's own stop", description="Plate turned by hand.")
    pedal: Volts | None = Field(default=None, title="Pedal pressed to the floor")
    screen: ScreenReading | None = Field(
        default=None, title="Unit's own scale, pedal down", description="As its screen shows it, in percent or in volts.", examples=["96 %"]
    )
    screen_least: ScreenReading | None = Field(
        default=None, title="Unit wants at least", description="Its own limit for wide open. Empty: 85 %.", examples=["90 %"]
    )
    zeroed: Day | None = Field(default=None, title="Zeroed on")
    stop_turned: Day | None = Field(default=None, title="Stop screw last turned on")

    @model_validator(mode="after")
    def _screen(self) -> ThrottleSensor:
        kinds = {}
        for name in ("screen", "screen_least"):
            text = getattr(self, name)
            if text is None:
                continue
            try:
                kinds[name], _ = screen_read(text)
            except UnitError as error:
                raise ValueError(f"/{name}|{text}|a share like '96 %' or volts like '4.3 V'") from error
        if len(set(kinds.values())) > 1:
            raise ValueError(f"/screen_least|{self.screen_least}|the same kind as the reading, {self.screen}: percent or volts")
        return self


class Stretch(Part):
    """A piece of the exhaust from the ports back: a straight, and the bend at its end."""

    length: Annotated[Quantity, Of("length", "0 mm", "5 m", "400 mm")] | None = Field(default=None, title="Straight")
    bend: Annotated[Quantity, Of("angle", "0 deg", "180 deg", "0 deg")] = Field(
        default=Quantity("0 deg", 0.0), title="then a bend of", validate_default=True
    )
    what: Literal["pipe", "merge", "catalyst", "silencer", "flexible"] = Field(
        default="pipe", title="It is", description="A merge: here the pipes of the bank join."
    )


class LambdaPoint(Part):
    """Volts of an oxygen sensor's controller and the lambda that they stand for."""

    volts: Volts | None = Field(default=None, title="Volts")
    value: Annotated[float, Field(ge=0.5, le=3.0, allow_inf_nan=False)] | None = Field(default=None, title="Lambda", examples=["1.0"])


class OxygenSensor(Part):
    """The exhaust as a list, and where the oxygen sensor sits."""

    path: list[Stretch] = Field(default=[], max_length=20, title="Exhaust, from the ports to the tail")
    distance: Annotated[Quantity, Of("length", "0 mm", "8 m", "600 mm")] | None = Field(
        default=None, title="Sensor after the ports", description="Along the pipe."
    )
    clock: Annotated[Quantity, Of("angle", "-90 deg", "90 deg", "45 deg")] | None = Field(
        default=None, title="Above level", description="0 level, 90 straight up, less than 0 below the pipe."
    )
    nearest: Annotated[Quantity, Of("length", "0 mm", "3 m", "600 mm")] | None = Field(
        default=None, title="By its sheet, from the port at least", description="Empty: 600 mm of pipe cool enough for most."
    )
    farthest: Annotated[Quantity, Of("length", "0 mm", "5 m", "1.2 m")] | None = Field(default=None, title="and at most")
    clock_least: Annotated[Quantity, Of("angle", "-90 deg", "90 deg", "10 deg")] | None = Field(
        default=None, title="Above level by its sheet, from"
    )
    clock_most: Annotated[Quantity, Of("angle", "-90 deg", "90 deg", "80 deg")] | None = Field(default=None, title="up to")
    boss: Literal["welded", "clamped", "not_noted"] = Field(
        default="not_noted", title="Its boss", description="Welded in, or clamped on over a 19 mm hole with a gasket."
    )
    leak: Literal["tight", "leaks", "not_looked_at"] = Field(
        default="not_looked_at", title="Boss is", description="Soapy water on a cold start: a leak before it reads lean."
    )
    banks: Literal["all_joined", "one_only", "not_noted"] = Field(
        default="not_noted", title="Banks before it", description="Vee and flat engines: whether both banks have joined there."
    )
    points: list[LambdaPoint] = Field(
        default=[], max_length=20, title="Volts and lambda", description="From its sheet; empty where it speaks over a bus."
    )

    @model_validator(mode="after")
    def _line(self) -> OxygenSensor:
        if len(self.read) > 1 and len({volts for volts, _ in self.read}) < 2:
            raise ValueError(f"/points|{len(self.read)} points at one voltage|two points at different voltages, or none")
        return self

    @property
    def read(self) -> list[tuple[float, float]]:
        """Volts [V] and lambda [-] of the points of which both were read."""
        return [(p.volts.si, p.value) for p in self.points if p.volts is not None and p.value is not None]


class AirMeter(Part):
    """A meter that weighs the air on its way in: what joins after it is counted, what joins before it or past it is not."""

    sits: Literal["after_filter", "after_blower", "not_chosen"] = Field(default="not_chosen", title="Meter sits")
    breather: Literal["after", "before", "not_looked_at"] = Field(
        default="not_looked_at", title="Crankcase breather joins", description="After the meter, so that its air is counted."
    )
    other_air: Literal["after", "past_it", "none", "not_looked_at"] = Field(
        default="not_looked_at", title="All other air", description="Idle valve, purge, booster bleed: drawn from behind the meter."
    )
    most: Annotated[Quantity, Of("mass flow", "20 kg/h", "2000 kg/h", "400 kg/h")] | None = Field(default=None, title="Reads up to")


class Narrowband(Part):
    """An oxygen sensor that tells only rich from lean: near 0.45 V at lambda 1, 0.1 lean, 0.9 rich."""

    count: int = Field(default=1, ge=1, le=2, title="How many", description="One a bank, or one after both have joined.")
    lean: Volts | None = Field(default=None, title="Shows, lean", description="Hot; throttle shut on the over-run.")
    rich: Volts | None = Field(default=None, title="Shows, rich", description="Hot; choked for a moment.")


class FuelComposition(Part):
    """A sensor that tells how much alcohol is in the fuel, and what is in the tank now."""

    blend: Annotated[Quantity, Of("ratio", "0 %", "100 %", "10 %")] | None = Field(default=None, title="Alcohol in the tank now")
    unit_follows: Seen = Field(default="not_looked_at", title="Unit scales its fuel by it")
    sits: Literal["supply", "return", "not_chosen"] = Field(
        default="not_chosen", title="Sits in the", description="Where fuel keeps flowing."
    )


class KeyOn(Part):
    """What the unit's screen shows with the key on, engine off and cold."""

    coolant: Temperature | None = Field(default=None, title="Coolant")
    air: Temperature | None = Field(default=None, title="Intake air")
    outside: Temperature | None = Field(default=None, title="Thermometer")
    manifold: Annotated[Quantity, Of("pressure", "10 kPa", "400 kPa", "97 kPa")] | None = Field(default=None, title="Manifold pressure")
    weather: Annotated[Quantity, Of("pressure", "900 hPa", "1080 hPa", "1013 hPa")] | None = Field(
        default=None, title="Barometer, at sea level", description="From the weather report. Empty: an average day."
    )
    throttle: Annotated[Quantity, Of("ratio", "-20 %", "120 %", "0 %")] | None = Field(default=None, title="Throttle, foot off")
    battery: Volts | None = Field(default=None, title="Battery")


class Sensors(Part):
    """What the person says of each proposed sensor, and the figures of those that need scaling."""

    decisions: dict[SensorKind, Literal["fitted", "struck"]] = Field(default={}, title="Sensors, confirmed or struck")
    coolant: CoolantSender | None = Field(default=None, title="Coolant sensor")
    air: AirSender | None = Field(default=None, title="Intake air sensor")
    throttle: ThrottleSensor | None = Field(default=None, title="Throttle sensor")
    pressure: ManifoldSensor | None = Field(default=None, title="Manifold pressure sensor")
    fuel_pressure: FuelPressureSensor | None = Field(default=None, title="Fuel pressure sensor")
    oxygen: OxygenSensor | None = Field(default=None, title="Oxygen sensor and exhaust")
    meter: AirMeter | None = Field(default=None, title="Air meter")
    narrowband: Narrowband | None = Field(default=None, title="Narrowband oxygen sensor")
    composition: FuelComposition | None = Field(default=None, title="Fuel composition sensor")
    key_on: KeyOn | None = Field(default=None, title="Key on, engine off and cold")
    trigger: Trigger | None = Field(default=None, title="Trigger wheel")
