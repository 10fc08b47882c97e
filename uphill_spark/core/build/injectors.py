"""The injectors: one candidate, how it is driven and how often it fires."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..errors import UnitError
from ..units import DIMENSIONS, Of, Quantity, si
from .base import Name, Part, SetPressure, Volts

TestFluid = Literal["n_heptane", "petrol", "working_fuel"]


class DeadTimePoint(Part):
    """How long the injector takes to open, less what it takes to close, at one voltage."""

    voltage: Volts = Field(title="Volts")
    time: Annotated[Quantity, Of("time", "0 ms", "5 ms", "0.9 ms")] = Field(title="Dead time")


class Injectors(Part):
    """The set of injectors that feeds the engine."""

    name: Name = Field(title="Injector")
    count: int = Field(ge=1, le=24, title="How many feed the engine")
    flow: str = Field(max_length=60, title="Rated flow", description="Mass or volume a minute, each.", examples=["150 g/min"])
    rated_at: SetPressure = Field(title="Rated at")
    fluid: TestFluid = Field(
        default="n_heptane", title="Rated with", description="Rating fluid; sets the density that turns volume into mass."
    )
    resistance: Annotated[Quantity, Of("resistance", "0.5 ohm", "40 ohm", "14 ohm")] = Field(title="Coil resistance")
    ballast: Annotated[Quantity, Of("resistance", "0 ohm", "20 ohm", "0 ohm")] = Field(
        default=Quantity("0 ohm", 0.0), title="Ballast resistor, each", validate_default=True
    )
    driver: Literal["saturated", "peak_and_hold"] = Field(title="Driver in the control unit")
    driver_limit: Annotated[Quantity, Of("current", "0.5 A", "20 A", "3 A")] = Field(title="Driver limit")
    per_driver: int = Field(default=1, ge=1, le=12, title="Injectors on one driver")
    firing: Literal["sequential", "every_turn"] = Field(title="Fires", description="Once in two turns, or every turn with half the fuel.")
    duty_limit: Annotated[Quantity, Of("ratio", "0.3", "0.95", "0.8")] = Field(
        default=Quantity("0.8", 0.8), title="Duty wanted at most", description="0.80 usual; 0.85 is the hard limit.", validate_default=True
    )
    dead_time: list[DeadTimePoint] = Field(default=[], max_length=20, title="Dead time", description="Empty: a usual figure is assumed.")

    @model_validator(mode="after")
    def _readable(self) -> Injectors:
        kind, value = flow_si(self.flow)
        low, high = (1e-4, 0.1) if kind == "mass flow" else (1e-7, 1e-4)
        if not low <= value <= high:
            raise ValueError(f"/flow|{self.flow}|a flow of one injector, between 6 g/min and 6000 g/min, like '150 g/min' or '210 cc/min'")
        volts = [p.voltage.si for p in self.dead_time]
        if len(set(volts)) != len(volts):
            raise ValueError(f"/dead_time|voltages {[str(p.voltage) for p in self.dead_time]}|one row for each voltage")
        return self


def flow_si(text: str) -> tuple[Literal["mass flow", "volume flow"], float]:
    """A rated flow as mass (kg/s) or volume (m3/s), whichever its unit says."""
    try:
        return "mass flow", si(text, "mass flow")
    except UnitError:
        pass
    try:
        return "volume flow", si(text, "volume flow")
    except UnitError as error:
        why = str(error).replace("volume flow", "mass or volume flow").replace(DIMENSIONS["volume flow"].example, "150 g/min")
        raise ValueError(f"/flow|{text}|{why}") from error
