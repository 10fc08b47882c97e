"""Which wires there are: one function a circuit, each from what was chosen at an earlier stage."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from itertools import cycle

from ...given import Build
from ..fuel import FuelResult
from ..ignition import SINGLE_COIL, IgnitionResult
from ..injectors import InjectorsResult
from ..sensors import SensorsResult

UNIT_CURRENT = 2.0  # A, the control unit itself
RELAY_COIL = 0.15  # A
FAN_CURRENT = 18.0  # A, one electric fan, running
#: Allowed drop of a circuit, out and back, share of 13.8 V.
ALLOWED = {"unit": 0.03, "pump": 0.03, "coil": 0.02, "injector": 0.02, "other": 0.05}


@dataclass(slots=True)
class WirePlan:
    """A wire before it is routed: its ends ("device.pin"), the places they sit, what it carries.

    A control unit's end is "unit.?kind" until a pin has been found. `fixed_length` and `fixed_area` hold what another stage has settled.
    """

    key: str
    label: str
    start: str
    end: str
    start_node: str
    end_node: str
    colour: str
    current: float
    circuit: str
    fuse: str | None = None
    noise: str = "C"
    fixed_length: float | None = None
    fixed_area: float | None = None


@dataclass(slots=True)
class CircuitPlan:
    """Wires in series that share one allowance of drop."""

    key: str
    label: str
    allowed: float
    wires: list[WirePlan] = field(default_factory=list)


def circuits(
    build: Build, fuel: FuelResult, injectors: InjectorsResult, sensors: SensorsResult, ignition: IgnitionResult
) -> list[CircuitPlan]:
    """Every circuit of this build, power first, then outputs, then signals."""
    return [
        *_unit(build, injectors),
        *_pump(build, fuel),
        *_injectors(build, injectors),
        *_coils(build, ignition),
        *_sensors(sensors),
        *_extras(build),
    ]


def _wire(
    circuit: CircuitPlan, key: str, label: str, ends: tuple[str, str], nodes: tuple[str, str], colour: str, current: float, **more: object
) -> None:
    circuit.wires.append(WirePlan(key, label, ends[0], ends[1], nodes[0], nodes[1], colour, current, circuit.key, **more))  # type: ignore[arg-type]


def _unit(build: Build, injectors: InjectorsResult) -> Iterator[CircuitPlan]:
    inside = build.wiring.profile == "throttle_body_unit"
    feed = CircuitPlan("unit", "control unit, feed and ground", ALLOWED["unit"])
    own = UNIT_CURRENT + (injectors.average_current_a if inside else 0.0)
    _wire(feed, "unit_feed", "permanent feed", ("battery.plus", "unit.?feed"), ("battery", "unit"), "RD", own, fuse="unit")
    _wire(
        feed,
        "unit_ground",
        "power ground",
        ("unit.?power_ground", "battery.minus"),
        ("unit", "battery"),
        "BK",
        UNIT_CURRENT + injectors.average_current_a,
    )
    yield feed
    key = CircuitPlan("ignition_feed", "ignition feed, live in run and start", ALLOWED["other"])
    _wire(
        key, "ignition_feed", "ignition feed", ("ignition_switch.run", "unit.?ignition_feed"), ("dash", "unit"), "VT", 0.5, fuse="ignition"
    )
    yield key
    relay = CircuitPlan("main_relay", "main relay, coil", ALLOWED["other"])
    _wire(relay, "main_relay_coil", "main relay coil", ("main_relay.85", "unit.?low_side"), ("panel", "unit"), "WH/BK", RELAY_COIL)
    yield relay


def _pump(build: Build, fuel: FuelResult) -> Iterator[CircuitPlan]:
    wire = build.fuel.wire
    current = max(p.current_a for p in fuel.points.values())
    pump = CircuitPlan("pump", "fuel pump", ALLOWED["pump"])
    near = min(0.6, wire.length.si * 0.2)
    more = {"fixed_area": wire.size.si, "noise": "B"}
    _wire(
        pump,
        "pump_supply",
        "pump relay supply",
        ("battery.plus", "pump_relay.30"),
        ("battery", "panel"),
        "RD",
        current,
        fuse="pump",
        fixed_length=near,
        **more,
    )
    _wire(
        pump,
        "pump_feed",
        "pump feed",
        ("pump_relay.87", "pump.plus"),
        ("panel", "tank"),
        "RD/BN",
        current,
        fuse="pump",
        fixed_length=wire.length.si - near,
        **more,
    )
    _wire(
        pump,
        "pump_ground",
        "pump ground",
        ("pump.minus", "battery.minus"),
        ("tank", "battery"),
        "BK",
        current,
        fixed_length=wire.length.si,
        **more,
    )
    yield pump
    if build.fuel.pump.control == "control_unit":
        coil = CircuitPlan("pump_relay", "pump relay, coil", ALLOWED["other"])
        _wire(coil, "pump_relay_coil", "pump relay coil", ("pump_relay.85", "unit.?low_side"), ("panel", "unit"), "WH/BN", RELAY_COIL)
        yield coil


def _injectors(build: Build, result: InjectorsResult) -> Iterator[CircuitPlan]:
    if build.wiring.profile == "throttle_body_unit":
        return
    n = build.injectors.count
    total, each = result.average_current_a, result.average_current_a / n
    feed = CircuitPlan("injector_feed", "injector feed", ALLOWED["injector"])
    _wire(
        feed,
        "injector_supply",
        "main relay supply",
        ("battery.plus", "main_relay.30"),
        ("battery", "panel"),
        "RD",
        total,
        fuse="injectors",
        noise="B",
    )
    _wire(
        feed,
        "injector_feed",
        "injector feed",
        ("main_relay.87", "splice_injectors"),
        ("panel", "engine"),
        "RD/GN",
        total,
        fuse="injectors",
        noise="B",
    )
    yield feed
    drivers = -(-n // build.injectors.per_driver)
    stripe = cycle(("BN", "RD", "OG", "YE", "BU", "VT", "GY", "WH"))
    for k in range(n):
        pair = CircuitPlan(f"injector_{k + 1}", f"injector {k + 1}", ALLOWED["injector"])
        _wire(
            pair,
            f"injector_{k + 1}_feed",
            f"injector {k + 1} feed",
            ("splice_injectors", f"injector_{k + 1}.1"),
            ("engine", "engine"),
            "RD/GN",
            each,
            fuse="injectors",
            noise="B",
        )
        end = f"unit.?injector#{k // build.injectors.per_driver}" if drivers < n else "unit.?injector"
        _wire(
            pair,
            f"injector_{k + 1}_output",
            f"injector {k + 1} output",
            (f"injector_{k + 1}.2", end),
            ("engine", "unit"),
            f"GN/{next(stripe)}",
            each,
            noise="B",
        )
        yield pair


def _coils(build: Build, result: IgnitionResult) -> Iterator[CircuitPlan]:
    total = result.average_current_a
    coil = CircuitPlan("coil_feed", "coil feed and ground", ALLOWED["coil"])
    _wire(
        coil,
        "coil_supply",
        "coil relay supply",
        ("battery.plus", "coil_relay.30"),
        ("battery", "panel"),
        "RD",
        total,
        fuse="coils",
        noise="B",
    )
    _wire(coil, "coil_feed", "coil feed", ("coil_relay.87", "coils.plus"), ("panel", "engine"), "RD/BU", total, fuse="coils", noise="B")
    if build.ignition.coil.kind == "smart":
        _wire(coil, "coil_ground", "coil ground, on the head", ("coils.minus", "head.stud"), ("engine", "engine"), "BK", total, noise="B")
    yield coil
    stripe = cycle(("BN", "RD", "OG", "YE", "GN", "VT", "GY", "WH"))
    if build.ignition.timed_by_unit:
        for k in range(1 if build.ignition.kind in SINGLE_COIL else result.coils):
            trigger = CircuitPlan(f"coil_{k + 1}", f"coil {k + 1} trigger", ALLOWED["other"])
            _wire(
                trigger,
                f"coil_{k + 1}_trigger",
                f"coil {k + 1} trigger",
                ("unit.?coil_logic", f"coil_{k + 1}.trigger"),
                ("unit", "engine"),
                f"BU/{next(stripe)}",
                0.02,
            )
            yield trigger
    elif build.ignition.speed_signal != "trigger_wheel":
        speed = CircuitPlan("speed_signal", "speed signal from the ignition", ALLOWED["other"])
        _wire(speed, "speed_signal", "speed signal", ("ignition.tach", "unit.?crank_input"), ("engine", "unit"), "GY/WH", 0.01, noise="E")
        yield speed


#: How each sensor is wired: kind of input, whether it takes 5 V, whether it takes sensor ground, where it sits, noise class.
_SENSOR_WIRES = {
    "coolant_temperature": ("thermistor", False, True, "engine", "D"),
    "intake_air_temperature": ("thermistor", False, True, "front", "D"),
    "throttle_position": ("analogue", True, True, "engine", "D"),
    "manifold_pressure": ("analogue", True, True, "firewall", "D"),
    "wideband_oxygen": ("analogue", False, True, "exhaust", "E"),
    "crank": ("crank_input", True, True, "front", "E"),
    "cam": ("cam_input", True, True, "engine", "E"),
    "fuel_pressure": ("analogue", True, True, "engine", "D"),
}


def _sensors(sensors: SensorsResult) -> Iterator[CircuitPlan]:
    stripe = cycle(("BN", "RD", "OG", "GN", "BU", "VT", "GY", "WH"))
    for row in sensors.rows:
        if row.state == "struck" or (row.state == "proposed" and row.need != "required") or row.inside_unit:
            continue
        kind, five, ground, node, noise = _SENSOR_WIRES[row.kind]
        colour = next(stripe)
        circuit = CircuitPlan(row.kind, row.label, ALLOWED["other"])
        _wire(
            circuit,
            f"{row.kind}_signal",
            f"{row.label} signal",
            (f"{row.kind}.signal", f"unit.?{kind}"),
            (node, "unit"),
            f"YE/{colour}",
            0.005,
            noise=noise,
        )
        if ground:
            _wire(
                circuit,
                f"{row.kind}_ground",
                f"{row.label} sensor ground",
                (f"{row.kind}.ground", "unit.?sensor_ground#shared"),
                (node, "unit"),
                f"GY/{colour}",
                0.005,
                noise=noise,
            )
        if five and not (row.kind == "crank" and row.two_wire):
            _wire(
                circuit,
                f"{row.kind}_5v",
                f"{row.label} 5 V",
                ("unit.?five_volt#shared", f"{row.kind}.5v"),
                ("unit", node),
                f"OG/{colour}",
                0.01,
                noise=noise,
            )
        yield circuit


def _extras(build: Build) -> Iterator[CircuitPlan]:
    wanted = build.wiring.extras
    if "fan" in wanted:
        fan = CircuitPlan("fan", "electric fan", ALLOWED["other"])
        _wire(
            fan,
            "fan_supply",
            "fan relay supply",
            ("battery.plus", "fan_relay.30"),
            ("battery", "panel"),
            "RD",
            FAN_CURRENT,
            fuse="fan",
            noise="B",
        )
        _wire(fan, "fan_feed", "fan feed", ("fan_relay.87", "fan.plus"), ("panel", "front"), "RD/WH", FAN_CURRENT, fuse="fan", noise="B")
        _wire(fan, "fan_ground", "fan ground", ("fan.minus", "battery.minus"), ("front", "battery"), "BK", FAN_CURRENT, noise="B")
        yield fan
        coil = CircuitPlan("fan_relay", "fan relay, coil", ALLOWED["other"])
        _wire(coil, "fan_relay_coil", "fan relay coil", ("fan_relay.85", "unit.?low_side"), ("panel", "unit"), "WH/BU", RELAY_COIL)
        yield coil
    for name, node, colour, current in (
        ("tachometer", "dash", "GY", 0.02),
        ("idle_valve", "engine", "PK", 1.0),
        ("warning_lamp", "dash", "TQ", 0.1),
    ):
        if name in wanted:
            extra = CircuitPlan(name, name.replace("_", " "), ALLOWED["other"])
            _wire(extra, name, name.replace("_", " "), (f"{name}.signal", "unit.?low_side"), (node, "unit"), colour, current)
            yield extra
