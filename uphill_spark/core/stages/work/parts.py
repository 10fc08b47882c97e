"""Everything to buy or to have for this build, down to seals and fuses, for which task it is needed, and what a person did about each."""

from __future__ import annotations

import math
import re
from collections import Counter, defaultdict
from collections.abc import Callable, Iterable, Iterator
from functools import lru_cache, partial
from typing import TYPE_CHECKING, Literal, NamedTuple

from ...circuit.netlist import part_name
from ...figures import Result
from ...given.own import told
from ...given.work import OwnPart, PartNote, PartState, Work
from ...stages.fuel.shopping import shopping
from .made import words
from .tasks import DAY, Span

if TYPE_CHECKING:
    from ...reads import Recall
    from ...worked import Worked

Group = Literal["engine", "fuel", "injectors", "air", "sensors", "ignition", "unit", "wire", "tools", "own"]
#: Days that a part takes to come: quick, usual, slow. Usual for parts by post; in pencil until the supplier says.
LEADS: dict[Group, Span] = {
    "engine": (3, 10, 30), "fuel": (2, 5, 14), "injectors": (3, 10, 21), "air": (7, 14, 30), "sensors": (3, 7, 21), "ignition": (3, 7, 15), "unit": (5, 14, 30), "wire": (2, 4, 10), "tools": (2, 4, 8), "own": (2, 7, 14),
}  # fmt: skip
#: States in which a part is at hand, or none is needed.
HERE: tuple[PartState, ...] = ("have", "arrived", "fitted", "not_wanted")
SPARE = 1.1  # times the wire in the harness: what is cut off, spoilt, and done again
TERMINALS_SPARE = 1.15
_SMALL, _MIDDLE = 1.0e-6, 2.5e-6  # m2, up to which a wire takes a small terminal, a middle one
FUSES_SPARE = 2  # of each size


class Wanted(NamedTuple):
    """A line that the build asks for."""

    key: str
    what: str
    quantity: float
    unit: str
    spec: str
    group: Group
    task: str


class PartRow(Result):
    """A line of the list: what, how many (`counted`, as it is said), for which task, how long it takes to come [s], and what was done about it. `said`, that a person said something of it; `short`, how many of it are missing of those bought; `other`, that it was bought as something else than the plan has now;
    `gone`, that the plan has it no longer."""

    key: str
    what: str
    quantity: float
    unit: str
    counted: str
    spec: str
    group: Group
    task: str
    lead_s: Span
    guessed: bool
    state: PartState
    said: bool
    supplier: str
    price: str
    credit: str
    ordered: str
    due: str
    bought_as: str
    words: str
    short: float
    other: bool
    gone: bool
    own: bool
    entered_at: str

    @property
    def here(self) -> bool:
        """Whether nothing of it has still to come."""
        return self.state in HERE and not self.short


_NO_NOTE = PartNote()
_GROUPS: tuple[Group, ...] = tuple(LEADS)


def rows(recall: Recall, work: Work) -> list[PartRow]:
    """Every line, those that the plan has no longer and that were bought last."""
    wanted = _joined(x for make in _MAKERS for x in recall.of(make.__name__, partial(_lines, make)))
    found = [_row(x, work.parts.get(x.key, _NO_NOTE), said=x.key in work.parts) for x in wanted]
    for key, own in work.lines.items():
        found.append(_row(Wanted(key, own.what, own.quantity, own.unit, "", "own", own.task or ""), own, said=True, own=True))
    keys = {x.key for x in wanted}
    for key, note in work.parts.items():
        if key not in keys and note.state not in ("to_order", "returned", "not_wanted"):
            name = note.bought_as or _named(key)
            group: Group = next((g for g in _GROUPS if key.startswith(f"{g}.")), "own")
            found.append(_row(Wanted(key, name, 0, "piece", "", group, ""), note, said=True, gone=True))
    return found


def _lines(make: Callable[[Worked], Iterator[Wanted]], w: Worked) -> tuple[Wanted, ...]:
    return tuple(make(w))


def counted(quantity: float, unit: str) -> str:
    """How many of it, as it is said.

    >>> counted(1, "piece"), counted(27, "piece"), counted(9.46, "m")
    ('1 piece', '27 pieces', '9.46 m')
    """
    return f"{quantity:g} {unit}{'s' if unit == 'piece' and quantity != 1 else ''}"


_WIRE = re.compile(r"wire\.(?P<size>\d+(?:_\d+)?)_(?P<colour>[a-z]{2}(?:_[a-z]{2})?)")


def _named(key: str) -> str:
    """What a line was, by its key alone."""
    wire = _WIRE.fullmatch(key)
    if wire is not None:
        return f"wire {wire['size'].replace('_', '.')} mm² {wire['colour'].replace('_', '/').upper()}"
    return words(key.partition(".")[2])


@lru_cache(maxsize=2048)
def _row(x: Wanted, note: PartNote, *, said: bool, own: bool = False, gone: bool = False) -> PartRow:
    lead = note.lead
    span: Span = (lead.si, lead.si, lead.si) if lead is not None else tuple(d * DAY for d in LEADS[x.group])  # type: ignore[assignment]
    bought = note.state in ("have", "ordered", "arrived", "fitted")
    short = max(x.quantity - note.count, 0.0) if bought and note.count is not None and not gone else 0.0
    other = bought and bool(note.bought_as) and not own and not gone and note.bought_as.casefold() != x.what.casefold()
    return PartRow(
        key=x.key, what=x.what, quantity=x.quantity, unit=x.unit, counted=counted(x.quantity, x.unit), spec=x.spec, group=x.group, task=x.task, lead_s=span, guessed=lead is None, state=note.state, said=said,
        supplier=note.supplier or "", price=note.price or "", credit=note.credit or "", ordered=note.ordered or "", due=note.due or "", bought_as=note.bought_as, words=note.words, short=round(short, 2),
        other=other, gone=gone, own=own or isinstance(note, OwnPart), entered_at=f"/work/{'lines' if own else 'parts'}/{x.key}",
    )  # fmt: skip


def _joined(lines: Iterable[Wanted]) -> list[Wanted]:
    """Lines of one key made one."""
    found: dict[str, Wanted] = {}
    for x in lines:
        before = found.get(x.key)
        spec = (
            x.spec if before is None or x.spec in before.spec else f"{before.spec}; {x.spec}" if len(before.spec) < _LONG else before.spec
        )
        found[x.key] = x if before is None else before._replace(quantity=before.quantity + x.quantity, spec=spec)
    return [x if x.quantity == (told := round(x.quantity, 2)) else x._replace(quantity=told) for x in found.values()]


_LONG = 160  # characters


@lru_cache(maxsize=1024)
def slug(text: str) -> str:
    """A name as a key."""
    return re.sub(r"[^a-z0-9]+", "_", text.lower()).strip("_")[:60] or "part"


def _fuel(w: Worked) -> Iterator[Wanted]:
    b = w.build
    for item in shopping(b):
        pump = item.what == b.fuel.pump.name
        key = "fuel.pump" if pump else f"fuel.{slug(item.what)}"
        task = "tank" if pump and b.fuel.pump.place == "in_tank" else "lines"
        yield Wanted(key, item.what, item.quantity, item.unit, item.note, "fuel", task)
    if b.fuel.pump.place == "in_tank" and "fuel_pump" not in b.engine.carried_over:
        yield Wanted("fuel.tank_seal", "seal of the tank's cover", 1, "piece", f"for {b.engine.fuel}", "fuel", "tank")
        yield Wanted("fuel.tank_hose", "hose inside the tank, 30R10", 0.5, "m", "with its clamps", "fuel", "tank")


def _injectors(w: Worked) -> Iterator[Wanted]:
    b = w.build
    i, kept = b.injectors, "injectors" in b.engine.carried_over
    if not kept:
        yield Wanted(
            "injectors.set", i.name, i.count, "piece", f"{i.flow} at {told(i.rated_at, w.units)}, {i.resistance}", "injectors", "box_sort"
        )
    if i.second is not None:
        yield Wanted("injectors.second", i.second.name, i.second.count, "piece", f"{i.second.flow}, second set", "injectors", "box_sort")
    many = i.count + (i.second.count if i.second else 0)
    yield Wanted("injectors.seals", "injector seal", 2 * many, "piece", f"upper and lower, for {b.engine.fuel}", "injectors", "manifold")
    yield Wanted("injectors.plugs", "injector plug with terminals and seals", many, "piece", i.connector or "", "wire", "harness_make")


def _air(w: Worked) -> Iterator[Wanted]:
    b = w.build
    kept = b.engine.carried_over
    name = {
        "throttle_body": "adapter for the body",
        "port_plenum": "intake manifold with rail",
        "individual_throttles": "throttles with their manifold",
    }
    if "intake_manifold" not in kept:
        yield Wanted("air.intake", name[b.engine.layout], 1, "piece", "", "air", "manifold")
    if "throttle" not in kept and b.air.throttle is not None and b.engine.layout != "individual_throttles":
        yield Wanted("air.throttle", b.air.throttle.name, 1, "piece", f"{b.air.throttle.bore or ''}", "air", "manifold")
    yield Wanted("air.gaskets", "gasket set, intake", 1, "piece", "", "air", "manifold")
    hoses = [h for h in b.air.consumers if h.port]
    for bore, many in Counter(h.bore for h in hoses if h.bore is not None).items():
        yield Wanted(
            f"air.hose_{slug(str(bore))}",
            f"vacuum hose {bore}",
            many,
            "m",
            f"{many} {'hose' if many == 1 else 'hoses'}, a metre each",
            "air",
            "manifold",
        )
    if w.air.spare_ports:
        yield Wanted(
            "air.caps", "cap for a port, with its clamp", len(w.air.spare_ports), "piece", ", ".join(w.air.spare_ports), "air", "manifold"
        )
    if b.air.by_wire is None:
        yield Wanted("air.cable", "throttle cable with its ends", 1, "piece", "", "air", "linkage")
        yield Wanted("air.spring", "return spring", 2, "piece", "two that each shut it alone", "air", "linkage")


_SENSOR_TASK = {"coolant_temperature": "coolant_sensor", "crank": "wheel", "cam": "wheel", "narrowband_oxygen": "lines"}


def _sensors(w: Worked) -> Iterator[Wanted]:
    b = w.build
    boss = "clamp_boss" if b.sensors.oxygen is not None and b.sensors.oxygen.boss == "clamped" else "bung"
    for row in w.sensors.rows:
        if row.state == "struck" or row.inside_unit:
            continue
        task = boss if "oxygen" in row.kind else _SENSOR_TASK.get(row.kind, "manifold")
        yield Wanted(f"sensors.{row.kind}", row.label, 1, "piece", "with its plug, terminals and seals", "sensors", task)
        if row.kind == "wideband_oxygen":
            yield Wanted("sensors.boss", "boss for the oxygen sensor, with its plug", 1, "piece", "", "sensors", boss)
    t = b.sensors.trigger
    if t is not None and t.on == "crank":
        yield Wanted(
            "sensors.wheel",
            f"trigger wheel {t.teeth}-{t.missing}",
            1,
            "piece",
            f"{t.diameter} over its teeth" if t.diameter else "",
            "engine",
            "wheel",
        )
        yield Wanted("sensors.bracket", "bracket for the crank sensor", 1, "piece", "stiff: it must not swing", "engine", "wheel")


def _ignition(w: Worked) -> Iterator[Wanted]:
    b = w.build
    g = b.ignition
    if not g.timed_by_unit:
        return
    coils = w.ignition.coils
    yield Wanted(
        "ignition.coils", f"{g.coil.kind} coil", coils, "piece", f"{g.coil.resistance}, {g.coil.current}", "ignition", "ignition_parts"
    )
    if g.coil.kind == "dumb" and b.wiring.unit.coil_stage != "inside":
        yield Wanted("ignition.igniter", "igniter", coils, "channel", "with its heat sink and paste", "ignition", "ignition_parts")
    if g.kind != "coil_per_plug":
        yield Wanted("ignition.leads", "suppressed lead", b.engine.cylinders, "piece", "", "ignition", "ignition_parts")
    yield Wanted("ignition.plugs", "spark plug with resistor", b.engine.cylinders, "piece", "", "ignition", "ignition_parts")


def _unit(w: Worked) -> Iterator[Wanted]:
    yield Wanted(
        "unit.control",
        f"control unit, {words(w.wiring.profile)}",
        1,
        "piece",
        f"{sum(1 for p in w.wiring.pins if p.wires)} pins used",
        "unit",
        "unit_place",
    )
    sizes = Counter(f.fitted_a for f in w.wiring.fuses if f.fitted_a is not None)
    for amps, many in sorted(sizes.items()):
        yield Wanted(
            f"wire.fuse_{slug(f'{amps:g}')}",
            f"fuse {amps:g} A",
            many + FUSES_SPARE,
            "piece",
            f"{many} fitted, {FUSES_SPARE} to carry",
            "wire",
            "unit_place",
        )
    if w.wiring.fuses:
        yield Wanted("wire.fuse_holders", "fuse holder", len(w.wiring.fuses), "piece", "with terminals and seals", "wire", "unit_place")
    relays = sorted({r.key for r in w.wiring.wires if r.key.endswith("_relay_coil")})
    if relays:
        yield Wanted(
            "wire.relays",
            "relay with diode, and its holder",
            len(relays) + 1,
            "piece",
            f"{len(relays)} fitted, one to carry",
            "wire",
            "unit_place",
        )


def _wire(w: Worked) -> Iterator[Wanted]:
    metres: defaultdict[tuple[float, str], float] = defaultdict(float)
    ends: Counter[str] = Counter()
    plugs: set[str] = set()
    for r in w.wiring.wires:
        metres[r.area_m2, r.colour] += r.length_m
        ends["small" if r.area_m2 <= _SMALL else "middle" if r.area_m2 <= _MIDDLE else "large"] += 2
        plugs |= {end.partition(".")[0] for end in (r.start, r.end)}
    for (area, colour), length in sorted(metres.items(), key=lambda item: (-item[0][0], item[0][1])):
        size = f"{area * 1e6:.3g}"
        yield Wanted(
            f"wire.{slug(size)}_{slug(colour)}",
            f"wire {size} mm² {colour}",
            math.ceil(length * SPARE * 10) / 10,
            "m",
            f"{length:.1f} m in the harness, a tenth more",
            "wire",
            "harness_board",
        )
    for size, many in ends.items():
        up_to = {"small": "to 1 mm²", "middle": "to 2.5 mm²", "large": "over 2.5 mm²"}[size]
        yield Wanted(
            f"wire.terminals_{size}",
            f"crimp terminal, {up_to}",
            math.ceil(many * TERMINALS_SPARE),
            "piece",
            f"{many} ends, some spare",
            "wire",
            "harness_make",
        )
    own = [p for p in sorted(plugs) if p.endswith(("sensor", "coils", "pump")) or p in ("fan", "idle_valve")]
    for plug in own:
        yield Wanted(
            f"wire.plug_{slug(plug)}", f"plug of {part_name(f'{plug}.x')}", 1, "piece", "with terminals and seals", "wire", "harness_make"
        )
    total = w.wiring.total_length_m
    yield Wanted(
        "wire.shrink",
        "heat-shrink sleeve with glue",
        math.ceil(sum(ends.values()) * 0.04 * 10) / 10,
        "m",
        "4 cm an end",
        "wire",
        "harness_make",
    )
    yield Wanted(
        "wire.tape", "harness tape", max(math.ceil(total / 25), 1), "roll", "cloth, a roll for 25 m of wire", "wire", "harness_make"
    )
    eyes = len(w.build.wiring.grounds)
    if eyes:
        yield Wanted("wire.eyes", "ring terminal and clean bolt", eyes, "piece", "grounds", "wire", "grounds")


def _tools(w: Worked) -> Iterator[Wanted]:
    for key, what, task in (
        ("crimp", "crimp tool with the dies of the terminals", "harness_make"), ("lamp", "test lamp, 21 W", "test_sheet"), ("gauge", "fuel pressure gauge", "prime"),
        ("extinguisher", "fire extinguisher, 2 kg, for fuel", "prime"), ("eyes", "eye protection", "prime"),
    ):  # fmt: skip
        yield Wanted(f"tools.{key}", what, 1, "piece", "", "tools", task)
    if w.build.ignition.timed_by_unit:
        yield Wanted("tools.light", "timing light", 1, "piece", "", "tools", "first_start")


#: The rooms of the list, in its order.
_MAKERS = (_fuel, _injectors, _air, _sensors, _ignition, _unit, _wire, _tools)
