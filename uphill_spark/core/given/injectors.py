"""The injectors: those that feed the engine, others in the box, how they are driven, and what the flow bench said."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from ..errors import UnitError
from ..units import DIMENSIONS, Of, Quantity, si
from .base import Cylinder, Name, Part, Photos, SetPressure, Volts

Enters = Literal["above_plates", "below_plates"]
TestFluid = Literal["n_heptane", "petrol", "working_fuel"]
Spray = Literal["cone", "streaky", "jet", "not_looked_at"]


class DeadTimePoint(Part):
    """How long the injector takes to open, less what it takes to close, at one voltage."""

    voltage: Volts = Field(title="Volts")
    time: Annotated[Quantity, Of("time", "0 ms", "5 ms", "0.9 ms")] | None = Field(default=None, title="Dead time")


class InjectorSheet(Part):
    """An injector by its figures."""

    name: Name = Field(title="Injector")
    flow: str = Field(max_length=60, title="Rated flow", description="Mass or volume a minute, each.", examples=["150 g/min"])
    rated_at: SetPressure = Field(title="Rated at")
    fluid: TestFluid = Field(
        default="n_heptane", title="Rated with", description="Rating fluid; sets the density that turns volume into mass."
    )
    resistance: Annotated[Quantity, Of("resistance", "0.5 ohm", "40 ohm", "14 ohm")] = Field(title="Coil resistance")
    dead_time: list[DeadTimePoint] = Field(default=[], max_length=20, title="Dead time", description="Empty: a usual figure is assumed.")
    connector: Name | None = Field(default=None, title="Connector", description="As you call it; the same word for the same plug.")

    @property
    def dead_times(self) -> list[tuple[float, float]]:
        """Volts and dead time [s] of the rows that hold both, by volts."""
        return sorted((p.voltage.si, p.time.si) for p in self.dead_time if p.time is not None)

    @model_validator(mode="after")
    def _readable(self) -> InjectorSheet:
        kind, value = flow_si(self.flow)
        low, high = (1e-4, 0.1) if kind == "mass flow" else (1e-7, 1e-4)
        if not low <= value <= high:
            raise ValueError(f"/flow|{self.flow}|a flow of one injector, between 6 g/min and 6000 g/min, like '150 g/min' or '210 cc/min'")
        volts = [p.voltage.si for p in self.dead_time]
        if len(set(volts)) != len(volts):
            raise ValueError(f"/dead_time|voltages {[str(p.voltage) for p in self.dead_time]}|one row for each voltage")
        return self


class InjectorChoice(InjectorSheet):
    """Injectors in the box that could be fitted."""

    pieces: int = Field(default=1, ge=1, le=200, title="How many there are")
    price: Name | None = Field(default=None, title="Price", description="As you were told it.")


class FlowTest(Part):
    """One injector on the flow bench: what it gave in a time, at a pressure, and how it looked."""

    mark: Annotated[str, Field(min_length=1, max_length=20, pattern=r"^[^\x00-\x1f\x7f]+$")] = Field(
        title="Mark", description="What is scratched or painted on it."
    )
    cleaned: bool = Field(default=False, title="After cleaning")
    volume: Annotated[Quantity, Of("volume", "0 mL", "2 L", "75 mL")] | None = Field(default=None, title="Caught")
    time: Annotated[Quantity, Of("time", "1 s", "600 s", "30 s")] | None = Field(default=None, title="Time")
    pressure: SetPressure | None = Field(default=None, title="Pressure")
    drops: int | None = Field(default=None, ge=0, le=600, title="Drops in a minute, shut", description="At pressure, not fired.")
    resistance: Annotated[Quantity, Of("resistance", "0.5 ohm", "40 ohm", "14 ohm")] | None = Field(default=None, title="Coil")
    spray: Spray = Field(default="not_looked_at", title="Spray")
    photos: Photos = []


class InjectorOutput(Part):
    """One output of the control unit and the cylinders whose injectors hang on it."""

    name: Name = Field(title="Output")
    cylinders: list[Cylinder] = Field(default=[], max_length=12, title="Feeds cylinders")


class SecondSet(InjectorSheet):
    """A second set, which joins in when the first nears its limit."""

    count: int = Field(ge=1, le=24, title="How many")


class PeakAndHold(Part):
    """What a peak-and-hold driver draws: a peak to open, then less to hold."""

    peak: Annotated[Quantity, Of("current", "0.5 A", "20 A", "4 A")] = Field(
        default=Quantity("4 A", 4.0), title="Peak", validate_default=True
    )
    hold: Annotated[Quantity, Of("current", "0.1 A", "10 A", "1 A")] = Field(
        default=Quantity("1 A", 1.0), title="Hold", validate_default=True
    )
    peak_time: Annotated[Quantity, Of("time", "0.1 ms", "10 ms", "1.2 ms")] = Field(
        default=Quantity("1.2 ms", 1.2e-3), title="Peak lasts", validate_default=True
    )


class Donor(Part):
    """The engine that injectors without a sheet came from: what they must have given there."""

    power: Annotated[Quantity, Of("power", "3 kW", "1000 kW", "110 kW")] = Field(title="Its power")
    injectors: int = Field(ge=1, le=24, title="Injectors on it")
    pressure: SetPressure = Field(title="Rail pressure there")
    duty: Annotated[Quantity, Of("ratio", "0.4", "0.95", "0.8")] = Field(
        default=Quantity("0.8", 0.8), title="Open there at most", description="0.8 is usual.", validate_default=True
    )


class Injectors(InjectorSheet):
    """The set of injectors that feeds the engine, and what is known of those that could."""

    altered: bool = Field(
        default=False,
        title="Opened up or altered",
        description="Then the mean of the flow bench is their figure, and a jet is what they spray.",
    )
    donor: Donor | None = Field(
        default=None, title="Without a sheet: from which engine", description="Their flow is then worked out, in pencil."
    )

    count: int = Field(ge=1, le=24, title="How many feed the engine")
    enters: Enters = Field(
        title="Fuel enters",
        description="Above the throttle plates it meets the open air, whatever the manifold holds; below them, and at the ports, the manifold.",
    )
    ballast: Annotated[Quantity, Of("resistance", "0 ohm", "20 ohm", "0 ohm")] = Field(
        default=Quantity("0 ohm", 0.0), title="Ballast resistor, each", validate_default=True
    )
    driver: Literal["saturated", "peak_and_hold"] = Field(title="Driver in the control unit")
    driver_limit: Annotated[Quantity, Of("current", "0.5 A", "20 A", "3 A")] = Field(title="Driver limit")
    peak_hold: PeakAndHold | None = Field(default=None, title="Peak and hold")
    per_driver: int = Field(default=1, ge=1, le=12, title="Injectors on one driver")
    firing: Literal["sequential", "every_turn"] = Field(title="Fires", description="Once in two turns, or every turn with half the fuel.")
    squirts: int | None = Field(
        default=None, ge=1, le=24, title="Squirts in two turns", description="Of each injector; empty: one sequential, two every turn."
    )
    duty_limit: Annotated[Quantity, Of("ratio", "0.3", "0.95", "0.8")] = Field(
        default=Quantity("0.8", 0.8), title="Duty wanted at most", description="0.80 usual; 0.85 is the hard limit.", validate_default=True
    )
    fed: Literal["fused_supply", "constant_ground"] = Field(
        default="fused_supply",
        title="Always connected to",
        description="The control unit switches the other side: it should be the ground.",
    )
    unit_compensates: bool = Field(
        default=False, title="Unit works out the pressure", description="It knows rail and manifold pressure and scales the pulse by both."
    )
    outputs: list[InjectorOutput] = Field(default=[], max_length=24, title="Outputs", description="In the order of the unit's own numbers.")
    second: SecondSet | None = Field(default=None, title="Second set, staged")
    box: list[InjectorChoice] = Field(default=[], max_length=200, title="Injectors in the box")
    bench_fluid: TestFluid = Field(default="n_heptane", title="Fluid on the flow bench")
    bench: list[FlowTest] = Field(default=[], max_length=100, title="Flow bench")

    @property
    def squirts_in_two_turns(self) -> int:
        """Squirts of each injector in two turns [1]: as told, else one where they fire in sequence and two otherwise."""
        return self.squirts or (1 if self.firing == "sequential" else 2)

    @property
    def flow_by_bench(self) -> tuple[list[FlowTest], TestFluid] | None:
        """What the flow bench said, of a set that was altered and whose flow it therefore is; None of one that flows as it is rated."""
        return (self.bench, self.bench_fluid) if self.altered else None

    @field_validator("bench")
    @classmethod
    def _one_test_each(cls, rows: list[FlowTest]) -> list[FlowTest]:
        seen = [(row.mark, row.cleaned) for row in rows]
        twice = next(
            (f"{mark} {'after' if cleaned else 'before'} cleaning" for mark, cleaned in seen if seen.count((mark, cleaned)) > 1), None
        )
        if twice:
            raise ValueError(f"|two tests of {twice}|one test before and one after cleaning for each mark")
        return rows


def flow_si(text: str, at: str = "/flow") -> tuple[Literal["mass flow", "volume flow"], float]:
    """A rated flow as mass [kg/s] or volume [m3/s], whichever its unit says; `at` is told as the place of what cannot be read."""
    try:
        return "mass flow", si(text, "mass flow")
    except UnitError:
        pass
    try:
        return "volume flow", si(text, "volume flow")
    except UnitError as error:
        why = str(error).replace("volume flow", "mass or volume flow").replace(DIMENSIONS["volume flow"].example, "150 g/min")
        raise ValueError(f"{at}|{text}|{why}") from error
