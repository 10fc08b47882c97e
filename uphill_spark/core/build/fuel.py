"""The fuel system as fitted: pump and the wire to it, supply line, filter, regulator, return line."""

from __future__ import annotations

import itertools
from typing import Annotated, Literal

from pydantic import Field, field_validator

from ..units import Of, Quantity
from .base import Amps, Bore, Name, Part, Pressure, Rise, RunLength, SetPressure, Temperature, WireSize

FittingKind = Literal["entry", "exit", "elbow_90", "bend_90", "elbow_45", "tee_branch", "tee_run", "banjo"]
LineMaterial = Literal["steel_tube", "copper_nickel_tube", "soft_alloy_tube", "nylon_tube", "30R6", "30R7", "30R9", "30R10", "30R14T2"]
ContactKind = Literal["fuse_holder", "relay", "crimp", "aged_crimp"]


class PumpPoint(Part):
    """One row of a pump's sheet."""

    voltage: Annotated[Quantity, Of("voltage", "4 V", "30 V", "13.5 V")] = Field(title="Volts")
    pressure: Pressure = Field(title="Pressure")
    flow: Annotated[Quantity, Of("volume flow", "0 L/h", "2000 L/h", "150 L/h")] = Field(title="Flow")
    current: Amps = Field(title="Amps")


class Pump(Part):
    """A pump by its table of figures."""

    name: Name = Field(title="Pump")
    place: Literal["in_tank", "external"] = Field(title="Where it sits")
    control: Literal["control_unit", "relay_with_cutout", "key"] = Field(
        title="Switched by", description="It must stop by itself when the engine stops: control unit, or a relay with a cut-out."
    )
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


class Contact(Part):
    """Contacts in the pump's circuit, each with a resistance of its own."""

    kind: ContactKind = Field(title="Contact")
    count: int = Field(ge=0, le=60, title="Count")


class PumpWire(Part):
    """The pump's circuit from the battery and back."""

    size: WireSize = Field(title="Wire size")
    length: RunLength = Field(title="Length, one way", description="Battery to pump; the ground wire is taken as long again.")
    temperature: Temperature = Field(default=Quantity("20 degC", 293.15), title="Wire temperature", validate_default=True)
    contacts: list[Contact] = Field(default=[], max_length=10, title="Contacts")


class Fittings(Part):
    """A kind of fitting in a line and how many of it."""

    kind: FittingKind = Field(title="Fitting")
    count: int = Field(ge=0, le=60, title="Count")


class Line(Part):
    """A run of tube or hose."""

    material: LineMaterial = Field(title="Material")
    bore: Bore = Field(title="Bore")
    length: RunLength = Field(title="Length")
    rise: Rise = Field(
        default=Quantity("0 m", 0.0), title="Rise", description="Height of the far end above the near end.", validate_default=True
    )
    fittings: list[Fittings] = Field(default=[], max_length=20, title="Fittings")


class Filter(Part):
    """The fine filter after the pump."""

    pressure_drop: Annotated[Quantity, Of("pressure", "0 kPa", "300 kPa", "12 kPa")] = Field(title="Pressure drop, clean")
    at_flow: Annotated[Quantity, Of("volume flow", "1 L/h", "2000 L/h", "150 L/h")] = Field(title="at")
    fluid: Literal["petrol", "working_fuel"] = Field(default="petrol", title="Rated with", description="Thicker fuel drops more.")
    due: bool = Field(default=False, title="Due for change", description="A filter that is due drops about three times as much.")


class Regulator(Part):
    """The pressure regulator at the rail, return scheme."""

    set_pressure: SetPressure = Field(title="Set pressure", description="Gauge, at the rail, reference open to air.")
    reference: Literal["manifold", "open_air"] = Field(title="Spring side sees")


class FuelSystem(Part):
    """From tank to rail and back."""

    scheme: Literal["return"] = Field(default="return", title="Scheme", description="Regulator after the rail, the rest flows back.")
    design_margin: Annotated[Quantity, Of("ratio", "1:1", "5:1", "1.2:1")] = Field(
        default=Quantity("1.2", 1.2), title="Margin wanted", description="Pump capacity over need at full power.", validate_default=True
    )
    pump: Pump
    wire: PumpWire
    supply: Line
    filter: Filter
    regulator: Regulator
    return_line: Line
