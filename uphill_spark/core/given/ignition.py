"""Ignition: what kind, what it tells the control unit, the coil and its driver, what each output fires, the distributor, plugs, and the timing log."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..units import Of, Quantity
from .base import Amps, Cylinder, Name, Part

IgnitionKind = Literal[
    "contact_points", "electronic_distributor", "capacitive_discharge", "timed_distributor", "wasted_spark", "coil_per_plug"
]
Edge = Literal["falling", "rising"]
Seen = Literal["yes", "no", "not_looked_at"]


class Coil(Part):
    """One coil's primary side."""

    kind: Literal["smart", "dumb"] = Field(title="Coil", description="Smart: takes a logic signal. Dumb: needs an igniter.")
    resistance: Annotated[Quantity, Of("resistance", "0.1 ohm", "20 ohm", "0.55 ohm")] = Field(title="Primary resistance")
    inductance: Annotated[Quantity, Of("inductance", "0.1 mH", "50 mH", "3.6 mH")] = Field(title="Primary inductance")
    current: Annotated[Quantity, Of("current", "0.5 A", "30 A", "7.5 A")] = Field(title="Charge to")
    fires_on: Edge = Field(default="falling", title="Fires as its signal", description="Of a smart coil; most fire as it falls.")


class Igniter(Part):
    """The power stage between a logic output and a coil without one."""

    limit: Annotated[Amps, Field(title="Carries at most")]
    fires_on: Edge = Field(default="falling", title="Fires as its signal")
    heat_sink: bool = Field(default=False, title="On a heat sink")


class HarnessLetter(Part):
    """One coil plug of the harness: how it is lettered, which output of the control unit it hangs on, which coil it is plugged to."""

    letter: Name = Field(title="Letter")
    output: Name = Field(title="Output of the unit")
    cylinders: list[Cylinder] = Field(default=[], max_length=2, title="Plugged to")


class Distributor(Part):
    """Rotor and cap, where the spark is led through them."""

    rotor_tip: Annotated[Quantity, Of("angle", "2 deg", "60 deg", "22 deg")] | None = Field(
        default=None, title="Rotor tip, width", description="Degrees of the cap."
    )
    meets: Annotated[Quantity, Of("angle", "-30 deg", "60 deg", "20 deg")] | None = Field(
        default=None, title="Tip faces the post at", description="Crank degrees before top of number one."
    )
    advance_least: Annotated[Quantity, Of("angle", "-10 deg", "40 deg", "5 deg")] = Field(
        default=Quantity("5 deg", 5.0), title="Least advance that is used", validate_default=True
    )
    advance_most: Annotated[Quantity, Of("angle", "5 deg", "70 deg", "38 deg")] = Field(
        default=Quantity("38 deg", 38.0), title="Most advance", validate_default=True
    )
    turns: Literal["clockwise", "anticlockwise"] = Field(default="clockwise", title="Rotor turns, from above")
    vacuum: Literal["none", "ported", "full_manifold", "not_noted"] = Field(
        default="not_noted", title="Vacuum advance was on", description="As the old carburettor had it."
    )


class Tachometer(Part):
    """The rev counter in the dash."""

    terminal: Literal["own", "shared_with_unit", "not_looked_at"] = Field(
        default="not_looked_at",
        title="Its terminal",
        description="Whether the unit takes its speed from the very terminal that the dial hangs on.",
    )

    hangs_on: Literal["unit_output", "coil_negative", "none"] = Field(default="none", title="Rev counter hangs on")
    wants: Literal["square", "spike", "not_known"] = Field(
        default="not_known", title="It wants", description="Old ones want the coil's tall spike; new ones a 12 V square wave."
    )
    set_for: Annotated[int, Field(ge=1, le=12)] | None = Field(default=None, title="Set for cylinders")


class TimingCheck(Part):
    """What the light showed with the unit's timing locked."""

    speed: Annotated[Quantity, Of("speed", "50 rpm", "10000 rpm", "1000 rpm")] | None = Field(default=None, title="Engine speed")
    commanded: Annotated[Quantity, Of("angle", "-60 deg", "90 deg", "10 deg")] | None = Field(default=None, title="Locked at")
    observed: Annotated[Quantity, Of("angle", "-60 deg", "90 deg", "10 deg")] | None = Field(default=None, title="Light shows")


class Output(Part):
    """What one output (or one post of the distributor cap, in the direction of rotation) fires."""

    name: Name = Field(title="Output")
    cylinders: list[Cylinder] = Field(default=[], max_length=2, title="Cylinders")


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
        description="In the order of the unit's own numbers, or round the cap. Empty: the proposed table is used.",
    )
    edge: Edge = Field(
        default="falling", title="Unit set to fire as its signal", description="Set wrong, the coil charges from key-on and burns."
    )
    igniter: Igniter | None = Field(default=None, title="Igniter")
    letters: list[HarnessLetter] = Field(default=[], max_length=12, title="Coil plugs of the harness")
    distributor: Distributor | None = Field(default=None, title="Distributor")
    tach: Tachometer | None = Field(default=None, title="Rev counter")
    resistor_plugs: Seen = Field(default="not_looked_at", title="Plugs with a resistor")
    suppressed_leads: Seen = Field(default="not_looked_at", title="Leads suppressed", description="Some kilohms a metre, not bare copper.")
    timing: list[TimingCheck] = Field(default=[], max_length=40, title="Timing light log")

    @model_validator(mode="after")
    def _ranges(self) -> Ignition:
        d = self.distributor
        if d and d.advance_least.si >= d.advance_most.si:
            raise ValueError(f"/distributor/advance_most|{d.advance_most}|more than the least advance, {d.advance_least}")
        seen = [row.letter for row in self.letters]
        if twice := next((x for x in seen if seen.count(x) > 1), None):
            raise ValueError(f"/letters|two plugs lettered {twice}|each letter once")
        return self
