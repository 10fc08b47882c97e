"""The control unit by its own sheet: what its pins can do beyond the usual ones, how it numbers, what it can be set to, where it sits, what it was before."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..units import Of, Quantity
from .base import Amps, Day, Part, Temperature

#: Whether something is so; not looked at says nothing.
Seen = Literal["yes", "no", "not_looked_at"]
Numbers = Literal["by_cylinder", "by_place", "not_read"]
PumpOutput = Literal["pulls_relay", "high_side", "relay_inside", "not_read"]
#: What a build may ask a control unit to be set to.
Setting = Literal[
    "trigger_pattern", "firing_order", "output_order", "injector_figure", "dead_times", "timing_lock", "trigger_angle", "sensor_curves", "fan_points", "idle_valve", "rev_limit"
]  # fmt: skip


PinKind = Literal[
    "feed", "ignition_feed", "power_ground", "sensor_ground", "five_volt", "twelve_volt", "thermistor", "analogue", "crank_input", "cam_input", "speed_input",
    "injector", "coil_logic", "coil_power", "low_side", "pump_output", "pump_supply", "heater", "bridge_plus", "bridge_minus",
]  # fmt: skip
PinName = Annotated[str, Field(pattern=r"^[A-Za-z0-9]{1,8}$")]


class UnitPin(Part):
    """A pin of the control unit as its own sheet has it."""

    pin: PinName = Field(title="Pin")
    kind: PinKind = Field(title="Kind")
    limit: Amps | None = Field(default=None, title="Bears", description="Empty: as such pins usually do.")


class UnitSheet(Part):
    """What the control unit's own sheet says, and what was done with it."""

    numbers: Numbers = Field(
        default="not_read",
        title="The unit numbers its outputs",
        description="By cylinder, output 3 fires cylinder 3; by place, output 3 fires third. Its own sheet says which.",
    )
    coil_stage: Literal["inside", "none", "not_read"] = Field(
        default="not_read", title="Coil power stage", description="Inside the unit, a bare coil is right; else its outputs are logic only."
    )
    pump_output: PumpOutput = Field(
        default="not_read",
        title="Its pump output",
        description="Pulls a relay to ground, or feeds the pump itself: a switched 12 V output, or a relay inside.",
    )
    pump_limit: Amps | None = Field(default=None, title="Pump output carries", description="Empty: 15 A switched, 40 A by a relay inside.")
    oxygen: Literal["inside", "outside", "not_read"] = Field(
        default="not_read", title="Controller of the oxygen sensor", description="In the unit, or a box of its own."
    )
    bridge: Literal["inside", "none", "not_read"] = Field(
        default="not_read", title="Motor output for a throttle by wire", description="A bridge that drives the plate both ways, 5 to 10 A."
    )
    spare_12v: Annotated[int, Field(ge=0, le=8)] | None = Field(default=None, title="Spare 12 V outputs")
    spare_5v: Annotated[int, Field(ge=0, le=8)] | None = Field(default=None, title="Spare 5 V outputs")
    pins: list[UnitPin] = Field(
        default=[],
        max_length=200,
        title="Its pins, by its own sheet",
        description="Once one is entered these are all, in place of the generic ones.",
    )
    chosen: dict[Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,39}$")], PinName] = Field(
        default={}, max_length=100, title="Pins chosen by hand", description="By the name of the wire; the others are found."
    )
    can_set: dict[Setting, Literal["yes", "no"]] = Field(
        default={}, title="What it can be set to", description="Asked before it is bought."
    )
    mounted: Literal["cabin", "glove_box", "bulkhead", "wing", "near_exhaust", "not_chosen"] = Field(
        default="not_chosen", title="Unit sits", description="Dry, cool, on rubber, within reach of its plugs and fuses."
    )
    bears: Temperature | None = Field(default=None, title="Bears at most", description="From its sheet.")
    splash: Seen = Field(default="not_looked_at", title="Sealed against splash")
    plugs: Literal["down", "sideways", "up", "not_looked_at"] = Field(
        default="not_looked_at", title="Its plugs point", description="Down, with a drip loop before them: water then leaves by the wire."
    )
    reachable: Seen = Field(default="not_looked_at", title="Fuses and update lead can be reached")
    from_donor: Seen = Field(default="not_looked_at", title="Comes from another car", description="Then its theft lock comes along.")
    theft_lock: Literal["none", "removed", "active", "not_looked_at"] = Field(default="not_looked_at", title="Its theft lock")
    software: Literal["renewed", "as_delivered", "not_looked_at"] = Field(
        default="not_looked_at", title="Its software", description="Renewed on the bench, before anything is set."
    )
    link_proven: Day | None = Field(default=None, title="Link to the computer proven on", description="Days before the first start.")

    @model_validator(mode="after")
    def _once(self) -> UnitSheet:
        seen: set[str] = set()
        for i, row in enumerate(self.pins):
            if row.pin in seen:
                raise ValueError(f"/pins/{i}/pin|{row.pin}|a pin that is not in the table yet")
            seen.add(row.pin)
        for wire, pin in self.chosen.items():
            if self.pins and pin not in seen:
                raise ValueError(f"/chosen/{wire}|{pin}|a pin of the table: {', '.join(sorted(seen))}")
        return self


class Gearbox(Part):
    """What of the gearbox the control unit drives or hears."""

    kind: Literal["manual", "automatic"] = Field(title="Gearbox")
    pulses: Annotated[float, Field(gt=0, le=200, allow_inf_nan=False)] | None = Field(
        default=None, title="Speed pulses in a turn of its output", description="Of the sender on its tail."
    )
    axle: Annotated[Quantity, Of("ratio", "1:1", "10:1", "3.9:1")] | None = Field(default=None, title="Axle ratio")
    tyre: Annotated[Quantity, Of("length", "200 mm", "500 mm", "300 mm")] | None = Field(default=None, title="Tyre, rolling radius")
    typed_pulses: Annotated[float, Field(gt=0, le=100_000, allow_inf_nan=False)] | None = Field(
        default=None, title="Pulses a kilometre, in the unit", description="As it is set there."
    )
    calibrated: Day | None = Field(
        default=None, title="Speed checked on the road", description="Against a known distance, after the first drive."
    )
    reverse_lock: Literal["by_unit", "by_switch", "none", "not_noted"] = Field(
        default="not_noted", title="Reverse lock", description="Opens below about 8 km/h: with a wrong speed it opens when it must not."
    )
    neutral_switch: Literal["wired", "none", "not_noted"] = Field(
        default="not_noted", title="Switch for neutral or clutch", description="In the starter's coil wire: it cranks only out of gear."
    )


class Charging(Part):
    """The alternator's thin wires."""

    sense: Literal["battery_fused", "battery_bare", "alternator", "none", "not_looked_at"] = Field(
        default="not_looked_at", title="Sense wire goes to", description="Straight to battery plus, fused."
    )
    exciter: Literal["lamp", "resistor", "loom_resistor", "both", "bare", "not_looked_at"] = Field(
        default="not_looked_at", title="Exciter is fed through", description="A lamp, or a resistor of 200 to 560 ohm; one of the two."
    )
    output_idle: Amps | None = Field(
        default=None, title="Alternator gives at idle", description="Hot, at idle speed: from its curve, often a third of its rating."
    )
    output_full: Amps | None = Field(
        default=None, title="Alternator gives on the road", description="Hot, from half speed on: its rating less a tenth."
    )


class Battery(Part):
    """The battery as it was measured; what nobody measured is planned with."""

    rest: Annotated[Quantity, Of("voltage", "6 V", "16 V", "12.6 V")] | None = Field(
        default=None, title="Rests at", description="Between its posts, key off, an hour after charging."
    )
    inner: Annotated[Quantity, Of("resistance", "0.5 mohm", "100 mohm", "6 mohm")] | None = Field(
        default=None, title="Inner resistance", description="From a battery tester, or volts lost over amps drawn. Sound: about 6 mΩ."
    )
    starter: Annotated[Quantity, Of("current", "20 A", "800 A", "180 A")] | None = Field(
        default=None, title="Starter draws", description="By a clamp meter, engine cold. Neutral, hand brake on."
    )
    capacity: Annotated[float, Field(ge=5, le=300, allow_inf_nan=False)] | None = Field(
        default=None, title="Holds, ampere-hours", description="From its label."
    )
    asleep: Annotated[Quantity, Of("current", "0 mA", "5 A", "25 mA")] | None = Field(
        default=None,
        title="Drawn with all off",
        description="Meter in the minus lead, key off, after ten minutes. Never crank through a meter.",
    )
    stands: Literal["bay", "rear", "not_noted"] = Field(default="not_noted", title="Stands in")
    master: Literal["none", "feed_only", "feed_and_charging", "not_noted"] = Field(
        default="not_noted",
        title="Master switch cuts",
        description="The feed alone leaves the alternator without its battery: volts run away.",
    )


class FusibleLink(Part):
    """A fusible link in a heavy lead: protection with a place of its own."""

    feeds: Literal["starter_stud", "alternator", "fuse_box", "block"] = Field(title="Link at")
    distance: Annotated[Quantity, Of("length", "0 mm", "3 m", "150 mm")] | None = Field(default=None, title="Bare lead before it")
    sound: Seen = Field(default="not_looked_at", title="Looked at, not burnt")
