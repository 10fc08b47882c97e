"""The ten stations of the climb and the work beside it, one record each: what is asked there, which figure rules, the stages seen there, the findings that live there, its benches."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Literal, get_args

StationKey = Literal["engine", "fuel", "injectors", "air", "sensors", "ignition", "wiring", "tune", "start", "road", "work"]


@dataclass(frozen=True, slots=True)
class Ruling:
    """A station's figure in the fewest words: `told` with the figure in it as shown, or with its bare number to `digits`; `unknown` and `none` (nought)."""

    figure: str
    told: str
    unknown: str
    none: str = ""
    digits: int | None = None


@dataclass(frozen=True, slots=True)
class Bench:
    """One question of a station: its key in addresses, its name in the row, what is asked, places in the build that are entered on it, the figure that rules
    it, and its groups of fields by key with their titles."""

    key: str
    title: str
    asks: str
    places: tuple[str, ...] = ()
    figure: str | None = None
    groups: Mapping[str, str] = field(default_factory=dict)


OVERVIEW = "overview"


@dataclass(frozen=True, slots=True)
class Station:
    """A station: its question, its ruling figure, hours that the work usually takes, its stages, its modules of findings, sections of the build entered
    there, its benches in the order of work, the first not among them (called `first`), minutes that one act there usually takes: a part changed, a figure typed."""

    key: StationKey
    title: str
    asks: str
    hours: float
    ruling: Ruling | None = None
    stages: tuple[str, ...] = ()
    findings: tuple[str, ...] = ()
    sections: tuple[str, ...] = ()
    built: bool = True
    benches: tuple[Bench, ...] = ()
    minutes: int = 30
    #: Not one of the ten on the climb: it stands beside it, one key away.
    beside: bool = False
    first: str = "Overview"

    @property
    def row(self) -> tuple[Bench, ...]:
        """All its benches, the overview first."""
        return (Bench(OVERVIEW, self.first, self.asks, figure=self.ruling.figure if self.ruling else None), *self.benches)


_WAYS = Bench("ways", "Ways", "Good people disagree: which way for this car?")


def _papers(asks: str) -> Bench:
    return Bench("papers", "Papers", asks)


def _at(section: str, *names: str) -> tuple[str, ...]:
    return tuple(f"/{section}/{name}" for name in names)


STATIONS: tuple[Station, ...] = (
    Station(
        "engine", "Engine", "Is it fit, and what will it ask for?", 4,
        Ruling("engine.compression.spread", "{} spread", "compression?"), ("engine",), ("engine", "engine_health"), ("engine",),
        minutes=60,
        benches=(
            Bench("compression", "Compression", "Do all cylinders hold, and alike?", _at("engine", "compression"), "engine.compression.spread", {"compression": "Compression log", "escapes": "Where the air comes out"}),
            Bench("health", "Health", "What do vacuum, oil and smoke say?", _at("engine", "health"), "engine.vacuum", {"health": "Health log"}),
            Bench("power", "Power", "What is it to give, and is there air for it?", _at("engine", "power", "rolling_road", "power_speed", "power_basis", "rev_limit", "altitude", "fuel", "season", "octane", "bsfc", "boost", "blower", "run"), "engine.bmep", {"wanted": "What is wanted of it", "run": "What the car should do"}),
            Bench("itself", "The engine itself", "What is in it, and how are its cylinders numbered?", ("/engine",), "engine.compression.expected", {"engine": "What it is", "cam": "Cam card"}),
            Bench("worked", "Worked", "What does it give over its speeds, worked from its measures?", _at("engine", "exhaust", "exhaust_valve", "exhaust_valves", "tract"), None, {"measures": "Measures that it is worked from"}),
            Bench("kept", "Carried over", "What stays on the car?", _at("engine", "carried_over"), None, {"carried_over": "Carried over"}),
            _WAYS,
            _papers("What to print of the engine"),
        ),
    ),
    Station(
        "fuel", "Fuel", "Will the pump hold the pressure when the engine asks for everything?", 14,
        Ruling("fuel.margin.full", "{}× need", "pump?", digits=1), ("fuel", "doubt"), ("fuel", "fuel_system", "fuel_heat", "fuel_branches"), ("fuel",),
        minutes=45,
        benches=(
            Bench("path", "Path", "What does the fuel meet from tank to rail and back?", _at("fuel", "path", "parts"), "fuel.supply.loss.full"),
            Bench("pump", "Pump", "Does the pump hold the pressure, and what stops it?", _at("fuel", "pump", "candidates", "design_margin", "crash_switch"), "fuel.pump.flow.full", {"candidates": "Other pumps to compare"}),
            Bench("wire", "Its wire", "How many volts reach the pump?", _at("wiring/fitted", "pump_supply", "pump_feed", "pump_ground"), "fuel.pump.voltage.full", {"pump_wire": "Wire to the pump"}),
            Bench("regulator", "Regulator", "Is the pressure right in every state, and does the return stay open?", _at("fuel", "regulator", "body", "tank/return_enters"), "fuel.return.pressure.idle", {"body": "The body's own"}),
            Bench("tank", "Tank and heat", "Does the fuel stay liquid on the hottest day?", _at("fuel", "tank", "lift", "seals"), "fuel.inlet.margin"),
            Bench("branches", "Branches", "What else hangs on the line, and what was measured on it?", _at("fuel", "rails", "users", "measured"), "fuel.need", {"branches": "Branches and second users", "measured": "Measured on the car"}),
            Bench("doubt", "How sure", "How sure is that, and what to measure first?", (), "fuel.margin.tired"),
            Bench("mend", "Mend", "What would put it right, for how much work?"),
            _WAYS,
            _papers("What to print, and what to buy"),
        ),
    ),
    Station(
        "injectors", "Injectors", "Large enough at full power, small enough at idle?", 8,
        Ruling("injectors.duty.full", "{} open", "flow?"), ("injectors",), ("injectors",), ("injectors",),
        benches=(
            Bench("injector", "The injector", "What does one squirt give, and when does it open?", ("/injectors",), "injectors.nominal", {"injector": "The injector", "donor": "Without a sheet", "dead_time": "Dead time"}),
            Bench("box", "In the box", "Which of those in the box are best for this engine?", _at("injectors", "box"), None, {"box": "In the box"}),
            Bench("flow", "Flow bench", "Which go together, and in what order?", _at("injectors", "bench", "bench_fluid", "altered"), "injectors.spread", {"flow_bench": "On the flow bench"}),
            Bench("fired", "How they are fired", "When are they fired, and can the driver bear it?", _at("injectors", "firing", "squirts", "duty_limit", "outputs", "fed", "resistance", "ballast", "driver", "driver_limit", "per_driver", "peak_hold"), "injectors.current.driver", {"firing": "How it is fired", "driver": "Coil and driver"}),
            Bench("enters", "What they spray into", "What pressure is left across them, from idle to full power?", _at("injectors", "enters", "unit_compensates"), "injectors.across.left", {"enters": "Where fuel enters"}),
            Bench("second", "Second set", "Would a second set help, and where does it join in?", _at("injectors", "second"), "injectors.changeover", {"second_set": "Second set, staged"}),
            _papers("What to print of the injectors"),
        ),
    ),
    Station(
        "air", "Air", "Does it breathe, and does it shut again?", 6,
        Ruling("air.throttle.drop.full", "{} lost", "throttle?"), ("air",), ("air", "by_wire"), ("air",),
        minutes=20,
        benches=(
            Bench("body", "Throttle body", "How much does the throttle lose, and how does the pedal feel?", _at("air", "throttle", "height"), "air.throttle.drop.full", {"body": "Throttle body", "height": "Under the bonnet"}),
            Bench("linkage", "Pedal and linkage", "Does the pedal open it all the way, and does it shut by itself?", _at("air", "linkage", "by_wire"), "air.pedal.full", {"linkage": "Pedal and linkage", "by_wire": "Throttle by wire"}),
            Bench("hoses", "Ports and hoses", "Which hose goes to which port?", _at("air", "ports", "consumers"), "air.ports.open", {"ports": "Ports", "hoses": "Hoses"}),
            Bench("sealed", "Crankcase and leaks", "Is nothing left in, and nothing left open?", ("/air",), "air.reservoir.applications", {"balance": "Balance and reservoir", "openings": "Nothing left in, nothing left open"}),
            _papers("Tags for the hoses, and the air sheet"),
        ),
    ),
    Station(
        "sensors", "Sensors", "What must the control unit see, and from where?", 8,
        Ruling("sensors.missing", "{} to confirm", "sensors?", "all confirmed"), ("sensors", "trigger"), ("sensors", "sensor_places", "sensor_kinds", "trigger"), ("sensors",),
        minutes=20,
        benches=(
            Bench("set", "The set", "Which sensors does this build need?", _at("sensors", "decisions", "meter", "narrowband", "composition"), "sensors.missing", {"set": "The set this build needs", "more": "Others that are there"}),
            Bench("coolant", "Coolant sensor", "Does it sit right and read right, cold to hot?", _at("sensors", "coolant"), "sensors.coolant_temperature.at_20C", {"coolant": "Coolant sensor"}),
            Bench("air", "Air sensor", "Does it feel the air that goes in?", _at("sensors", "air"), "sensors.intake_air_temperature.at_20C", {"air": "Intake air sensor"}),
            Bench("throttle", "Throttle sensor", "Does it see the pedal from shut to the floor?", _at("sensors", "throttle"), "sensors.throttle.pedal", {"throttle": "Throttle sensor"}),
            Bench("lines", "Pressure", "Do the pressure sensors read on their own line?", _at("sensors", "pressure", "fuel_pressure"), "sensors.pressure.most", {"pressure": "Manifold pressure sensor", "fuel_pressure": "Fuel pressure sensor"}),
            Bench("oxygen", "Oxygen sensor", "Where on the exhaust may it sit?", _at("sensors", "oxygen"), None, {"oxygen": "Exhaust and oxygen sensor"}),
            Bench("wheel", "Trigger wheel", "What does the wheel tell?", _at("sensors", "trigger"), "trigger.degrees_per_tooth", {"trigger": "Trigger wheel"}),
            Bench("sensor", "Its sensor", "Do sensor, supply and input fit, and is there a phase signal?", _at("sensors/trigger", "sensor", "mount", "tip", "threshold", "polarity", "wants", "given", "input", "input_rate", "spin", "phase", "shared", "low_most"), "trigger.rate.limit", {"trigger_sensor": "Its sensor", "shared": "Shared signal", "phase": "Phase signal"}),
            Bench("top", "Top of number one", "Which tooth is under the sensor at true top?", _at("sensors/trigger", "seen_from", "top_by", "stop_before", "stop_after", "tooth_at_top", "angle", "figure_from", "face", "index_shift", "doubt", "stroke", "light_commanded", "light_observed", "cranking"), "trigger.angle", {"number_one": "Where is number one"}),
            Bench("gap", "Gap", "Is the gap right all round?", _at("sensors/trigger", "gaps", "gap_least", "gap_most", "shims", "travel", "overlap"), "trigger.gap.mean", {"gap": "The gap"}),
            Bench("hand", "Hand-turn test", "Does it count every tooth, turned by hand?", (), "trigger.error.cranking"),
            Bench("scope", "Scope", "What does its signal look like?"),
            Bench("key_on", "Key on", "Do all sensors make sense, engine off and cold?", _at("sensors", "key_on"), None, {"key_on": "Key on, engine off and cold"}),
            _WAYS,
            _papers("Cards to print, tables for the control unit"),
        ),
    ),
    Station(
        "ignition", "Ignition", "Who fires what, when, and is the coil ready?", 6,
        Ruling("ignition.duty.limit", "{} dwell", "its own module"), ("ignition",), ("ignition",), ("ignition",),
        minutes=20,
        benches=(
            Bench("coil", "Coil and driver", "Is the coil charged in time, and does its driver bear it?", ("/ignition",), "ignition.dwell.12V", {"ignition": "The ignition", "coil": "The coil", "igniter": "Igniter"}),
            Bench("order", "Order and outputs", "Does every cylinder get its spark on time?", (*_at("ignition", "outputs", "letters"), "/wiring/unit/numbers"), None, {"outputs": "What each output fires", "letters": "Coil plugs of the harness"}),
            Bench("distributor", "Distributor", "Is the rotor under its post when the spark comes?", _at("ignition", "distributor"), "ignition.rotor.span", {"distributor": "Distributor"}),
            Bench("light", "Timing light", "Does the light agree with what the unit says?", _at("ignition", "timing"), "ignition.offset", {"light": "Timing light"}),
            Bench("plugs", "Plugs and rev counter", "Are plugs and leads quiet, and does the rev counter count right?", _at("ignition", "resistor_plugs", "suppressed_leads", "tach"), "ignition.tach.pulses", {"plugs": "Plugs, leads, rev counter"}),
            _WAYS,
            _papers("What to print of the ignition"),
        ),
    ),
    Station(
        "wiring", "Wiring", "Which wire goes where, how thick, behind which fuse?", 18,
        Ruling("wiring.feed.crank", "{} cranking", "crank volts?"), ("harness", "circuit", "wiring"), ("wiring", "unit", "grounds", "routes", "old_wires", "wire_tests"), ("wiring",),
        benches=(
            Bench("feeds", "Feeds by key", "Is there current where and when it is wanted?", _at("wiring", "feed", "links"), "wiring.feed.crank", {"feeds": "Feeds", "links": "Fusible links"}),
            Bench("unit", "Control unit", "Is there a pin for everything?", (*_at("wiring", "profile", "extras", "unit_current", "fan_current", "insulation"), *_at("wiring/unit", "numbers", "coil_stage", "pump_output", "pump_limit", "oxygen", "spare_12v", "spare_5v", "bridge", "pins")), "wiring.pins_short", {"unit": "Control unit", "sheet": "From its sheet", "pin_table": "Its own pin table"}),
            Bench("sits", "Its place and settings", "Where does it sit, and can it be set to this car?", _at("wiring", "unit"), None, {"sits": "Where it sits", "link": "Lock, software and link", "settings": "What it can be set to"}),
            Bench("power", "Power and grounds", "Do the volts hold in every position of the key, and where do grounds land?", _at("wiring", "battery", "grounds", "charging"), "wiring.unit.volts.crank", {"battery": "Battery", "charging": "Alternator", "grounds": "Grounds"}),
            Bench("gearbox", "Gearbox", "What does the unit hear of the gearbox?", _at("wiring", "gearbox"), None, {"gearbox": "Gearbox"}),
            Bench("wires", "Wires", "How thick is each wire, and what does it lose?", (*_at("wiring", "own", "added", "left_out", "names", "joint_method", "unit/chosen"), "/wiring"), "wiring.count", {"own": "Circuits of your own", "added": "Wires of your own", "joints": "Joints"}),
            Bench("circuits", "Circuits", "What does the current pass, from the battery to its ground?"),
            Bench("plugs", "Plugs", "Which wire goes into which place, and what is read there?"),
            Bench("fuses", "Fuses and relays", "Does every fuse protect its wire, does every relay bear its load?", _at("wiring", "fuses", "relays"), "wiring.fuse.pump", {"fuses": "Fuses", "relays": "Relays"}),
            Bench("routes", "Routes", "Where does it run, and how long is it?", _at("wiring", "branches", "nodes", "sits"), "wiring.total_length", {"branches": "Branches, measured with a string", "places": "Places and parts"}),
            Bench("passes", "Holes and heat", "Does it pass its holes, and is it safe from what is beside it?", _at("wiring", "holes", "beside", "pairs"), "wiring.bundle.firewall", {"holes": "Holes", "beside": "Heat, movement and noise beside the branches"}),
            Bench("met", "What is met", "What of the old car, what does the loom bring, what is left over?", _at("wiring", "old", "loose", "loom", "bus"), None, {"old": "Old wires", "loose": "Loose ends", "loom": "A made loom", "bus": "Bus"}),
            Bench("meter", "Meter", "What should a meter read, and what is wrong when it reads otherwise?"),
            Bench("tests", "Test sheet", "Which wires are proven?", _at("wiring", "tests"), None, {"tests": "One wire"}),
            _WAYS,
            _papers("What to order by, what to lay by, what to test by"),
        ),
    ),
    Station(
        "tune", "Tune", "Tables good enough to start and be driven gently.", 3,
        Ruling("tune.full_cylinder_pulse", "{} pulse", "pulse?"), ("tune", "in_use"), ("tune", "tune_kept"), ("tune",),
        minutes=10,
        benches=(
            Bench("tables", "Tables", "What is typed into each cell, and what does it do in the car?", ("/tune/kept",), "tune.ve.full.peak", {}),
            Bench("targets", "Targets", "What mixture and what advance are wanted?", ("/tune",), "tune.table_fuel.full", {"targets": "Targets"}),
            Bench("worked", "Worked", "What does the engine itself ask for in each cell, and how sure is that?", (), "tune.power.worked"),
            Bench("kept", "Kept", "What was changed, by whom, and what stood before?", ("/tune/found", "/tune/came_empty", "/tune/kept/in_unit", "/tune/kept/label"), None, {"kept": "The kept tune"}),
            Bench("read", "Read in", "What stands in the unit now?"),
            Bench("warmth", "Warm-up", "What does it get from frost to hot?"),
            Bench("typed", "Typed in", "Is what was typed into the control unit this build?", _at("tune", "typed"), "tune.full_cylinder_pulse", {"typed": "Typed into the control unit"}),
            Bench("papers", "Take along", "The tables, to be read by anything", (), None, {"tables": "Take the tables with you"}),
        ),
    ),
    Station(
        "start", "First start", "What stands between here and the key?", 4, findings=("start", "temporary"), sections=("start",), minutes=15,
        benches=(
            Bench("steps", "Steps", "One step at a time, with the figures to expect.", ("/start/steps",)),
            Bench("car", "At the car", "One thing at a time, in large letters, typed or off the bus."),
            Bench("off", "It is off", "What do you see, and which of a hundred causes is it?"),
            Bench("practice", "Practice", "A fault is hidden in this car: what is it?"),
            Bench("rehearsal", "Rehearsal", "Would it start, and what does that hang on?", ("/start/rehearsed",)),
            Bench("bus", "Its bus", "Where do the live readings come from?"),
            Bench("temporary", "Temporary fits", "What is fitted for now, and must be undone?", ("/start/temporary",), None, {"temporary": "Temporary fits"}),
        ),
    ),
    Station(
        "road", "Road", "It runs. What is wrong, by how much, and is it the table at all?", 6,
        Ruling("road.error.median", "{} off", "no reading yet"), ("road",), ("road",), ("road",), minutes=20, first="Logs",
        benches=(
            Bench("believe", "Believe", "Which rows may be believed?"),
            Bench("off", "What is off", "Is it one constant, or the table?", ("/road/drives",), "road.error.median"),
            Bench("correct", "Correct", "Where was it driven, and what should stand there?"),
            Bench("parts", "Cold, foot, idle", "Cold, foot down, idling: what of them?"),
            Bench("pulls", "Pulls", "How much does it give?"),
            Bench("strip", "Strip", "What happened when?"),
            Bench("drive", "Drive plan", "What is still to be driven?"),
            _papers("What to take along"),
        ),
    ),
    Station(
        "work", "Work", "What do I do this evening, and what must I order today?", 0,
        Ruling("work.hours", "{} left", "tasks?", "all done"), ("work",), ("plan",), ("work",), minutes=10, beside=True, first="Today",
        benches=(
            Bench("path", "Path", "When is it done, and what holds it up?", ("/work",), "work.finish.p90", {"people": "People and their hours", "dates": "Days that count"}),
            Bench("tasks", "Tasks", "What is there to do, and what does each need?", _at("work", "tasks", "own"), "work.hours", {"own": "Tasks of your own"}),
            Bench("parts", "Parts", "What is needed, what is here, and what is on its way?", _at("work", "parts", "lines"), "work.to_order", {"lines": "Parts of your own"}),
            Bench("money", "Money", "What does it cost, and what is left?", _at("work", "money"), "work.cost", {"money": "Currency and budget"}),
            Bench("diary", "Diary", "What was done, measured, decided, and when?"),
            Bench("off", "Taken off", "Where did this come from, and where does it go back?", _at("work", "off"), None, {"off": "Off the car"}),
            Bench("book", "Book", "What goes with the car, and how is all of it kept?"),
        ),
    ),
)  # fmt: skip
BY_KEY: dict[StationKey, Station] = {s.key: s for s in STATIONS}
#: The station at which a stage is seen, a module of findings lives, a section of the build is entered.
OF_STAGE: dict[str, StationKey] = {stage: s.key for s in STATIONS for stage in s.stages}
OF_FINDINGS: dict[str, StationKey] = {module: s.key for s in STATIONS for module in s.findings}
OF_SECTION: dict[str, StationKey] = {section: s.key for s in STATIONS for section in s.sections}
ORDER: tuple[StationKey, ...] = get_args(StationKey)
#: The ten of the climb.
CLIMB: tuple[Station, ...] = tuple(s for s in STATIONS if not s.beside)


def of_place(pointer: str) -> StationKey:
    """The station at which a place in the build is entered; the first for what stands above all of them, like the name."""
    tokens = pointer.split("/")
    return OF_SECTION.get(tokens[1] if len(tokens) > 1 else "", "engine")


@lru_cache(maxsize=4096)
def bench_of(pointer: str, station: StationKey | None = None) -> tuple[StationKey, str]:
    """Station and bench at which a place in the build is entered: the one whose place holds it most closely, at any station or at one.

    The overview of the station for what is entered on no bench.
    """
    among = STATIONS if station is None else (BY_KEY[station],)
    held = [
        (len(place), s.key, b.key)
        for s in among
        for b in s.benches
        for place in b.places
        if pointer == place or pointer.startswith(f"{place}/")
    ]
    if held:
        _, at, bench = max(held)
        return at, bench
    return station or of_place(pointer), OVERVIEW
