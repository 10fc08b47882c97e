"""The ten stations of the climb, one record each: what is asked there, which figure rules, the stages seen there, the findings that live there."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal, get_args

StationKey = Literal["engine", "fuel", "injectors", "air", "sensors", "ignition", "wiring", "tune", "start", "road"]


@dataclass(frozen=True, slots=True)
class Ruling:
    """A station's figure in the fewest words: `told` with the figure in it as shown, or with its bare number to `digits`; `unknown` and `none` (nought)."""

    figure: str
    told: str
    unknown: str
    none: str = ""
    digits: int | None = None


@dataclass(frozen=True, slots=True)
class Station:
    """A station: its question, its ruling figure, hours that the work usually takes, its stages, its modules of findings, sections of the build entered
    there, its benches by key with their titles, as they stand on it."""

    key: StationKey
    title: str
    asks: str
    hours: float
    ruling: Ruling | None = None
    stages: tuple[str, ...] = ()
    findings: tuple[str, ...] = ()
    sections: tuple[str, ...] = ()
    built: bool = True
    benches: Mapping[str, str] = field(default_factory=dict)


STATIONS: tuple[Station, ...] = (
    Station(
        "engine", "Engine", "Is it fit, and what will it ask for?", 4,
        Ruling("engine.compression.spread", "{} spread", "compression?"), ("engine",), ("engine", "engine_health"), ("engine",),
        benches={"wanted": "What is wanted of it", "run": "What the car should do", "engine": "What it is", "cam": "Cam card", "compression": "Compression log", "escapes": "Where the air comes out", "health": "Health log", "carried_over": "Carried over"},
    ),
    Station(
        "fuel", "Fuel", "Will the pump hold the pressure when the engine asks for everything?", 14,
        Ruling("fuel.margin.full", "{}× need", "pump?", digits=1), ("fuel", "doubt"), ("fuel", "fuel_system", "fuel_heat"), ("fuel",),
        benches={"pump_wire": "Wire to the pump", "candidates": "Other pumps to compare"},
    ),
    Station(
        "injectors", "Injectors", "Large enough at full power, small enough at idle?", 8,
        Ruling("injectors.duty.full", "{} open", "flow?"), ("injectors",), ("injectors",), ("injectors",),
        benches={"injector": "The injector", "firing": "How it is fired", "second_set": "Second set, staged", "driver": "Coil and driver", "dead_time": "Dead time", "flow_bench": "On the flow bench", "box": "In the box"},
    ),
    Station(
        "air", "Air", "Does it breathe, and does it shut again?", 6,
        Ruling("air.throttle.drop.full", "{} lost", "throttle?"), ("air",), ("air",), ("air",),
        benches={"body": "Throttle body", "linkage": "Pedal and linkage", "ports": "Ports", "hoses": "Hoses", "balance": "Balance and reservoir", "openings": "Nothing left in, nothing left open"},
    ),
    Station(
        "sensors", "Sensors", "What must the control unit see, and from where?", 8,
        Ruling("sensors.missing", "{} to confirm", "sensors?", "all confirmed"), ("sensors", "trigger"), ("sensors", "sensor_places", "trigger"), ("sensors",),
        benches={"set": "The set this build needs", "trigger": "Trigger wheel", "trigger_sensor": "Its sensor", "gap": "The gap", "number_one": "Where is number one", "phase": "Phase signal", "coolant": "Coolant sensor", "air": "Intake air sensor", "throttle": "Throttle sensor", "pressure": "Manifold pressure sensor", "fuel_pressure": "Fuel pressure sensor", "oxygen": "Exhaust and oxygen sensor", "key_on": "Key on, engine off and cold"},
    ),
    Station(
        "ignition", "Ignition", "Who fires what, when, and is the coil ready?", 6,
        Ruling("ignition.duty.limit", "{} dwell", "coil too weak"), ("ignition",), ("ignition",), ("ignition",),
        benches={"ignition": "The ignition", "coil": "The coil", "igniter": "Igniter", "outputs": "What each output fires", "letters": "Coil plugs of the harness", "distributor": "Distributor", "plugs": "Plugs, leads, rev counter", "light": "Timing light"},
    ),
    Station(
        "wiring", "Wiring", "Which wire goes where, how thick, behind which fuse?", 18,
        Ruling("wiring.feed.crank", "{} cranking", "crank volts?"), ("harness", "circuit", "wiring"), ("wiring",), ("wiring",),
        benches={"feeds": "Feeds", "unit": "Control unit", "fuses": "Fuses", "branches": "Branches, measured with a string"},
    ),
    Station(
        "tune", "Tune", "Tables good enough to start and be driven gently.", 3,
        Ruling("tune.required_pulse", "{} pulse", "pulse?"), ("tune",), ("tune",), ("tune",),
        benches={"targets": "Targets", "typed": "Typed into the control unit", "tables": "Take the tables with you"},
    ),
    Station("start", "First start", "One step at a time, with the figures to expect.", 4, sections=("start",)),
    Station("road", "Road", "Drive, log, correct.", 6, built=False),
)  # fmt: skip
BY_KEY: dict[StationKey, Station] = {s.key: s for s in STATIONS}
#: The station at which a stage is seen, a module of findings lives, a section of the build is entered.
OF_STAGE: dict[str, StationKey] = {stage: s.key for s in STATIONS for stage in s.stages}
OF_FINDINGS: dict[str, StationKey] = {module: s.key for s in STATIONS for module in s.findings}
OF_SECTION: dict[str, StationKey] = {section: s.key for s in STATIONS for section in s.sections}
ORDER: tuple[StationKey, ...] = get_args(StationKey)


def of_place(pointer: str) -> StationKey:
    """The station at which a place in the build is entered; the first for what stands above all of them, like the name."""
    tokens = pointer.split("/")
    return OF_SECTION.get(tokens[1] if len(tokens) > 1 else "", "engine")
