"""What joins and what draws: fuses, the key, relays, straps, the inside of the control unit and of sensors, and every load; with the circuits they are the netlist."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ..given import Build
from ..reference import contacts, devices
from .netlist import (
    BLOCK,
    BODY,
    BODY_UNIT,
    HEATED,
    MINUS,
    PLUS,
    UNIT_FIVE,
    UNIT_GROUND,
    Circuit,
    Link,
    Load,
    Netlist,
    SensorOnHarness,
    bare_on_unit,
    coils,
    excited_through,
    old_relay_feeds,
)  # fmt: skip
from .states import Switched


def joined(build: Build, found: Sequence[Circuit], sensors: Sequence[SensorOnHarness], kinds: dict[str, str]) -> Netlist:
    """The netlist of circuits whose pins are named. `kinds` tells the kind of each pin of the control unit."""
    return Netlist(
        tuple(found),
        (*_links(build, found, kinds), *_leads(found), *_alternator(build), *_inside_sensors(sensors)),
        tuple(_loads(build, found, sensors)),
    )


def _links(build: Build, found: Sequence[Circuit], kinds: dict[str, str]) -> Iterator[Link]:
    """Fuses, the key, relays, what the control unit's pins are inside, the strap."""
    d = devices().joint
    wires = [wire for circuit in found for wire in circuit.wires]
    for fuse in dict.fromkeys(wire.fuse for wire in wires if wire.fuse):
        yield Link(f"fuse.{fuse}", PLUS, f"fuse.{fuse}", contacts()["fuse_holder"])
    aged = sum(row.used_ohms or 0.0 for row in build.wiring.old if row.what == "ignition_feed" and row.do == "feed_from")
    yield Link("ignition_switch", "fuse.ignition", "ignition_switch.run", d["key_contact"] + aged, "ignition")
    grounds = build.wiring.grounds
    strap = {key: g.ohms.si for key, g in grounds.items() if g.ohms is not None}
    yield Link("block_strap", BLOCK, MINUS, strap.get("block_strap", d["block_strap"]))
    ends = {end for wire in wires for end in (wire.start, wire.end)}
    shared = next((end for end in sorted(ends) if kinds.get(end.removeprefix("unit.")) == "sensor_ground"), None)
    looped = shared is not None and "sensors" in grounds and grounds["sensors"].lands in ("body", "unit_and_body", "sheet_metal", "frame")
    if BODY in ends or looped or "body_strap" in grounds:
        yield body_strap(build)
    if looped and shared is not None:
        yield Link("sensors.body", shared, BODY, d["body_strap"])
    if "unit" in grounds and grounds["unit"].lands == "minus_and_head":
        unit = next(wire for wire in wires if wire.key == "unit_ground")
        yield Link("unit_ground.second", unit.start, BLOCK, d["second_ground"])
    switched: dict[str, Switched] = {
        "main_relay": "main",
        "pump_relay": "pump",
        "lift_relay": "pump",
        "coil_relay": "main",
        "oxygen_relay": "main",
        "fan_relay": "fan",
    }
    for relay, what in switched.items():
        if f"{relay}.30" in ends or f"{relay}.87" in ends:
            yield Link(f"{relay}.contact", f"{relay}.30", f"{relay}.87", contacts()["relay"], _pump_when(build) if what == "pump" else what)
    for pin in sorted(end for end in ends if end.startswith("unit.") and end != "unit.none"):
        yield from inside_pin(pin, kinds.get(pin.removeprefix("unit."), ""))
    by_kind = {kinds.get(pin.removeprefix("unit."), ""): pin for pin in sorted(ends) if pin.startswith("unit.") and pin != "unit.none"}
    if "pump_output" in by_kind:
        source = by_kind.get("pump_supply", by_kind.get("feed"))
        if source is not None:
            yield Link("unit.pump_contact", source, by_kind["pump_output"], contacts()["relay"], _pump_when(build))
    if old_relay_feeds(build):
        yield Link("old_pump_relay.contact", "ignition_switch.run", "pump.plus", contacts()["relay"], "ignition")
    for kind in ("twelve_volt", "bridge_plus"):
        if kind in by_kind and "feed" in by_kind:
            yield Link(f"unit.{kind}", by_kind["feed"], by_kind[kind], contacts()["relay"], "main")


def body_strap(build: Build) -> Link:
    """The strap from the body to the block, measured or sound."""
    told = build.wiring.grounds.get("body_strap")
    return Link("body_strap", BODY, BLOCK, told.ohms.si if told is not None and told.ohms is not None else devices().joint["body_strap"])


def _pump_when(build: Build) -> Switched:
    """A pump fed straight from the key runs as long as it is on."""
    return "ignition" if build.fuel.pump.control == "key" else "pump"


def inside_pin(pin: str, kind: str) -> Iterator[Link]:
    """What a pin of the control unit is inside: its ground, its 5 V, or an input with its resistors. Feeds and outputs are loads."""
    ohms = devices().joint["unit_pin"]
    if kind in ("power_ground", "sensor_ground"):
        yield Link(f"{pin}.inside", pin, UNIT_GROUND, ohms)
    elif kind in ("injector", "low_side", "coil_power", "heater", "bridge_minus"):
        yield Link(f"{pin}.driver", pin, UNIT_GROUND, ohms, "main")
    elif kind == "five_volt":
        yield Link(f"{pin}.inside", pin, UNIT_FIVE, ohms)
    elif kind in devices().input:
        inside = devices().input[kind]
        if inside.up is not None:
            yield Link(f"{pin}.pull_up", UNIT_FIVE, pin, inside.up)
        if inside.down is not None:
            yield Link(f"{pin}.pull_down", pin, UNIT_GROUND, inside.down)


#: What a part that is fed with 12 V takes at most [ohm across its feed], and its output while it lets go.
_TWELVE_OHM, _OPEN_OHM = 120.0, 100e3


def _inside_sensors(sensors: Sequence[SensorOnHarness]) -> Iterator[Link]:
    """What lies between a sensor's terminals: a resistor to its ground, or a track from 5 V to ground with the signal in the middle."""
    for s in sensors:
        data = devices().sensor[s.kind]
        if not data.ground:
            continue
        if s.feed == "twelve_volt" and not s.two_wire:
            yield Link(f"{s.kind}.inside", f"{s.kind}.12v", f"{s.kind}.ground", max(data.ohms, _TWELVE_OHM))
            yield Link(f"{s.kind}.open", f"{s.kind}.signal", f"{s.kind}.ground", _OPEN_OHM)
        elif s.feed != "five_volt" or s.two_wire:
            yield Link(f"{s.kind}.inside", f"{s.kind}.signal", f"{s.kind}.ground", data.ohms)
        else:
            yield Link(f"{s.kind}.upper", f"{s.kind}.5v", f"{s.kind}.signal", data.ohms / 2)
            yield Link(f"{s.kind}.lower", f"{s.kind}.signal", f"{s.kind}.ground", data.ohms / 2)


def _loads(build: Build, found: Sequence[Circuit], sensors: Sequence[SensorOnHarness]) -> Iterator[Load]:
    """Everything that draws from the battery."""
    wires = {wire.key: wire for circuit in found for wire in circuit.wires}
    feed, key = wires["unit_feed"].nets[1], wires["ignition_feed"].nets[1]
    yield Load("unit", feed, UNIT_GROUND, "unit", "ignition")
    yield Load("ignition_input", key, UNIT_GROUND, "ignition_input", "ignition")
    yield Load("pump", "pump.plus", "pump.minus", "pump", _pump_when(build))
    if "lift_feed" in wires:
        yield Load("lift", "lift.plus", "lift.minus", "lift", _pump_when(build))
    if build.wiring.profile == BODY_UNIT:
        yield Load("injectors", feed, UNIT_GROUND, "injector", "main", build.injectors.count)
    else:
        for k in range(build.injectors.count):
            yield Load(f"injector_{k + 1}", f"injector_{k + 1}.1", f"injector_{k + 1}.2", "injector", "main")
    grounded = "coil_ground" in wires or bare_on_unit(build)
    yield Load("coils", "coils.plus", "coils.minus" if grounded else BLOCK, "coils", "main", coils(build))
    if "oxygen_feed" in wires:  # one output pulls both relays in
        yield Load("oxygen_relay_coil", "main_relay.86", "main_relay.85", "relay_coil", "ignition")
        yield Load("oxygen_heater", f"{HEATED}.12v", f"{HEATED}.heater", "oxygen_heater", "main")
    elif HEATED in [s.kind for s in sensors]:
        yield Load("oxygen_heater", feed, UNIT_GROUND, "oxygen_heater", "main")
    if "throttle_motor_plus" in wires:
        yield Load("throttle_motor", "throttle_motor.plus", "throttle_motor.minus", "throttle_motor", "main")
    yield Load("starter", PLUS, BLOCK, "starter", "starter")
    when: dict[str, Switched] = {"main_relay": "ignition", "pump_relay": _pump_when(build), "fan_relay": "fan"}
    for relay, what in when.items():
        if f"{relay}_coil" in wires:
            yield Load(f"{relay}_coil", f"{relay}.86", f"{relay}.85", "relay_coil", what)
    if "lift_feed" in wires and "pump_relay_coil" in wires:  # one output pulls both relays in
        yield Load("lift_relay_coil", "pump_relay.86", "pump_relay.85", "relay_coil", _pump_when(build))
    if "fan_feed" in wires:
        yield Load("fan", "fan.plus", "fan.minus", "fan", "fan")
    for key, own in build.wiring.own.items():
        by_unit: Switched | None = "main" if own.ground == "unit_output" else "ignition" if own.fed == "key" else None
        yield Load(f"own_{key}", f"own_{key}.plus", f"own_{key}.minus", "own", by_unit)
    for name in ("tachometer", "idle_valve", "warning_lamp", "reverse_lock"):
        if name in wires:
            yield Load(name, f"{name}.plus", f"{name}.signal", name, "main")


def _leads(found: Sequence[Circuit]) -> Iterator[Link]:
    """Leads that are made at the panel and at the dash and have no wire of their own in the list: a relay's coil, a lamp, a valve, from a live feed."""
    keys = {wire.key for circuit in found for wire in circuit.wires}
    ohms = devices().joint["bridge"]
    for relay in ("main_relay", "pump_relay", "fan_relay"):
        if f"{relay}_coil" in keys:
            yield Link(f"{relay}.86", "ignition_switch.run", f"{relay}.86", ohms)
    for name in ("tachometer", "idle_valve", "warning_lamp", "reverse_lock"):
        if name in keys:
            yield Link(f"{name}.plus", "ignition_switch.run", f"{name}.plus", ohms)


FIELD_OHM, RECTIFIED_OHM = 8.0, 0.1  # ohm, an alternator's field winding, and the diodes that feed it once it charges


def _alternator(build: Build) -> Iterator[Link]:
    """What feeds the alternator's field from the key until it charges, and what lies behind its thin terminal."""
    through = excited_through(build)
    if through is not None:
        yield Link("charge_lamp", "ignition_switch.run", "charge_lamp.out", through)
        yield Link("alternator.field", "alternator.exciter", BLOCK, FIELD_OHM, "field")
        yield Link("alternator.diodes", PLUS, "alternator.exciter", RECTIFIED_OHM, "charging")
