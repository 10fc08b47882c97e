"""Which of the usual tasks this build asks for, each with its reason, and whether what proves it is there."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import TYPE_CHECKING, NamedTuple

from ...given.own import told
from ...given.sensors import SensorKind
from ..engine.fitness import Fitness

if TYPE_CHECKING:
    from ...worked import Worked


class Made(NamedTuple):
    """A task that the build asks for: why, and whether its proof is there."""

    why: str
    proven: bool = False


@dataclass(frozen=True, slots=True)
class Asks:
    """What is asked of a build to make its tasks: all that was worked out of it, and the verdict on the engine."""

    w: Worked
    fitness: Fitness
    nothing_to_order: bool
    off_labelled: bool

    def fitted(self, kind: SensorKind) -> bool:
        """Whether the set has this sensor and nobody struck it."""
        return any(r.kind == kind and r.state != "struck" for r in self.w.sensors.rows)

    def tested(self, *circuits: str) -> bool:
        """Whether every wire that serves one of these passes its test."""
        keys = {r.key for r in self.w.wiring.wires if r.circuit in circuits}
        rows = [r for r in self.w.wiring.tests if r.wire in keys]
        return bool(rows) and all(r.verdict == "pass" for r in rows)

    def laid(self, *stages: str) -> bool:
        """Whether every wire stands at one of these."""
        return bool(self.w.wiring.tests) and all(r.stage in stages for r in self.w.wiring.tests)


Maker = Callable[[Asks], Made | None]
MAKERS: dict[str, Maker] = {}


def task(key: str) -> Callable[[Maker], Maker]:
    """Register the maker of a usual task."""

    def register(maker: Maker) -> Maker:
        if key in MAKERS:
            raise ValueError(f"task {key} is made twice")
        MAKERS[key] = maker
        return maker

    return register


def words(value: str) -> str:
    """A word of the document for reading."""
    return value.replace("_", " ")


def _listed(names: Iterable[str]) -> str:
    found = list(names)
    return " and ".join([", ".join(found[:-1]), found[-1]]) if len(found) > 1 else "".join(found)


@task("health")
def _health(a: Asks) -> Made:
    e = a.w.engine
    n = a.w.build.engine.cylinders
    return Made("Injection makes a worn engine's faults worse; everything below rests on this.", len(e.read) == n)


@task("mend_first")
def _mend(a: Asks) -> Made | None:
    if a.fitness.word not in ("mend_first", "not_fit"):
        return None
    first = a.fitness.causes[0].mend if a.fitness.causes else ""
    return Made(f"{a.fitness.reason} {first}".strip())


@task("photograph")
def _photograph(a: Asks) -> Made:
    hoses = len(a.w.build.air.consumers)
    many = f"{hoses} hoses of the old intake, and " if hoses else ""
    return Made(f"{many}every plug and linkage: by spring nobody knows where they went.", a.off_labelled)


@task("old_readings")
def _old_readings(a: Asks) -> Made:
    f = a.w.build.wiring.feed
    return Made("The unit's feed must live while the starter turns: only a meter tells.", None not in (f.off, f.run, f.crank))


@task("link")
def _link(a: Asks) -> Made:
    u = a.w.build.wiring.unit
    return Made(
        "Nothing can be set over a link that nobody tried; software first, then settings.",
        u.software == "renewed" and u.link_proven is not None,
    )


@task("unit_sent")
def _unit_sent(a: Asks) -> Made:
    return Made("Where somebody else sets it up: the order sheet goes with it.")


@task("order_parts")
def _order(a: Asks) -> Made:
    return Made("What takes longest to come is ordered first, whenever it is used.", a.nothing_to_order)


@task("box_sort")
def _box_sort(a: Asks) -> Made:
    i = a.w.build.injectors
    caught = sum(row.volume is not None for row in i.bench)
    why = f"{i.count} of {i.name}: alike within a few parts of a hundred, and none that drips."
    return Made(why, caught >= i.count)


@task("harness_board")
def _board(a: Asks) -> Made:
    w = a.w.wiring
    return Made(f"{len(w.wires)} wires, {w.total_length_m:.0f} m in all: laid out flat they get their true length.", a.laid("laid", "temporary", "tested", "hidden", "wrapped"))  # fmt: skip


@task("harness_make")
def _make(a: Asks) -> Made:
    return Made(f"{2 * len(a.w.wiring.wires)} ends to crimp and label; wrapped for good only once it is proven.", a.laid("temporary", "tested", "hidden", "wrapped"))  # fmt: skip


@task("charging")
def _charging(a: Asks) -> Made:
    c = a.w.build.wiring.charging
    seen = c.exciter != "not_looked_at" and c.sense != "not_looked_at"
    return Made("Injection and pump draw more than the old car: an exciter without lamp or resistor never charges, or never stops.", seen)


def _oxygen(a: Asks) -> tuple[str, bool]:
    o = a.w.build.sensors.oxygen
    if o is None or o.distance is None or o.clock is None:
        return "its place on the pipe is not decided yet", False
    clock = f", {o.clock.si:.0f}° above level" if o.clock.si >= 0 else f", {-o.clock.si:.0f}° below level"
    return f"oxygen sensor at {told(o.distance, a.w.units)} from the ports{clock}", o.leak == "tight"


def _boss(a: Asks, clamped: bool) -> Made | None:
    o = a.w.build.sensors.oxygen
    if not a.fitted("wideband_oxygen") or ((o is not None and o.boss == "clamped") != clamped):
        return None
    why, tight = _oxygen(a)
    return Made(why[:1].upper() + why[1:] + ".", tight)


@task("bung")
def _bung(a: Asks) -> Made | None:
    return _boss(a, clamped=False)


@task("clamp_boss")
def _clamp(a: Asks) -> Made | None:
    return _boss(a, clamped=True)


@task("engine_out")
def _engine_out(a: Asks) -> Made:
    t = a.w.build.sensors.trigger
    if t is not None and t.reach == "out_of_reach" and t.on == "crank":
        return Made("There is no room at the front of the crank with the engine in.")
    return Made("Shared by all that need it: wheel, rear seals, clutch while it is out.")


def wants_engine_out(a: Asks) -> bool:
    """Whether the build itself asks for the engine out."""
    t = a.w.build.sensors.trigger
    return t is not None and t.on == "crank" and t.reach == "out_of_reach"


@task("wheel")
def _wheel(a: Asks) -> Made | None:
    t = a.w.build.sensors.trigger
    if t is None:
        return None
    turned = t.hand_turn is not None and t.hand_turn.finished
    wheel = f"{len(t.windows)} windows" if t.pattern == "windows" else f"{t.teeth}{'+1' if t.pattern == 'added' else f'-{t.missing}'}"
    return Made(
        f"{wheel} on the {t.on}, {words(t.sensor)}: a gap that is wrong shows only when it runs.",
        turned and len([g for g in t.gaps if g is not None]) >= GAPS,
    )


GAPS = 4  # places round a wheel at which the gap is read


@task("find_top")
def _top(a: Asks) -> Made | None:
    t = a.w.build.sensors.trigger
    if t is None or t.on != "crank":
        return None
    return Made("Every angle in the unit is counted from there; a mark on the pulley may have slipped.", t.stop_before is not None and t.stop_after is not None)  # fmt: skip


@task("tank")
def _tank(a: Asks) -> Made | None:
    f = a.w.build.fuel
    if f.pump.place != "in_tank" and (f.tank.return_enters == "below_fuel" and "fuel_tank" in a.w.build.engine.carried_over):
        return None
    what = f"{f.pump.name} goes into it" if f.pump.place == "in_tank" else "its outlet and return are made"
    return Made(f"{what[:1].upper()}{what[1:]}; what lies on its bottom blocks a pump in a day.")


@task("lines")
def _lines(a: Asks) -> Made | None:
    b = a.w.build
    if "fuel_lines" in b.engine.carried_over:
        return None
    return Made(f"Old line stands a few kPa; this one holds {told(b.fuel.regulator.set_pressure, a.w.units)}.")


@task("pump_wire")
def _pump_wire(a: Asks) -> Made | None:
    if "fuel_pump" in a.w.build.engine.carried_over:
        return None
    amps = a.w.fuel.points["full"].current_a
    return Made(f"It draws {amps:.1f} A at full power: the old wire was made for a third of that.", a.tested("pump"))


@task("manifold")
def _manifold(a: Asks) -> Made | None:
    b = a.w.build
    if "intake_manifold" in b.engine.carried_over and "throttle" in b.engine.carried_over:
        return None
    what = {"throttle_body": "Body in the carburettor's place", "port_plenum": "Plenum with an injector a port", "individual_throttles": "One throttle a cylinder"}[b.engine.layout]  # fmt: skip
    shut = bool(b.air.ports) and not a.w.air.open_ports and b.air.left_in == "nothing" and b.air.blanked == "all"
    return Made(f"{what}.", shut)


@task("linkage")
def _linkage(a: Asks) -> Made | None:
    b = a.w.build
    if b.air.by_wire is not None:
        return None
    link = b.air.linkage
    full = a.w.air.pedal_full is not None and a.w.air.pedal_full >= a.w.air.pedal_enough
    return Made("Pedal to the floor must open the plate to its stop, and every spring shut it.", link is not None and link.moves == "free" and full)  # fmt: skip


@task("coolant_sensor")
def _coolant(a: Asks) -> Made | None:
    if not a.fitted("coolant_temperature"):
        return None
    c = a.w.build.sensors.coolant
    placed = c is not None and c.place in ("before_thermostat", "head")
    proven = placed and c is not None and (c.wires > 1 or c.body is not None)
    return Made("Cold start, idle and fan hang on it.", proven)


@task("ignition_parts")
def _ignition(a: Asks) -> Made | None:
    b = a.w.build
    if not b.ignition.timed_by_unit:
        return None
    coils = a.w.ignition.coils
    return Made(f"{words(b.ignition.kind).capitalize()}: {coils} {'coil' if coils == 1 else 'coils'}.", bool(b.ignition.timing))


@task("unit_place")
def _unit_place(a: Asks) -> Made:
    u = a.w.build.wiring.unit
    where = f"In the {words(u.mounted)}" if u.mounted not in ("not_chosen",) else "Its place is not chosen yet"
    return Made(f"{where}; {len(a.w.wiring.fuses)} fuses beside it.", u.reachable == "yes" and u.plugs != "not_looked_at")


@task("harness_in")
def _harness_in(a: Asks) -> Made:
    holes = a.w.wiring.holes
    hole = f"Through {len(holes)} {'hole' if len(holes) == 1 else 'holes'}, away" if holes else "Away"
    return Made(f"{hole} from exhaust, belts and spark leads.", a.laid("temporary", "tested", "hidden", "wrapped"))


@task("grounds")
def _grounds(a: Asks) -> Made:
    g = a.w.build.wiring.grounds
    bare = [key for key, row in g.items() if row.surface == "bare" and (row.ohms is not None or row.rise is not None)]
    return Made("Half of all odd faults end at one.", bool(g) and len(bare) == len(g))


@task("hidden_tested")
def _hidden(a: Asks) -> Made:
    tests = a.w.wiring.tests
    return Made("A break behind trim costs an evening to reach.", bool(tests) and all(r.verdict == "pass" for r in tests))


@task("test_sheet")
def _test_sheet(a: Asks) -> Made:
    tests = a.w.wiring.tests
    done = sum(r.verdict == "pass" for r in tests)
    return Made(f"{done} of {len(tests)} wires pass.", bool(tests) and done == len(tests))


@task("typed_in")
def _typed(a: Asks) -> Made:
    return Made("Displacement, injectors, trigger angle: one wrong constant is wrong in every cell.", a.w.in_use.in_unit == "same")


def _signed(a: Asks, *steps: int) -> bool:
    there = a.w.build.start.steps
    return all((s := there.get(str(n))) is not None and s.done for n in steps)


@task("prime")
def _prime(a: Asks) -> Made:
    return Made("New plumbing leaks somewhere: better into a can, with the engine still.", _signed(a, PRIME))


PRIME, STEPS = 3, 9


@task("first_start")
def _first_start(a: Asks) -> Made:
    return Made("What all of it was for.", _signed(a, *range(STEPS)))


@task("road_1")
def _road(a: Asks) -> Made:
    return Made("Tables are good enough to start and drive gently to learn.", bool(a.w.build.road.drives))


@task("correct")
def _correct(a: Asks) -> Made:
    r = a.w.road
    better = r.before is not None and r.error is not None and r.error <= r.before
    return Made(
        "One cause at a time: most of an early error is one wrong constant.",
        better and not r.changed and not any(c.named for c in r.causes),
    )


@task("speed_cal")
def _speed(a: Asks) -> Made | None:
    box = a.w.build.wiring.gearbox
    if box is None or box.pulses is None:
        return None
    return Made(f"{box.pulses:g} pulses a turn of the gearbox, by the sheet; the tyre tells the rest.")


@task("wrap")
def _wrap(a: Asks) -> Made:
    return Made(
        "Wrapped last, when it has been proven on the road.", a.laid("hidden", "wrapped") and not any(r.covered for r in a.w.wiring.tests)
    )


@task("papers")
def _papers(a: Asks) -> Made:
    return Made("For whoever has the car next: pins, fuses, settings, what differs from stock.")
