"""The fuel system as fitted: tank, pump, regulator, and the path of parts between them."""

from __future__ import annotations

import itertools
from functools import cached_property
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from ..units import Of, Quantity
from .base import Amps, Bore, Name, Part, Pressure, Rise, RunLength, SetPressure
from .path import Scheme, Sections, check_path, cut

FittingKind = Literal["entry", "exit", "elbow_90", "bend_90", "elbow_45", "tee_branch", "tee_run", "banjo"]
LineMaterial = Literal["steel_tube", "copper_nickel_tube", "soft_alloy_tube", "nylon_tube", "30R6", "30R7", "30R9", "30R10", "30R14T2"]


Fineness = Annotated[Quantity, Of("length", "1 um", "1 mm", "10 um")]
Surface = Annotated[Quantity, Of("length", "-6 m", "6 m", "0.1 m")]
RatedFlow = Annotated[Quantity, Of("volume flow", "1 L/h", "2000 L/h", "150 L/h")]


class PumpPoint(Part):
    """One row of a pump's sheet."""

    voltage: Annotated[Quantity, Of("voltage", "4 V", "30 V", "13.5 V")] = Field(title="Volts")
    pressure: Pressure = Field(title="Pressure")
    flow: Annotated[Quantity, Of("volume flow", "0 L/h", "2000 L/h", "150 L/h")] = Field(title="Flow")
    current: Amps = Field(title="Amps")


class PumpSheet(Part):
    """A pump by its table of figures."""

    name: Name = Field(title="Pump")
    curve: list[PumpPoint] = Field(title="Pump table", min_length=2, max_length=200, description="From its sheet: at least two pressures.")

    @field_validator("curve")
    @classmethod
    def _falls(cls, rows: list[PumpPoint]) -> list[PumpPoint]:
        if len({round(row.pressure.si) for row in rows}) < 2:
            raise ValueError(f"|all rows at {rows[0].pressure}|rows at two different pressures at least")
        by_volts: dict[float, list[PumpPoint]] = {}
        for row in rows:
            by_volts.setdefault(round(row.voltage.si, 3), []).append(row)
        for same in by_volts.values():
            ordered = sorted(same, key=lambda row: row.pressure.si)
            for low, high in itertools.pairwise(ordered):
                if high.flow.si > low.flow.si:
                    raise ValueError(
                        f"|{high.flow} at {high.pressure} is more than {low.flow} at {low.pressure}, both at {high.voltage}|flow that does not rise as pressure rises"
                    )
                if high.pressure.si == low.pressure.si and high.flow.si != low.flow.si:
                    raise ValueError(
                        f"|two flows, {low.flow} and {high.flow}, at {high.pressure} and {high.voltage}|one row for each point"
                    )
        return rows


class RatedPoint(Part):
    """The one figure by which a pump is known, or what its label says."""

    flow: RatedFlow = Field(title="Gives", examples=["190 L/h"])
    pressure: Pressure = Field(default=Quantity("300 kPa", 300e3), title="at", validate_default=True)
    voltage: Annotated[Quantity, Of("voltage", "4 V", "30 V", "13.5 V")] = Field(
        default=Quantity("13.5 V", 13.5), title="on", validate_default=True
    )
    current: Amps | None = Field(default=None, title="drawing", description="Empty: usual for its flow.")


#: Which way the arrow on a part points, where it has one.
Arrow = Literal["as_flow", "against", "none", "not_looked_at"]


class Pump(PumpSheet):
    """The pump that is fitted."""

    rated: RatedPoint | None = Field(
        default=None,
        title="Known by one figure",
        description="Or by its label. The rest of its table is filled in by the usual shape, in pencil.",
    )
    arrow: Arrow = Field(default="not_looked_at", title="Arrow on the pump")

    place: Literal["in_tank", "external"] = Field(title="Where it sits")
    control: Literal["control_unit", "relay_with_cutout", "key"] = Field(
        title="Switched by", description="It must stop by itself when the engine stops: control unit, or a relay with a cut-out."
    )
    inlet_bore: Bore | None = Field(default=None, title="Inlet bore")
    outlet_bore: Bore | None = Field(default=None, title="Outlet bore")
    relief: Pressure | None = Field(default=None, title="Relief valve opens at")


class PumpChoice(PumpSheet):
    """Another pump that could be fitted, to hold beside the one that is."""

    price: Name | None = Field(default=None, title="Price", description="As you were told it.")


class Fittings(Part):
    """A kind of fitting in a run and how many of it."""

    kind: FittingKind = Field(title="Fitting")
    count: int = Field(ge=0, le=60, title="Count")
    bore: Bore | None = Field(
        default=None, title="Own bore", description="Drill size inside; the run's if left empty. It matters more than the hose's."
    )


Route = Literal["outside", "cabin_continuous", "cabin_with_joints"]
Clamps = Literal["flared_or_crimped", "rolled_edge", "slotted_band"]
ClipSpacing = Annotated[Quantity, Of("length", "50 mm", "3 m", "300 mm")]


class Run(Part):
    """A run of tube or hose."""

    kind: Literal["run"] = Field(title="Kind")
    material: LineMaterial = Field(title="Material")
    bore: Bore = Field(title="Bore")
    length: RunLength = Field(title="Length")
    rise: Rise = Field(
        default=Quantity("0 m", 0.0), title="Rise", description="Height of the far end above the near end.", validate_default=True
    )
    fittings: list[Fittings] = Field(default=[], max_length=20, title="Fittings")
    exhaust_distance: Annotated[Quantity, Of("length", "0 mm", "3 m", "150 mm")] | None = Field(
        default=None, title="Nearest to the exhaust"
    )
    shielded: bool = Field(default=False, title="Heat shield there")
    route: Route = Field(default="outside", title="Route", description="Through the cabin only in continuous metal without joints.")
    in_fuel: bool = Field(default=False, title="Lies in the fuel", description="Inside the tank: hose made for that only, 30R10.")
    clamps: Clamps = Field(default="flared_or_crimped", title="Ends")
    clips: ClipSpacing = Field(default=Quantity("300 mm", 0.3), title="Clipped every", validate_default=True)


class Filter(Part):
    """A filter anywhere on the path: a coarse strainer before the pump, a fine one after it."""

    kind: Literal["filter"] = Field(title="Kind")
    pressure_drop: Annotated[Quantity, Of("pressure", "0 kPa", "300 kPa", "12 kPa")] = Field(title="Pressure drop, clean")
    at_flow: RatedFlow = Field(title="Flow at that drop")
    fluid: Literal["petrol", "working_fuel"] = Field(default="petrol", title="Rated with", description="Thicker fuel drops more.")
    fineness: Fineness = Field(
        default=Quantity("10 um", 10e-6),
        title="Fineness",
        description="About 100 um before the pump, 10 um after it for injectors.",
        validate_default=True,
    )
    arrow: Arrow = Field(default="not_looked_at", title="Arrow on the filter", description="Points the way the fuel goes.")
    due: bool = Field(default=False, title="Due for change", description="A filter that is due drops about three times as much.")


class CheckValve(Part):
    """A valve that lets fuel one way only, so that the line stays full."""

    kind: Literal["check_valve"] = Field(title="Kind")
    opens_at: Annotated[Quantity, Of("pressure", "0 kPa", "100 kPa", "3 kPa")] = Field(title="Opens at")
    pressure_drop: Annotated[Quantity, Of("pressure", "0 kPa", "200 kPa", "5 kPa")] = Field(
        title="Pressure drop", description="Over what opens it."
    )
    at_flow: RatedFlow = Field(title="Flow at that drop")


class Damper(Part):
    """A damper that takes the pulses of pump and injectors out of the line."""

    kind: Literal["damper"] = Field(title="Kind")
    pressure_drop: Annotated[Quantity, Of("pressure", "0 kPa", "200 kPa", "2 kPa")] = Field(title="Pressure drop")
    at_flow: RatedFlow = Field(title="Flow at that drop")


PathPart = Annotated[Run | Filter | CheckValve | Damper, Field(discriminator="kind")]
PartName = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,39}$")]


class Tank(Part):
    """The tank, and the fuel in it at its worst."""

    head: Surface = Field(
        default=Quantity("0.1 m", 0.1),
        title="Fuel surface above the pick-up",
        description="At a quarter tank; in the tank, the pick-up is the pump's own inlet.",
        validate_default=True,
    )
    vent_drop: Annotated[Quantity, Of("pressure", "0 kPa", "20 kPa", "0.5 kPa")] = Field(
        default=Quantity("0.5 kPa", 500.0), title="Vent, pressure below ambient", validate_default=True
    )
    volume: Annotated[Quantity, Of("volume", "1 L", "500 L", "60 L")] = Field(
        default=Quantity("60 L", 0.06), title="Tank holds", validate_default=True
    )
    hottest: Annotated[Quantity, Of("temperature", "0 degC", "80 degC", "45 degC")] = Field(
        default=Quantity("45 degC", 318.15), title="Hottest fuel expected", validate_default=True
    )
    reid: Annotated[Quantity, Of("pressure", "20 kPa", "110 kPa", "62 kPa")] | None = Field(
        default=None, title="Reid vapour pressure", description="Empty: usual for the fuel and the season."
    )
    leaded: bool = Field(default=False, title="Leaded fuel or additive")
    return_enters: Literal["below_fuel", "drop_tube", "above_fuel"] = Field(default="below_fuel", title="Return enters")


class Lift(Part):
    """A lift pump that fills a surge tank, from which the injection pump draws."""

    name: Name = Field(title="Lift pump")
    flow: Annotated[Quantity, Of("volume flow", "5 L/h", "2000 L/h", "120 L/h")] = Field(title="Flow at its own voltage")
    listed_at: Annotated[Quantity, Of("voltage", "6 V", "16 V", "13.5 V")] = Field(
        default=Quantity("13.5 V", 13.5), title="Its own voltage", description="At which its flow is listed.", validate_default=True
    )
    current: Annotated[Quantity, Of("current", "0.3 A", "25 A", "4 A")] = Field(
        default=Quantity("4 A", 4.0), title="Draws", description="From its sheet.", validate_default=True
    )
    usable: Annotated[Quantity, Of("volume", "0.1 L", "20 L", "1.5 L")] = Field(title="Surge tank, usable")
    head: Surface = Field(
        default=Quantity("0.1 m", 0.1), title="Fuel in it above its outlet", description="Running full.", validate_default=True
    )


class LineUser(Part):
    """A second user of the line: its own flow, for good or for a while."""

    name: Name = Field(title="It is", examples=["cold-start jet"])
    flow: Annotated[Quantity, Of("volume flow", "0.1 L/h", "500 L/h", "10 L/h")] = Field(title="Takes")
    sized_at: Pressure = Field(title="Sized at", description="Through a jet flow goes with the root of the pressure.")
    runs: Literal["always", "full_power", "cranking"] = Field(default="always", title="Runs")


class FuelBody(Part):
    """What a throttle body brings along of the fuel system."""

    own_regulator: Literal["none", "used", "taken_out", "left_in", "not_looked_at"] = Field(
        default="not_looked_at", title="Its own regulator", description="Used, taken out and blanked, or left in beside another."
    )
    return_port: Literal["none", "used", "plugged", "open", "not_looked_at"] = Field(
        default="not_looked_at", title="Its return port", description="With the regulator elsewhere it is plugged, with its own it is used."
    )
    inlet: Name | None = Field(
        default=None, title="Inlet that is used", description="Of several: by its place on the body; the others plugged."
    )


class FuelMeasured(Part):
    """What was measured on the running or opened system: it wins over what is worked out."""

    return_pressure: Pressure | None = Field(
        default=None, title="Pressure in the return, measured", description="Gauge teed in behind the regulator, pump running, engine off."
    )
    caught: Annotated[Quantity, Of("volume", "1 mL", "50 L", "900 mL")] | None = Field(
        default=None,
        title="Ran out by itself",
        description="Hose off at the pump's inlet, led into a can as low as the pump. No flame, battery off.",
    )
    caught_in: Annotated[Quantity, Of("time", "1 s", "600 s", "15 s")] = Field(
        default=Quantity("15 s", 15.0), title="in", validate_default=True
    )


class Regulator(Part):
    """The pressure regulator; the scheme says where it sits."""

    set_pressure: SetPressure = Field(title="Set pressure", description="Gauge, at the rail, reference open to air.")
    reference: Literal["manifold", "open_air", "duct"] = Field(
        title="Spring side sees", description="Where the injectors spray: manifold, open air, or the duct between blower and plates."
    )


class FuelSystem(Part):
    """From tank to rail and back."""

    design_margin: Annotated[Quantity, Of("ratio", "1:1", "5:1", "1.2:1")] = Field(
        default=Quantity("1.2", 1.2), title="Margin wanted", description="Pump capacity over need at full power.", validate_default=True
    )
    seals: Literal["fit", "not_fit", "not_looked_at"] = Field(
        default="not_looked_at", title="Seals and hose", description="For the fuel's alcohol: pump, injectors, regulator, tank."
    )
    crash_switch: bool | None = Field(
        default=None, title="Crash or roll-over switch", description="In the pump's feed, besides what stops it."
    )
    tank: Tank = Field(default=Tank(), title="Tank")
    lift: Lift | None = Field(default=None, title="Lift pump and surge tank")
    pump: Pump
    users: list[LineUser] = Field(default=[], max_length=8, title="Second users of the line")
    body: FuelBody | None = Field(default=None, title="Body's own regulator and ports")
    rails: Literal["one", "in_series", "split", "not_noted"] = Field(
        default="not_noted", title="Rails", description="Vee and flat engines: one after the other, or a branch for each bank."
    )
    measured: FuelMeasured | None = Field(default=None, title="Measured on the system")
    candidates: list[PumpChoice] = Field(default=[], max_length=12, title="Other pumps to compare")
    regulator: Regulator
    path: list[PartName] = Field(
        max_length=60, title="Path", description="Names in the order in which fuel meets them, from the tank to the rail and back."
    )
    parts: dict[PartName, PathPart] = Field(max_length=50, title="Parts on the path")

    @model_validator(mode="after")
    def _strung(self) -> FuelSystem:
        check_path(self.path, self.parts, self.lift is not None)
        return self

    @cached_property
    def sections(self) -> Sections:
        """The path cut at pump, rail and regulator."""
        return cut(self.path)

    @property
    def scheme(self) -> Scheme:
        """Return from the rail, regulator before the rail, or dead-head: read off the path."""
        return self.sections.scheme

    def runs(self, names: tuple[str, ...]) -> dict[str, Run]:
        """The runs of tube and hose among `names`."""
        return {name: part for name in names if isinstance(part := self.parts[name], Run)}

    def filters(self, names: tuple[str, ...]) -> dict[str, Filter]:
        """The filters among `names`."""
        return {name: part for name in names if isinstance(part := self.parts[name], Filter)}
