"""Sensors and trigger: which are fitted, how the thermistor reads, what the trigger wheel is."""

from __future__ import annotations

import itertools
from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..units import Of, Quantity
from .base import CrankAngle, Part, Temperature

SensorKind = Literal[
    "coolant_temperature",
    "intake_air_temperature",
    "throttle_position",
    "manifold_pressure",
    "wideband_oxygen",
    "crank",
    "cam",
    "fuel_pressure",
]
Ohms = Annotated[Quantity, Of("resistance", "1 ohm", "1000 kohm", "2450 ohm")]


class ThermistorPoint(Part):
    """One measured pair."""

    temperature: Temperature = Field(title="Temperature")
    resistance: Ohms = Field(title="Resistance")


class Thermistor(Part):
    """Three pairs from a pan of ice, a room and a kettle, and the pull-up it is read through."""

    points: list[ThermistorPoint] = Field(min_length=3, max_length=3, title="Three points")
    pull_up: Ohms = Field(title="Pull-up resistor")

    @model_validator(mode="after")
    def _falls(self) -> Thermistor:
        ordered = sorted(self.points, key=lambda p: p.temperature.si)
        for cold, hot in itertools.pairwise(ordered):
            if hot.temperature.si - cold.temperature.si < 1 or hot.resistance.si >= cold.resistance.si:
                raise ValueError(
                    f"/points|{cold.resistance} at {cold.temperature}, {hot.resistance} at {hot.temperature}|three different temperatures, with resistance that falls as it gets hotter"
                )
        return self


class Trigger(Part):
    """A toothed wheel on the crank and the sensor that reads it."""

    teeth: int = Field(ge=4, le=120, title="Teeth, counting the missing", description="N of an N-M wheel.")
    missing: int = Field(ge=0, le=4, title="Missing teeth")
    sensor: Literal["hall", "variable_reluctance"] = Field(title="Sensor type")
    angle: CrankAngle | None = Field(
        default=None,
        title="Trigger angle",
        description="Crank degrees from the first tooth after the gap to top dead centre of number one.",
    )
    stroke: Literal["compression", "exhaust", "not_checked"] = Field(default="not_checked", title="Set on number one's")
    light_commanded: Annotated[Quantity, Of("angle", "-60 deg", "90 deg", "10 deg")] | None = Field(default=None, title="Timing locked at")
    light_observed: Annotated[Quantity, Of("angle", "-60 deg", "90 deg", "10 deg")] | None = Field(default=None, title="Light shows")

    @model_validator(mode="after")
    def _possible(self) -> Trigger:
        if self.missing * 2 >= self.teeth:
            raise ValueError(f"/missing|{self.teeth}-{self.missing}|fewer than half of the teeth missing, like 36-1 or 60-2")
        return self


class Sensors(Part):
    """What the person says of each proposed sensor, and the figures of those that need scaling."""

    decisions: dict[SensorKind, Literal["fitted", "struck"]] = Field(default={}, title="Sensors, confirmed or struck")
    coolant: Thermistor | None = Field(default=None, title="Coolant thermistor")
    trigger: Trigger | None = Field(default=None, title="Trigger wheel")
