"""The netlist that follows from what was given: conductors from terminal to terminal, fuses, switches, relays, grounds, and what draws.

One function a circuit. A terminal is "device.pin"; an end at the control unit is "unit.?kind" until `pins` has found one. What a wire is made of
(size, length, joints) is settled in `conductors`; nothing here knows of volts.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from itertools import cycle

from ..given import Build
from ..given.harness import GroundKey
from ..reference import devices
from .states import Switched

#: Allowed drop of a circuit, out and back, as a share of the system's volts.
ALLOWED = {"unit": 0.03, "pump": 0.03, "coil": 0.02, "injector": 0.02, "other": 0.05}
PLUS, MINUS, BLOCK, BODY = "battery.plus", "battery.minus", "head.stud", "body.boss"
UNIT_GROUND, UNIT_FIVE = "unit.inside.ground", "unit.inside.five_volt"
#: Ignition with one coil, led to the plugs by a rotor.
SINGLE_COIL = ("contact_points", "electronic_distributor", "capacitive_discharge", "timed_distributor")
PUMP_WIRES = ("pump_supply", "pump_feed", "pump_ground")  # in the order in which its current passes them
HEATED = "wideband_oxygen"  # a sensor that is heated, behind a fuse and a relay of its own
BODY_UNIT = "throttle_body_unit"  # injectors, throttle and air sensors are inside the body


@dataclass(slots=True)
class Conductor:
    """A wire: its ends as they are printed, the nets that they join, the places they sit, the loads whose current it carries."""

    key: str
    label: str
    circuit: str
    start: str
    end: str
    start_place: str
    end_place: str
    colour: str
    carries: tuple[str, ...] = ()
    amps: float = 0.0
    fuse: str | None = None
    noise: str = "C"

    @property
    def nets(self) -> tuple[str, str]:
        """The nets at its ends. A fused wire that starts at the battery starts behind its fuse; a signal without a pin ends in the air."""
        return _nets(self.key, self.start, self.end, self.fuse)


@lru_cache(maxsize=16384)
def _nets(key: str, start: str, end: str, fuse: str | None) -> tuple[str, str]:
    """Asked for by all that looks at a wire, some five times in each plan."""
    a = f"fuse.{fuse}" if fuse and start == PLUS else start
    return (f"{a}.{key}" if a == "unit.none" else a), (f"{end}.{key}" if end == "unit.none" else end)


@dataclass(slots=True)
class Circuit:
    """Wires in series that share one allowance of drop."""

    key: str
    label: str
    allowed: float
    wires: list[Conductor] = field(default_factory=list)

    def wire(
        self,
        key: str,
        label: str,
        ends: tuple[str, str],
        places: tuple[str, str],
        colour: str,
        *carries: str,
        amps: float = 0.0,
        fuse: str | None = None,
        noise: str = "C",
    ) -> None:
        """One wire more."""
        self.wires.append(Conductor(key, label, self.key, *ends, *places, colour, carries, amps, fuse, noise))


@dataclass(frozen=True, slots=True)
class Link:
    """A joint that is no wire: fuse, contact, bridge, strap, resistor of a part. `when` is what has to be switched on for it to be closed."""

    key: str
    a: str
    b: str
    ohms: float
    when: Switched | None = None


@dataclass(frozen=True, slots=True)
class Load:
    """What draws: between which terminals, by which entry of the devices, what has to be on, and how many of its kind it stands for."""

    key: str
    plus: str
    minus: str
    kind: str
    when: Switched | None = None
    count: int = 1


@dataclass(frozen=True, slots=True)
class Netlist:
    """All of it."""

    circuits: tuple[Circuit, ...]
    links: tuple[Link, ...]
    loads: tuple[Load, ...]

    @property
    def conductors(self) -> list[Conductor]:
        """Every wire, in the order in which it is printed."""
        return [wire for circuit in self.circuits for wire in circuit.wires]


@dataclass(frozen=True, slots=True)
class SensorOnHarness:
    """A sensor that has wires of its own."""

    kind: str
    label: str
    two_wire: bool
    feed: str


def coils(build: Build) -> int:
    """How many coils the ignition has."""
    n = build.engine.cylinders
    return {"wasted_spark": (n + 1) // 2 if n % 2 == 0 else n, "coil_per_plug": n}.get(build.ignition.kind, 1)


def circuits(build: Build, sensors: Sequence[SensorOnHarness]) -> list[Circuit]:
    """Every circuit of this build, power first, then outputs, then signals."""
    found = [
        *_unit(build, sensors), *_pump(build), *_injectors(build), *_coils(build), *_sensors(build, sensors), *_heater(build, sensors), *_by_wire(build), *_extras(build), *_gearbox(build), *_exciter(build), *_own(build),
    ]  # fmt: skip
    wires = {wire.key: wire for circuit in found for wire in circuit.wires}
    _through_unit(build, wires)
    if build.wiring.profile == BODY_UNIT and HEATED in [s.kind for s in sensors]:
        wires["unit_feed"].carries += ("oxygen_heater",)
        wires["unit_ground"].carries += ("oxygen_heater",)
    return found


#: Ends at the control unit through which a load's current reaches its ground.
_SINKS = ("unit.?low_side", "unit.?coil_power", "unit.?heater", "unit.?bridge_minus")


def _through_unit(build: Build, wires: dict[str, Conductor]) -> None:
    """What else the unit's own feed and ground carry: all that it draws to ground, a pump that its own output feeds, the motor of a throttle."""
    feed, ground = wires["unit_feed"], wires["unit_ground"]
    sunk = [load for wire in wires.values() if wire.end.startswith(_SINKS) for load in wire.carries]
    ground.carries += tuple(load for load in dict.fromkeys(sunk) if load not in ground.carries)
    if build.wiring.unit.pump_output == "high_side" and unit_feeds_pump(build):
        feed.carries += ("pump",)
    if build.air.by_wire is not None:
        feed.carries += ("throttle_motor",)


def unit_feeds_pump(build: Build) -> bool:
    """Whether the pump hangs on an output of the control unit, without a relay of the car's."""
    return build.fuel.pump.control == "control_unit" and build.wiring.unit.pump_output in ("high_side", "relay_inside")


def pump_wires(build: Build) -> tuple[str, ...]:
    """The wires that the pump's current passes, in that order."""
    return ("unit_feed", *PUMP_WIRES[1:]) if unit_feeds_pump(build) and build.wiring.unit.pump_output == "high_side" else PUMP_WIRES


def bare_on_unit(build: Build) -> bool:
    """Whether bare coils hang on a power stage inside the control unit."""
    g = build.ignition
    return g.timed_by_unit and g.coil.kind == "dumb" and g.igniter is None and build.wiring.unit.coil_stage == "inside"


def _unit(build: Build, sensors: Sequence[SensorOnHarness]) -> Iterator[Circuit]:
    inside = build.wiring.profile == BODY_UNIT
    lands = _lands(build, "unit", "unit", (MINUS, "battery"))
    feed = Circuit("unit", "control unit, feed and ground", ALLOWED["unit"])
    feed.wire(
        "unit_feed",
        "permanent feed",
        (PLUS, "unit.?feed"),
        ("battery", "unit"),
        "RD",
        "unit",
        *(("injectors",) if inside else ()),
        fuse="unit",
    )
    feed.wire(
        "unit_ground", "power ground", ("unit.?power_ground", lands[0]), ("unit", lands[1]), "BK", "unit", "injectors", "ignition_input"
    )
    yield feed
    key = Circuit("ignition_feed", "ignition feed, live in run and start", ALLOWED["other"])
    key.wire(
        "ignition_feed",
        "ignition feed",
        ("ignition_switch.run", "unit.?ignition_feed"),
        ("dash", "unit"),
        "VT",
        "ignition_input",
        fuse="ignition",
    )
    yield key
    yield _relay_coil("main_relay", "main relay", "WH/BK", *(["oxygen_relay_coil"] if _heated(build, sensors) else []))


def _lands(build: Build, which: GroundKey, at: str, usual: tuple[str, str]) -> tuple[str, str]:
    """The net and the place where a ground lands, as it was told; on the body it lands beside the part."""
    ground = build.wiring.grounds.get(which)
    told = ground.lands if ground is not None else "not_noted"
    return {
        "battery_minus": (MINUS, "battery"), "minus_and_head": (MINUS, "battery"), "head": (BLOCK, "engine"),
        "body": (BODY, at), "frame": (BODY, at), "sheet_metal": (BODY, at),
    }.get(told, usual)  # fmt: skip


def _relay_coil(relay: str, word: str, colour: str, *beside: str) -> Circuit:
    """The wire that pulls a relay in, and those beside it: coils to ground through an output of the control unit."""
    circuit = Circuit(relay, f"{word}, coil", ALLOWED["other"])
    circuit.wire(f"{relay}_coil", f"{word} coil", (f"{relay}.85", "unit.?low_side"), ("panel", "unit"), colour, f"{relay}_coil", *beside)
    return circuit


def _behind_relay(circuit: Circuit, name: str, word: str, relay: str, end: tuple[str, str], colour: str, fuse: str, *carries: str) -> None:
    """Battery to relay, relay to what it feeds: the two wires on the plus side of a power circuit."""
    circuit.wire(f"{name}_supply", f"{word} supply", (PLUS, f"{relay}.30"), ("battery", "panel"), "RD", *carries, fuse=fuse, noise="B")
    circuit.wire(
        f"{name}_feed", f"{circuit_word(name)} feed", (f"{relay}.87", end[0]), ("panel", end[1]), colour, *carries, fuse=fuse, noise="B"
    )


#: Terminals that are words on the car, not marks on a part.
_NOT_PINS = {
    "plus", "minus", "signal", "ground", "5v", "12v", "heater", "trigger", "run", "stud", "start", "out", "exciter", "speed", "tach", "boss",
}  # fmt: skip


@lru_cache(maxsize=1024)
def terminal_name(terminal: str) -> str:
    """A terminal in words.

    >>> terminal_name("main_relay.85"), terminal_name("battery.minus"), terminal_name("splice_injectors")
    ('main relay, pin 85', 'battery minus', 'splice injectors')
    """
    part, _, pin = terminal.partition(".")
    if part == "fuse":
        return f"{pin.replace('_', ' ')} fuse, load side"
    if terminal.startswith("unit.inside."):
        return f"control unit, inside, {pin.removeprefix('inside.').replace('_', ' ').replace('five volt', '5 V')}"
    name = part.removeprefix("own_").replace("_", " ").replace("unit", "control unit")
    if not pin:
        return name
    return f"{name} {pin.replace('5v', '5 V').replace('12v', '12 V')}" if pin in _NOT_PINS else f"{name}, pin {pin}"


def part_name(terminal: str) -> str:
    """The part that a terminal belongs to, in words.

    >>> part_name("main_relay.85"), part_name("fuse.pump"), part_name("unit.A1")
    ('main relay', 'fuses', 'control unit')
    """
    part = terminal.partition(".")[0]
    return {"unit": "control unit", "fuse": "fuses", "head": "engine block", "body": "body"}.get(
        part, part.removeprefix("own_").replace("_", " ")
    )


def circuit_word(name: str) -> str:
    """A wire's first word for reading."""
    return name.replace("_", " ")


def _pump(build: Build) -> Iterator[Circuit]:
    pump = Circuit("pump", "fuel pump", ALLOWED["pump"])
    by_unit = unit_feeds_pump(build)
    if by_unit:
        if build.wiring.unit.pump_output == "relay_inside":
            pump.wire("pump_supply", "pump supply", (PLUS, "unit.?pump_supply"), ("battery", "unit"), "RD", "pump", fuse="pump", noise="B")
        pump.wire("pump_feed", "pump feed", ("unit.?pump_output", "pump.plus"), ("unit", "tank"), "RD/BN", "pump", fuse="unit" if build.wiring.unit.pump_output == "high_side" else "pump", noise="B")  # fmt: skip
    else:
        _behind_relay(pump, "pump", "pump relay", "pump_relay", ("pump.plus", "tank"), "RD/BN", "pump", "pump")
    net, place = _lands(build, "pump", "tank", (MINUS, "battery"))
    pump.wire("pump_ground", "pump ground", ("pump.minus", net), ("tank", place), "BK", "pump", noise="B")
    yield pump
    if build.fuel.pump.control == "control_unit" and not by_unit:
        yield _relay_coil("pump_relay", "pump relay", "WH/BN", *(["lift_relay_coil"] if build.fuel.lift else []))
    if build.fuel.lift is not None:
        lift = Circuit("lift", "lift pump", ALLOWED["pump"])
        _behind_relay(lift, "lift", "lift pump relay", "lift_relay", ("lift.plus", "tank"), "RD/GY", "lift", "lift")
        lift.wire("lift_ground", "lift pump ground", ("lift.minus", MINUS), ("tank", "battery"), "BK", "lift", noise="B")
        yield lift


def _injectors(build: Build) -> Iterator[Circuit]:
    if build.wiring.profile == BODY_UNIT:
        return
    n, each = build.injectors.count, build.injectors.per_driver
    feed = Circuit("injector_feed", "injector feed", ALLOWED["injector"])
    _behind_relay(feed, "injector", "main relay", "main_relay", ("splice_injectors", "engine"), "RD/GN", "injectors", "injectors")
    yield feed
    drivers = -(-n // each)
    stripe = cycle(("BN", "RD", "OG", "YE", "BU", "VT", "GY", "WH"))
    for k in range(n):
        name, load = f"injector_{k + 1}", f"injector_{k + 1}"
        pair = Circuit(name, f"injector {k + 1}", ALLOWED["injector"])
        pair.wire(
            f"{name}_feed",
            f"injector {k + 1} feed",
            ("splice_injectors", f"{name}.1"),
            ("engine", "engine"),
            "RD/GN",
            load,
            fuse="injectors",
            noise="B",
        )
        end = f"unit.?injector#{k // each}" if drivers < n else "unit.?injector"
        pair.wire(
            f"{name}_output", f"injector {k + 1} output", (f"{name}.2", end), ("engine", "unit"), f"GN/{next(stripe)}", load, noise="B"
        )
        yield pair


def _coils(build: Build) -> Iterator[Circuit]:
    coil = Circuit("coil_feed", "coil feed and ground", ALLOWED["coil"])
    _behind_relay(coil, "coil", "coil relay", "coil_relay", ("coils.plus", "engine"), "RD/BU", "coils", "coils")
    if build.ignition.coil.kind == "smart":
        net, place = _lands(build, "coils", "engine", (BLOCK, "engine"))
        where = {BLOCK: "on the head", MINUS: "to battery minus", BODY: "on the body"}[net]
        coil.wire("coil_ground", f"coil ground, {where}", ("coils.minus", net), ("engine", place), "BK", "coils", noise="B")
    yield coil
    stripe = cycle(("BN", "RD", "OG", "YE", "GN", "VT", "GY", "WH"))
    if bare_on_unit(build):
        many, share = coils(build), build.ignition.coil.current.si
        for k in range(many):
            bare = Circuit(f"coil_{k + 1}", f"coil {k + 1} output", ALLOWED["coil"])
            ends = ("coils.minus", "unit.?coil_power")
            bare.wire(f"coil_{k + 1}_output", f"coil {k + 1} output", ends, ("engine", "unit"), f"BU/{next(stripe)}", *(["coils"] if many == 1 else []), amps=0.0 if many == 1 else share, noise="B")  # fmt: skip
            yield bare
    elif build.ignition.timed_by_unit:
        for k in range(coils(build)):
            trigger = Circuit(f"coil_{k + 1}", f"coil {k + 1} trigger", ALLOWED["other"])
            ends = ("unit.?coil_logic", f"coil_{k + 1}.trigger")
            trigger.wire(f"coil_{k + 1}_trigger", f"coil {k + 1} trigger", ends, ("unit", "engine"), f"BU/{next(stripe)}", "coil_trigger")
            yield trigger
    elif build.ignition.speed_signal != "trigger_wheel":
        speed = Circuit("speed_signal", "speed signal from the ignition", ALLOWED["other"])
        speed.wire(
            "speed_signal", "speed signal", ("ignition.tach", "unit.?crank_input"), ("engine", "unit"), "GY/WH", "speed_input", noise="E"
        )
        yield speed


def _sensors(build: Build, sensors: Sequence[SensorOnHarness]) -> Iterator[Circuit]:
    spare = build.wiring.unit.spare_12v or 0
    stripe = cycle(("BN", "RD", "OG", "GN", "BU", "VT", "GY", "WH"))
    for s in sensors:
        data, colour = devices().sensor[s.kind], next(stripe)
        circuit = Circuit(s.kind, s.label, ALLOWED["other"])
        ends, places = (f"{s.kind}.signal", f"unit.?{data.input}"), (data.place, "unit")
        circuit.wire(f"{s.kind}_signal", f"{s.label} signal", ends, places, f"YE/{colour}", amps=0.005, noise=data.noise)
        if data.ground:
            ends = (f"{s.kind}.ground", "unit.?sensor_ground#shared")
            circuit.wire(f"{s.kind}_ground", f"{s.label} sensor ground", ends, places, f"GY/{colour}", amps=0.005, noise=data.noise)
        if s.feed == "five_volt" and not s.two_wire:
            ends = ("unit.?five_volt#shared", f"{s.kind}.5v")
            circuit.wire(f"{s.kind}_5v", f"{s.label} 5 V", ends, ("unit", data.place), f"OG/{colour}", amps=0.01, noise=data.noise)
        elif s.feed == "twelve_volt" and not s.two_wire:
            ends = ("unit.?twelve_volt#shared" if spare else "ignition_switch.run", f"{s.kind}.12v")
            circuit.wire(f"{s.kind}_12v", f"{s.label} 12 V", ends, ("unit" if spare else "dash", data.place), f"VT/{colour}", amps=0.1, fuse=None if spare else "ignition", noise=data.noise)  # fmt: skip
        yield circuit


def _heated(build: Build, sensors: Sequence[SensorOnHarness]) -> bool:
    """Whether a wideband cell takes its heat from the harness, and not through the pigtail of a throttle-body unit."""
    return build.wiring.profile != BODY_UNIT and HEATED in [s.kind for s in sensors]


def _heater(build: Build, sensors: Sequence[SensorOnHarness]) -> Iterator[Circuit]:
    """The heater of a wideband cell. A throttle-body unit feeds it through a pigtail of its own."""
    if not _heated(build, sensors):
        return
    inside = build.wiring.unit.oxygen == "inside"
    heater = Circuit("oxygen_heater", "heater of the oxygen sensor", ALLOWED["other"])
    _behind_relay(heater, "oxygen", "oxygen sensor", "oxygen_relay", (f"{HEATED}.12v", "exhaust"), "RD/PK", "oxygen", "oxygen_heater")
    ends = (f"{HEATED}.heater", "unit.?heater" if inside else BLOCK)
    heater.wire(
        f"{HEATED}_heater",
        "oxygen sensor heater, ground",
        ends,
        ("exhaust", "unit" if inside else "engine"),
        "BK/PK",
        "oxygen_heater",
        noise="B",
    )
    yield heater


def _by_wire(build: Build) -> Iterator[Circuit]:
    """A throttle by wire: two tracks at the pedal, a second one at the plate, the motor, the brake's switch."""
    if build.air.by_wire is None:
        return
    motor = Circuit("throttle_motor", "throttle motor", ALLOWED["other"])
    for side, colour in (("plus", "BU/RD"), ("minus", "BU/BK")):
        motor.wire(
            f"throttle_motor_{side}",
            f"throttle motor {side}",
            (f"throttle_motor.{side}", f"unit.?bridge_{side}"),
            ("engine", "unit"),
            colour,
            "throttle_motor",
            noise="B",
        )
    yield motor
    for key, label, place in (
        ("pedal_1", "pedal, first track", "dash"),
        ("pedal_2", "pedal, second track", "dash"),
        ("plate_2", "plate, second track", "engine"),
    ):
        track = Circuit(f"throttle_{key}", label, ALLOWED["other"])
        track.wire(
            f"throttle_{key}_signal",
            f"{label} signal",
            (f"{key}.signal", "unit.?analogue"),
            (place, "unit"),
            "YE/PK",
            amps=0.005,
            noise="D",
        )
        yield track
    if build.air.by_wire.brake == "wired":
        brake = Circuit("throttle_brake", "brake switch", ALLOWED["other"])
        brake.wire("throttle_brake", "brake switch", ("brake_switch.signal", "unit.?analogue"), ("dash", "unit"), "RD/YE", amps=0.01)
        yield brake


def _gearbox(build: Build) -> Iterator[Circuit]:
    """Speed from the gearbox, and the solenoid that keeps reverse shut while the car rolls."""
    box = build.wiring.gearbox
    if box is None:
        return
    if box.pulses is not None:
        speed = Circuit("vehicle_speed", "vehicle speed", ALLOWED["other"])
        speed.wire(
            "vehicle_speed", "vehicle speed", ("gearbox.speed", "unit.?speed_input"), ("engine", "unit"), "GY/OG", amps=0.005, noise="E"
        )
        yield speed
    if box.reverse_lock == "by_unit":
        lock = Circuit("reverse_lock", "reverse lock", ALLOWED["other"])
        lock.wire("reverse_lock", "reverse lock", ("reverse_lock.signal", "unit.?low_side"), ("engine", "unit"), "PK/OG", "reverse_lock")
        yield lock


def _extras(build: Build) -> Iterator[Circuit]:
    wanted = build.wiring.extras
    if "fan" in wanted:
        fan = Circuit("fan", "electric fan", ALLOWED["other"])
        _behind_relay(fan, "fan", "fan relay", "fan_relay", ("fan.plus", "front"), "RD/WH", "fan", "fan")
        net, place = _lands(build, "fan", "front", (MINUS, "battery"))
        fan.wire("fan_ground", "fan ground", ("fan.minus", net), ("front", place), "BK", "fan", noise="B")
        yield fan
        yield _relay_coil("fan_relay", "fan relay", "WH/BU")
    for name, place, colour in (("tachometer", "dash", "GY"), ("idle_valve", "engine", "PK"), ("warning_lamp", "dash", "TQ")):
        if name in wanted:
            extra = Circuit(name, circuit_word(name), ALLOWED["other"])
            extra.wire(name, circuit_word(name), (f"{name}.signal", "unit.?low_side"), (place, "unit"), colour, name)
            yield extra


#: What feeds the alternator's field until it charges [ohm]: a lamp of 3 W, hot; a resistor; a piece of wire.
LAMP_OHM, RESISTOR_OHM = 48.0, 330.0
_EXCITED_BY = {"lamp": LAMP_OHM, "resistor": RESISTOR_OHM, "loom_resistor": RESISTOR_OHM, "both": LAMP_OHM + RESISTOR_OHM, "bare": None}


def excited_through(build: Build) -> float | None:
    """The resistance [ohm] in the exciter's feed; None where nobody said that there is one."""
    told = build.wiring.charging.exciter
    return (_EXCITED_BY[told] or devices().joint["bridge"]) if told in _EXCITED_BY else None


def _exciter(build: Build) -> Iterator[Circuit]:
    """The alternator's thin wire from the lamp in the dash, where it was looked at."""
    if excited_through(build) is not None:
        exciter = Circuit("exciter", "charging exciter", ALLOWED["other"])
        exciter.wire("exciter", "charging exciter", ("charge_lamp.out", "alternator.exciter"), ("dash", "front"), "BN/YE", amps=0.25)
        yield exciter


def old_relay_feeds(build: Build) -> bool:
    """Whether an old pump relay that nobody took out still feeds the pump beside the new one. Kept as the switch that cuts the pump out it is meant to be there."""
    meant = build.fuel.pump.control == "relay_with_cutout"
    return any(row.what == "pump_relay" and row.stays and not (row.do == "keep" and meant) for row in build.wiring.old)


def _own(build: Build) -> Iterator[Circuit]:
    """Circuits of one's own: a feed out, a ground back."""
    stripe = cycle(("BN", "BU", "GN", "YE", "VT", "OG", "PK", "WH"))
    for key, c in build.wiring.own.items():
        name = f"own_{key}"
        circuit, colour = Circuit(name, c.label, ALLOWED["other"]), next(stripe)
        keyed = c.fed == "key"
        circuit.wire(
            f"{name}_feed", f"{c.label} feed", ("ignition_switch.run" if keyed else PLUS, f"{name}.plus"), ("dash" if keyed else "battery", c.place),
            f"RD/{colour}", name, fuse="ignition" if keyed else name, noise=c.noise,
        )  # fmt: skip
        end, place = {"body": (BODY, c.place), "unit_output": ("unit.?low_side", "unit")}.get(c.ground, (MINUS, "battery"))
        circuit.wire(f"{name}_ground", f"{c.label} ground", (f"{name}.minus", end), (c.place, place), f"BK/{colour}", name, noise=c.noise)
        yield circuit
