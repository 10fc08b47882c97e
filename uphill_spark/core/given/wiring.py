"""Wiring: where things sit, how long the branches are, which control unit, the feeds, and what was decided against the proposal."""

from __future__ import annotations

import re
from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..reference import profiles
from ..units import Of, Quantity
from .base import Amps, Name, Part, RunLength, Temperature, Volts, WireSize
from .harness import AddedWire, Beside, Bus, Ground, GroundKey, Hole, JointMethod, LoomCircuit, LooseEnd, OldWire, OwnCircuit, WireTest
from .unit import Battery, Charging, FusibleLink, Gearbox, UnitSheet

ContactKind = Literal["fuse_holder", "relay", "crimp", "aged_crimp"]
Zone = Literal["cabin", "bay", "near_exhaust", "tank"]
InsulationClass = Literal["pvc_85", "pvc_105", "cross_linked_125"]
ProfileName = Literal["small_4", "medium_8", "throttle_body_unit"]
Key = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,39}$")]
Metres = Annotated[float, Field(ge=-20, le=20, allow_inf_nan=False)]


class Node(Part):
    """A place in the car, seen from above: x from the nose back, y to the right, metres. For the drawing only."""

    name: Name
    x: Metres
    y: Metres


class Bend(Part):
    """Where a branch is bent on the drawing, from above: x from the nose back, y to the right, metres."""

    x: Metres
    y: Metres


class Branch(Part):
    """A stretch of harness between two places, measured with a string."""

    start: Key = Field(title="From")
    end: Key = Field(title="To")
    length: RunLength = Field(title="Length")
    zone: Zone = Field(title="Zone")
    bend: Bend | None = Field(default=None, title="Bend", description="On the drawing only: the string tells the length.")


class Feed(Part):
    """Where the control unit's power comes from, and the volts found at the chosen ignition wire."""

    taken_from: Literal["battery", "starter_stud", "fuse_block", "fuse_box", "alternator", "ignition_switch"] = Field(
        title="Battery feed taken from"
    )
    fuse_distance: Annotated[Quantity, Of("length", "0 mm", "10 m", "150 mm")] = Field(title="First fuse, distance from there")
    off: Volts | None = Field(default=None, title="Ignition feed, key off")
    accessory: Volts | None = Field(default=None, title="Key at accessory")
    run: Volts | None = Field(default=None, title="Key at run")
    crank: Volts | None = Field(default=None, title="Cranking")


class Contact(Part):
    """Contacts of one kind in a wire, each with a resistance of its own."""

    kind: ContactKind = Field(title="Contact")
    count: int = Field(ge=0, le=60, title="Count")


class Fitted(Part):
    """What is fitted for one wire, where it is known or differs from the proposal."""

    size: WireSize | None = Field(default=None, title="Wire size")
    length: RunLength | None = Field(default=None, title="Length", description="Of this wire alone; empty: by its branches.")
    temperature: Temperature | None = Field(default=None, title="Wire temperature", description="Empty: that of the zones it passes.")
    insulation: InsulationClass | None = Field(default=None, title="Insulation", description="Empty: as in the rest of the harness.")
    measured: Annotated[Quantity, Of("resistance", "0 mohm", "1000 ohm", "15 mohm")] | None = Field(
        default=None, title="Measured, end to end", description="Of an old wire that is used again. Empty: by its copper and its contacts."
    )
    twist: Literal["none", "twisted", "twisted_shielded"] | None = Field(
        default=None, title="Twisted", description="With its pair; a shield at one end."
    )
    method: JointMethod | None = Field(default=None, title="Its joints", description="Empty: as in the rest of the harness.")
    joints: list[Contact] | None = Field(default=None, max_length=10, title="Contacts", description="Empty: a crimp at each end.")
    colour: Annotated[str, Field(pattern=r"^(BK|BN|RD|OG|YE|GN|BU|VT|GY|WH|PK|TQ)(/(BK|BN|RD|OG|YE|GN|BU|VT|GY|WH|PK|TQ))?$")] | None = (
        Field(default=None, title="Colour", description="Letters of IEC 60757, ground colour and stripe.", examples=["RD/WH"])
    )


class Wiring(Part):
    """The harness."""

    profile: ProfileName = Field(title="Control unit")
    unit: UnitSheet = UnitSheet()
    gearbox: Gearbox | None = Field(default=None, title="Gearbox")
    battery: Battery = Battery()
    charging: Charging = Charging()
    links: list[FusibleLink] = Field(default=[], max_length=8, title="Fusible links")
    nodes: dict[Key, Node] = Field(min_length=2, max_length=40, title="Places")
    branches: dict[Key, Branch] = Field(min_length=1, max_length=60, title="Branches")
    feed: Feed
    insulation: InsulationClass = Field(
        default="cross_linked_125", title="Insulation", description="Of the wire that is used, by its print: how hot it may get."
    )
    fan_current: Amps | None = Field(default=None, title="Fan draws", description="Running. Empty: a usual fan.")
    unit_current: Amps | None = Field(default=None, title="Control unit draws", description="Its own electronics. Empty: a usual one.")
    fuses: dict[Key, Annotated[float, Field(ge=1, le=100, allow_inf_nan=False)]] = Field(default={}, title="Fuses fitted, amps")
    relays: dict[Literal["main", "pump", "lift", "coil", "oxygen", "fan"], Annotated[float, Field(ge=5, le=300, allow_inf_nan=False)]] = (
        Field(default={}, title="Relays' contacts bear, amps", description="As printed on them, with a resistive load.")
    )
    fitted: dict[Key, Fitted] = Field(default={}, max_length=200, title="Wires as fitted")
    pairs: Literal["twisted_shielded", "twisted", "none", "not_looked_at"] = Field(
        default="not_looked_at",
        title="Wires of trigger and oxygen sensor",
        description="Twisted with their ground and shielded, the shield at one end. One that differs says so in the wire list.",
    )
    grounds: dict[GroundKey, Ground] = Field(default={}, title="Grounds")
    beside: dict[Key, Beside] = Field(default={}, max_length=60, title="Beside branches")
    holes: dict[Key, Hole] = Field(default={}, max_length=20, title="Holes")
    joint_method: JointMethod = Field(
        default="not_noted",
        title="Joints are made by",
        description="Crimp with the tool for that terminal, or solder with support: both are right.",
    )
    loom: list[LoomCircuit] = Field(default=[], max_length=300, title="A made loom")
    old: list[OldWire] = Field(default=[], max_length=40, title="Old wires that are met")
    loose: list[LooseEnd] = Field(default=[], max_length=60, title="Loose ends")
    bus: Bus | None = Field(default=None, title="Bus")
    own: dict[Key, OwnCircuit] = Field(default={}, max_length=24, title="Circuits of one's own")
    added: dict[Key, AddedWire] = Field(default={}, max_length=60, title="Wires of one's own")
    left_out: list[Key] = Field(
        default=[], max_length=60, title="Wires left out", description="Another wire then has to lead to what they led to."
    )
    names: dict[Key, Name] = Field(default={}, max_length=200, title="Wires called otherwise", description="Empty: as in the wire list.")
    sits: dict[Key, Key] = Field(
        default={}, max_length=60, title="Parts that sit elsewhere", description="A part of the harness, and the place where it sits."
    )
    tests: dict[Key, WireTest] = Field(default={}, max_length=400, title="Test sheet")
    extras: list[Literal["fan", "tachometer", "idle_valve", "warning_lamp"]] = Field(
        default=[], max_length=4, title="Also driven by the unit"
    )

    @model_validator(mode="after")
    def _joined(self) -> Wiring:
        own = [*(f"own_{key}" for key in self.own), *(f"added_{key}" for key, wire in self.added.items() if wire.fused)]
        for part, place in self.sits.items():
            if not PARTS.fullmatch(part):
                raise ValueError(f"/sits/{part}|{part}|a part of this harness, like pump, coils, crank or injector_1")
            if place not in self.nodes:
                raise ValueError(f"/sits/{part}|{place}|a place of this harness: {', '.join(self.nodes)}")
        for key, circuit in self.own.items():
            if circuit.place not in self.nodes:
                raise ValueError(f"/own/{key}/place|{circuit.place}|a place of this harness: {', '.join(self.nodes)}")
        for key, hole in self.holes.items():
            if hole.branch not in self.branches:
                raise ValueError(f"/holes/{key}/branch|{hole.branch}|a branch of this harness: {', '.join(self.branches)}")
        for key in self.beside:
            if key not in self.branches:
                raise ValueError(f"/beside/{key}|{key}|a branch of this harness: {', '.join(self.branches)}")
        if not self.unit.pins:
            there = [name for group in profiles()[self.profile].pins for name in group.pins]
            for key, pin in self.unit.chosen.items():
                if pin not in there and not pin.isalpha() and not re.fullmatch(r"(12V|5V|PUMP)\d{0,2}", pin):
                    raise ValueError(f"/unit/chosen/{key}|{pin}|a pin of this control unit: {', '.join(there)}")
        for where, names in (
            ("tests", self.tests),
            ("unit/chosen", self.unit.chosen),
            ("names", self.names),
            ("left_out", {name: i for i, name in enumerate(self.left_out)}),
            ("loom", {c.serves: i for i, c in enumerate(self.loom) if c.serves}),
        ):
            for name in names:
                if not WIRE_NAMES.fullmatch(name):
                    at = {"loom": f"{names[name]}/serves", "left_out": names[name]}.get(where, name)
                    raise ValueError(f"/{where}/{at}|{name}|a wire of this harness, by its name in the wire list")
        for key in self.fuses:
            if key not in FUSES and key not in own:
                raise ValueError(f"/fuses/{key}|{key}|a fuse of this harness: {', '.join([*FUSES, *own])}")
        for key in self.fitted:
            if not WIRE_NAMES.fullmatch(key):
                raise ValueError(
                    f"/fitted/{key}|{key}|a wire of this harness, by its name in the wire list, like pump_feed or injector_1_output"
                )
        for key, branch in self.branches.items():
            for end in (branch.start, branch.end):
                if end not in self.nodes:
                    raise ValueError(f"/branches/{key}|a branch to {end!r}|places that are in the list: {', '.join(self.nodes)}")
        _no_ring(self.branches)
        reached = {next(iter(self.nodes))}
        grew = True
        while grew:
            joined = {b.end for b in self.branches.values() if b.start in reached} | {
                b.start for b in self.branches.values() if b.end in reached
            }
            grew = not joined <= reached
            reached |= joined
        for node in REQUIRED_NODES:
            if node not in self.nodes:
                raise ValueError(f"/nodes|no {node!r}|the places {', '.join(REQUIRED_NODES)}, and any of your own")
            if node not in reached:
                raise ValueError(f"/branches|nothing leads to {node!r}|branches that join every place")
        return self


def _no_ring(branches: dict[str, Branch]) -> None:
    """Raises ValueError naming the first branch whose two ends are joined by others already: a harness is laid as a tree."""
    heap = {end: end for b in branches.values() for end in (b.start, b.end)}

    def top(place: str) -> str:
        while heap[place] != place:
            place = heap[place]
        return place

    for key, b in branches.items():
        if top(b.start) == top(b.end):
            raise ValueError(
                f"/branches/{key}|{b.start} to {b.end}, which other branches join already|branches without a ring: take this one or another of the ring out"
            )
        heap[top(b.start)] = top(b.end)


#: The fuses of a harness, and what its wires may be called. The netlist makes no others; a test holds that.
FUSES = ("unit", "ignition", "injectors", "coils", "pump", "lift", "fan", "oxygen")
WIRE_NAMES = re.compile(
    r"(unit|ignition|pump|lift|injector|coil|fan|oxygen)_(feed|ground|supply)|own_[a-z0-9_]{1,40}_(feed|ground)|added_[a-z0-9_]{1,40}|(main|pump|coil|fan)_relay_coil|injector_\d{1,2}_(feed|output)|coil_\d{1,2}_trigger"
    r"|speed_signal|tachometer|idle_valve|warning_lamp|(coolant_temperature|intake_air_temperature|throttle_position|manifold_pressure|wideband_oxygen|narrowband_oxygen(?:_2)?|air_meter|fuel_composition|crank|cam|fuel_pressure)_(signal|ground|5v|12v|heater)"
    r"|(oxygen|throttle)_feed|throttle_(motor_plus|motor_minus|pedal_2|plate_2|brake)|reverse_lock|vehicle_speed|sense_wire|exciter"
)
#: Parts that may sit elsewhere than is usual: what terminals are called before their dot.
PARTS = re.compile(
    r"pump|lift|coils|fan|splice_injectors|alternator|ignition_switch|charge_lamp|(main|pump|lift|coil|oxygen|fan)_relay|(injector|coil)_\d{1,2}|tachometer|idle_valve|warning_lamp|reverse_lock|gearbox|ignition"
    r"|throttle_motor|pedal_[12]|plate_2|brake_switch|coolant_temperature|intake_air_temperature|throttle_position|manifold_pressure|wideband_oxygen|narrowband_oxygen(_2)?|air_meter|fuel_composition|crank|cam|fuel_pressure|own_[a-z0-9_]{1,40}"
)
#: Places that the circuits start from or end at.
REQUIRED_NODES = ("battery", "panel", "unit", "dash", "firewall", "engine", "front", "exhaust", "tank")
