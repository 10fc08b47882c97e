"""What was found and decided on the harness: grounds, holes, a made loom, the old car's wires, loose ends, the bus, circuits of one's own, what was tested."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..circuit.states import KeyState
from ..units import Of, Quantity
from .base import Amps, Name, Part, RunLength, Volts, WireSize
from .unit import Seen

Noise = Literal["B", "C", "D", "E"]
Key = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,39}$")]
GroundKey = Literal["block_strap", "body_strap", "unit", "coils", "pump", "fan", "sensors"]
#: Positions of a key, as they are tried on a wire that nobody knows.
KeyPosition = Literal["off", "accessory", "run", "crank"]
#: How a joint is made. The last two are none.
JointMethod = Literal["crimp", "crimp_solder", "solder_sleeve", "twist_tape", "tap", "not_noted"]


class Ground(Part):
    """A ground path: where it lands, on what, and what was measured of it."""

    lands: Literal[
        "battery_minus", "head", "body", "frame", "control_unit", "unit_and_body", "minus_and_head", "sheet_metal", "not_noted"
    ] = Field(default="not_noted", title="Lands on")
    surface: Literal["bare", "paint", "not_looked_at"] = Field(
        default="not_looked_at", title="Under its eye", description="Bare metal, star washer, grease after."
    )
    ohms: Annotated[Quantity, Of("resistance", "0 mohm", "10 ohm", "2 mohm")] | None = Field(
        default=None,
        title="Its way to battery minus",
        description="Millivolts while a known current runs, over that current. Empty: a sound one.",
    )
    rise: Annotated[Quantity, Of("voltage", "0 mV", "14 V", "40 mV")] | None = Field(
        default=None, title="Rises while cranking", description="Meter from it to battery minus. Neutral, hand brake on, coil unplugged."
    )


class Beside(Part):
    """What is beside a branch: heat, what moves, spark leads."""

    spark_leads: Annotated[Quantity, Of("length", "0 mm", "10 m", "150 mm")] | None = Field(
        default=None,
        title="Beside spark leads for",
        description="Less than 100 mm from them. Nought: it keeps away or crosses at right angles.",
    )
    sleeve: Seen = Field(
        default="not_looked_at", title="Sleeve against heat", description="Woven or reflecting, where it nears the exhaust."
    )
    moves: Literal["nothing", "belt", "column", "pedals", "bonnet_hinge", "engine_rocks", "not_looked_at"] = Field(
        default="not_looked_at", title="What moves near it"
    )
    clips: Seen = Field(default="not_looked_at", title="Clips both sides of it")


class Hole(Part):
    """A hole that a branch passes, and how its connector gets through."""

    branch: Key = Field(title="Branch")
    diameter: Annotated[Quantity, Of("length", "3 mm", "150 mm", "28 mm")] = Field(title="Inside its grommet")
    connector: Annotated[Quantity, Of("length", "3 mm", "200 mm", "45 mm")] | None = Field(default=None, title="Largest connector, across")
    way: Literal["with_connector", "connector_after", "other_side", "not_chosen"] = Field(
        default="not_chosen", title="Its connector goes", description="Through with the branch, on after it, or from the other side."
    )
    grommet: Seen = Field(default="not_looked_at", title="Grommet fitted")


class LoomCircuit(Part):
    """A circuit of a made loom, as its list has it."""

    label: Name = Field(title="Circuit, as labelled")
    serves: Key | None = Field(default=None, title="Serves our wire", description="By its name in the wire list; empty: none of them.")
    length: RunLength | None = Field(default=None, title="Length in the loom")
    size: WireSize | None = Field(default=None, title="Size in the loom")
    ends: Literal["in_use", "capped", "open", "not_decided"] = Field(default="not_decided", title="Its end")


class OldWire(Part):
    """A wire or part of the old car that is met: kept, fed from, or taken out."""

    what: Literal[
        "pump_relay", "ballast", "ignition_feed", "charging_lead", "exciter", "starter_lead", "tachometer", "gauge_sender", "choke", "fan_feed", "other", "not_known"
    ] = Field(title="What it is")  # fmt: skip
    label: Name | None = Field(default=None, title="Which", description="Its colours, its place.")
    do: Literal["keep", "feed_from", "take_out", "not_decided"] = Field(default="not_decided", title="Then")
    done: Seen = Field(default="not_looked_at", title="Done")
    ohms: Annotated[Quantity, Of("resistance", "0 mohm", "1000 ohm", "0.4 ohm")] | None = Field(
        default=None, title="Measured, end to end", description="Volts lost with a 21 W lamp as load, over its 1.8 A."
    )
    volts: dict[KeyPosition, Volts] = Field(
        default={}, title="Volts with a lamp on it", description="By position of the key, a 21 W lamp from it to ground."
    )

    @property
    def stays(self) -> bool:
        """Whether it is still in circuit."""
        return not (self.do == "take_out" and self.done == "yes")

    @property
    def used_ohms(self) -> float | None:
        """What it has end to end [ohm] where it is used on; None where it is not, or was not measured."""
        return self.ohms.si if self.do in ("keep", "feed_from") and self.ohms is not None else None


class LooseEnd(Part):
    """A wire that ends nowhere."""

    label: Name = Field(title="Which", description="Its colours, where it ends.")
    end: Literal["capped", "taped", "open", "cut"] = Field(default="open", title="Its end")
    live: Seen = Field(default="not_looked_at", title="Live in some position of the key")


class Bus(Part):
    """A pair that several units talk on."""

    terminators: int = Field(ge=0, le=8, title="Terminators of 120 Ω")
    twisted: Seen = Field(default="not_looked_at", title="Twisted all the way")
    ohms: Annotated[Quantity, Of("resistance", "0 ohm", "100 kohm", "60 ohm")] | None = Field(
        default=None, title="Between its wires", description="Key off, ohmmeter: 60 Ω with both terminators in."
    )


class OwnCircuit(Part):
    """A circuit of one's own: any device, fed out and back."""

    label: Name = Field(title="What it is")
    place: Key = Field(title="Sits at")
    draws: Amps = Field(title="Draws")
    fed: Literal["battery", "key"] = Field(
        default="key", title="Fed from", description="The battery through a fuse of its own, or the key."
    )
    ground: Literal["battery_minus", "body", "unit_output"] = Field(
        default="battery_minus", title="Grounded at", description="Or through an output of the control unit, which then switches it."
    )
    noise: Noise = Field(default="C", title="Noise class", description="B makes it, D and E hear it, C neither.")


Terminal = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,39}(\.[A-Za-z0-9+-]{1,12})?$")]


class AddedWire(Part):
    """A wire of one's own, from any terminal to any other."""

    label: Name = Field(title="What it is for")
    start: Terminal = Field(title="From", description="A terminal of the harness, like battery.plus or unit.A5.")
    end: Terminal = Field(title="To")
    carries: Amps = Field(title="Carries at most")
    fused: bool = Field(default=False, title="Has a fuse of its own", description="At the battery, where it starts at battery plus.")
    noise: Noise = Field(default="C", title="Noise class", description="B makes it, D and E hear it, C neither.")

    @model_validator(mode="after")
    def _two_ends(self) -> AddedWire:
        if self.start == self.end:
            raise ValueError(f"/end|{self.end}|another terminal than the one it starts from")
        if self.fused and self.start != "battery.plus":
            raise ValueError("/fused|true|a wire that starts at battery.plus; any other is behind the fuse of what it starts from")
        return self


Stage = Literal["planned", "laid", "temporary", "tested", "hidden", "wrapped"]


class WireTest(Part):
    """A wire on the test sheet: how far it is, and what was read of it."""

    stage: Stage = Field(default="planned", title="Stands", description="Laid is not cut yet; nothing is covered untested.")
    continuity: Annotated[Quantity, Of("resistance", "0 ohm", "10 Mohm", "0.2 ohm")] | None = Field(
        default=None, title="End to end", description="Both plugs off, leads' own resistance taken off."
    )
    short: Literal["none", "to_ground", "to_another"] | None = Field(
        default=None, title="Short", description="To ground or to another wire, both plugs off."
    )
    volts: dict[KeyState, Volts] = Field(
        default={}, title="Volts at its far end", description="Against battery minus, by position of the key."
    )
