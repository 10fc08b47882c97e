"""Ignition: what kind, what it tells the control unit, the coil, and what each output fires."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..units import Of, Quantity
from .base import Cylinder, Name, Part

IgnitionKind = Literal[
    "contact_points", "electronic_distributor", "capacitive_discharge", "timed_distributor", "wasted_spark", "coil_per_plug"
]


class Coil(Part):
    """One coil's primary side."""

    kind: Literal["smart", "dumb"] = Field(title="Coil", description="Smart: takes a logic signal. Dumb: needs an igniter.")
    resistance: Annotated[Quantity, Of("resistance", "0.1 ohm", "20 ohm", "0.55 ohm")] = Field(title="Primary resistance")
    inductance: Annotated[Quantity, Of("inductance", "0.1 mH", "50 mH", "3.6 mH")] = Field(title="Primary inductance")
    current: Annotated[Quantity, Of("current", "0.5 A", "30 A", "7.5 A")] = Field(title="Charge to")


class Output(Part):
    """What one output (or one post of the distributor cap, in the direction of rotation) fires."""

    name: Name = Field(title="Output")
    cylinders: list[Cylinder] = Field(min_length=1, max_length=2, title="Cylinders")


class Ignition(Part):
    """The ignition that the engine will run on."""

    kind: IgnitionKind = Field(title="Ignition")
    speed_signal: Literal["coil_negative", "tach_output", "trigger_wheel"] = Field(title="Speed signal from")
    ballast: bool = Field(default=False, title="Ballast or resistance wire in the coil feed")
    multi_spark: bool = Field(default=False, title="Multi-spark mode on")
    timed_by_unit: bool = Field(title="Control unit times the spark")
    advance: Literal["none", "working", "locked"] = Field(
        title="Advance in the distributor", description="Weights and vacuum; none without a distributor."
    )
    coil: Coil
    outputs: list[Output] = Field(
        default=[],
        max_length=12,
        title="Outputs as wired",
        description="In the order in which they fire. Empty: the proposed table is used.",
    )
