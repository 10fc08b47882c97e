"""Wiring: the harness as it is made. Every wire routed, sized and fused, each with what it carries once volts and currents are in balance."""

from __future__ import annotations

import math
from collections import Counter

from ...circuit.conductors import Made, next_fuse, outside_diameter
from ...circuit.electric import RESTS_ON, Electric
from ...circuit.netlist import terminal_name
from ...circuit.pins import PinRow
from ...circuit.pulsed import Draw
from ...circuit.states import ORDER, SYSTEM_VOLTS, KeyState
from ...circuit.states import STATES as KEY_STATES
from ...figures import Result, Spec
from ...given import Build
from ...given.unit import Gearbox
from ...physics.electric import wire_temperature
from ..fuel.demand import STATES
from . import balance, loom, met, routes, settings, tested
from .balance import StateRow
from .loom import LoomResult
from .met import MetRow
from .routes import BesideRow, HoleRow
from .settings import SettingRow
from .tested import TestRow

ROUNDING = 1.005  # by which a figure may pass a limit: wires and fuses are proposed to the very limit
HOTTEST_SHOWN = 2000.0  # K: past it the copper has long run away


class NodeRow(Result):
    """A place of the harness on the drawing."""

    key: str
    name: str
    x_m: float
    y_m: float


class BranchRow(Result):
    """A leg of the harness: what runs in it, how thick it gets."""

    key: str
    start: str
    end: str
    zone: str
    length_m: float
    wires: int
    diameter_m: float


class WireRow(Result):
    """A wire from pin to pin, as it is to be made. `current_a` is the most that it carries in any state, effective, `peak_a` at its peak, `drop_v` what it then loses, joints included.

    `starts_at` and `ends_at` tell in words what `start` and `end` name.
    """

    key: str
    label: str
    circuit: str
    start: str
    end: str
    starts_at: str
    ends_at: str
    colour: str
    noise: str
    path: list[str]
    length_m: float
    current_a: float
    peak_a: float
    area_m2: float
    proposed_area_m2: float
    fitted: bool
    drop_v: float
    limit_a: float
    temperature_k: float
    fuse: str | None


class CircuitRow(Result):
    """A circuit's drop, out and back, wires, fuse and relay, against what it may lose."""

    key: str
    label: str
    drop_v: float
    allowed_v: float
    fitted: bool


class FuseRow(Result):
    """A fuse: what it feeds, effective; what is proposed, None where the wire behind it carries no fuse that would hold; what is fitted; what the thinnest wire
    behind it may carry, and the size [m2] that it would have to have."""

    key: str
    load_a: float
    proposed_a: float | None
    fitted_a: float | None
    wire_limit_a: float
    thinnest: str
    wanted_a: float | None
    wanted_area_m2: float


class WiringResult(Result):
    """Circuits, wires, fuses, pins, bundles."""

    profile: str
    wires: list[WireRow]
    circuits: list[CircuitRow]
    fuses: list[FuseRow]
    pins: list[PinRow]
    pins_short: list[str]
    nodes: list[NodeRow]
    branches: list[BranchRow]
    total_length_m: float
    off_v: float | None
    accessory_v: float | None
    run_v: float | None
    crank_v: float | None
    pulses_per_km: float | None
    bare_feed_m: float
    settings: list[SettingRow]
    states: list[StateRow]
    memory_days: float | None
    beside: list[BesideRow]
    holes: list[HoleRow]
    firewall_m: float
    loom: LoomResult | None
    met: list[MetRow]
    read_in: list[KeyState]
    tests: list[TestRow]


#: What this stage reads of the build.
READS = ("wiring", "sensors.trigger", "ignition.timed_by_unit", "ignition.letters")


def work_out(build: Build, circuit: Electric) -> WiringResult:
    """The whole harness, from its netlist in balance."""
    w, made = build.wiring, circuit.made
    through = Counter(key for m in made.values() for key in m.route)
    across = routes.bundles(made)
    carried, drops = circuit.most_carried(), circuit.circuit_drops()
    return WiringResult(
        profile=w.profile,
        wires=[_row(m, carried[key]) for key, m in made.items()],
        circuits=[
            CircuitRow(
                key=c.key,
                label=c.label,
                drop_v=drops[c.key],
                allowed_v=c.allowed * SYSTEM_VOLTS,
                fitted=any(made[x.key].fitted for x in c.wires),
            )
            for c in circuit.netlist.circuits
        ],
        fuses=_fuses(build, circuit),
        pins=circuit.harness.pins,
        pins_short=circuit.harness.pins_short,
        nodes=[NodeRow(key=k, name=n.name, x_m=n.x, y_m=n.y) for k, n in w.nodes.items()],
        branches=[
            BranchRow(
                key=k,
                start=b.start,
                end=b.end,
                zone=b.zone,
                length_m=b.length.si,
                wires=through[k],
                diameter_m=across.get(k, 0.0),
            )
            for k, b in w.branches.items()
        ],
        total_length_m=sum(m.length_m for m in made.values()),
        off_v=w.feed.off.si if w.feed.off else None,
        accessory_v=w.feed.accessory.si if w.feed.accessory else None,
        run_v=w.feed.run.si if w.feed.run else None,
        crank_v=w.feed.crank.si if w.feed.crank else None,
        pulses_per_km=_pulses_per_km(w.gearbox),
        settings=settings.rows(build),
        states=balance.rows(build, circuit),
        memory_days=balance.memory_days(build),
        beside=routes.beside(build, made),
        holes=routes.holes(build, across),
        firewall_m=routes.at_firewall(build, across),
        loom=loom.judged(build, made),
        met=met.rows(build),
        read_in=list(tested.READ_IN),
        tests=tested.rows(build, circuit),
        bare_feed_m=max([w.feed.fuse_distance.si, *(x.distance.si for x in w.links if x.distance is not None)]),
    )


def _pulses_per_km(box: Gearbox | None) -> float | None:
    """Speed pulses that come in a kilometre: those of a turn of the gearbox's output, times the axle, over the tyre's way; None where one is not known."""
    if box is None or box.pulses is None or box.axle is None or box.tyre is None:
        return None
    return box.pulses * box.axle.si * 1000.0 / (2 * math.pi * box.tyre.si)


def _row(m: Made, carried: Draw) -> WireRow:
    w, amps = m.wire, carried.effective
    return WireRow(
        key=w.key, label=w.label, circuit=w.circuit, start=w.start, end=w.end, starts_at=terminal_name(w.start), ends_at=terminal_name(w.end), colour=m.colour, noise=w.noise,
        path=list(m.route), length_m=m.length_m, current_a=amps, peak_a=carried.peak, area_m2=m.area_m2, proposed_area_m2=m.proposed_area_m2, fitted=m.fitted,
        drop_v=carried.peak * m.ohms, limit_a=m.limit_a,
        temperature_k=min(wire_temperature(amps, m.area_m2, outside_diameter(m.area_m2), m.beside_k), HOTTEST_SHOWN), fuse=w.fuse,
    )  # fmt: skip


def _fuses(build: Build, circuit: Electric) -> list[FuseRow]:
    rows = []
    for key, load in circuit.fuse_loads.items():
        thinnest = min((m for m in circuit.made.values() if m.wire.fuse == key), key=lambda m: m.limit_a)
        wanted = next_fuse(load)
        proposed = wanted if wanted is not None and wanted <= thinnest.limit_a * ROUNDING else None
        rows.append(
            FuseRow(
                key=key,
                load_a=load,
                proposed_a=proposed,
                fitted_a=build.wiring.fuses.get(key, proposed),
                wire_limit_a=thinnest.limit_a,
                thinnest=thinnest.wire.key,
                wanted_a=wanted,
                wanted_area_m2=thinnest.cool_area_m2,
            )
        )
    return rows


_LIST = ("/wiring/profile", "/wiring/extras", "/engine/cylinders", "/engine/firing_order", "/engine/layout", "/injectors/count", "/injectors/firing", "/injectors/driver",
         "/injectors/per_driver", "/ignition/kind", "/ignition/timed_by_unit", "/ignition/speed_signal", "/ignition/coil/kind", "/sensors/decisions", "/sensors/trigger/sensor", "/sensors/trigger/wants", "/sensors/trigger/on", "/sensors/trigger/pattern", "/sensors/trigger/windows", "/sensors/trigger/teeth", "/sensors/trigger/missing", "/sensors/pressure/sits", "/sensors/narrowband", "/sensors/meter", "/sensors/composition",
         "/fuel/pump/control", "/fuel/lift", "/wiring/unit", "/wiring/gearbox", "/wiring/own", "/wiring/added", "/wiring/left_out", "/wiring/charging", "/wiring/sits", "/wiring/grounds", "/air/by_wire", "/ignition/igniter", "/ignition/coil/current")  # fmt: skip
_LENGTH = ("/wiring/nodes", "/wiring/branches", "/wiring/fitted")


#: Whatever a wire carries warms its bundle, and so what the others there may carry.
_WARMS = (
    *(f"fuel.pump.current.{state}" for state in STATES), "injectors.current.average", "ignition.current.average", "/fuel/lift/current", "/wiring/fan_current", "/wiring/unit_current",
)  # fmt: skip


def _fuse(name: str, label: str) -> Spec:
    def take(r: WiringResult) -> float | None:
        return next((f.proposed_a for f in r.fuses if f.key == name), None)

    return Spec(
        f"wiring.fuse.{name}",
        "A",
        f"Fuse proposed, {label}",
        (*_LIST, "/wiring/insulation", "/wiring/fitted", "/wiring/branches", *_WARMS),
        "effective load over 0.75, next value of ISO 8820, at most what the wire carries",
        take,
    )


_SOLVED = (*RESTS_ON, *_WARMS, "/fuel/pump/control")
_DEVICES = {"unit": "control unit", "pump": "fuel pump", "coils": "coils", "injectors": "injectors", "battery": "battery"}


def _volts(device: str, state: KeyState) -> Spec:
    """Volts of a device in a state; of the battery, at its posts."""
    name = "posts_v" if device == "battery" else f"{device}_v"

    def take(r: WiringResult) -> float | None:
        found: float | None = getattr(r.states[ORDER.index(state)], name)
        return found

    return Spec(
        f"wiring.{device}.volts.{state}",
        "V",
        f"Volts at the {_DEVICES[device]}, {KEY_STATES[state].word}",
        _SOLVED,
        "nodal solve of the whole harness",
        take,
        quiet=(device, state) != ("unit", "crank"),  # which rules its bench
    )


def _balance(state: KeyState) -> Spec:
    def take(r: WiringResult) -> float | None:
        return r.states[ORDER.index(state)].balance_a

    return Spec(
        f"wiring.balance.{state}",
        "A",
        f"Alternator less load, {KEY_STATES[state].word}",
        _SOLVED,
        "what the alternator gives, less all that is drawn",
        take,
        quiet=True,
    )


FIGURES = (
    *(_volts(device, state) for device in _DEVICES for state in ORDER),
    *(_balance(state) for state in ORDER),
    Spec("wiring.block.rise.crank", "mV", "Block above battery minus while cranking", _SOLVED, "starter's current through the strap", lambda r: r.states[ORDER.index("crank")].rise_v),
    Spec("wiring.memory.days", "d", "Days until half flat with everything off", ("/wiring/battery",), "half of what it holds over what is drawn asleep", lambda r: None if r.memory_days is None else r.memory_days * 86400.0),
    Spec("wiring.bundle.firewall", "mm", "Largest bundle at the firewall, wrapped", (*_LIST, *_LENGTH, *_WARMS, "/wiring/insulation"), "1.2 times the root of the sum of squares, and its wrapping", lambda r: r.firewall_m or None),
    Spec("wiring.total_length", "m", "Wire in the harness, all sizes", (*_LIST, *_LENGTH), "branches on the way, service loop, 3 % for twist", lambda r: r.total_length_m),
    Spec("wiring.count", "1", "Wires in the harness", _LIST, "the netlist", lambda r: len(r.wires)),
    Spec("wiring.feed.crank", "V", "Ignition feed while cranking", ("/wiring/feed/crank",), "measured", lambda r: r.crank_v),
    Spec("wiring.pulses_per_km", "1", "Speed pulses that come in a kilometre", ("/wiring/gearbox",), "pulses times axle over the tyre's way", lambda r: r.pulses_per_km),
    Spec("wiring.pins_short", "1", "Signals left without a pin", _LIST, "matching of signals to pins", lambda r: len(r.pins_short)),
    _fuse("unit", "control unit"),
    _fuse("injectors", "injectors"),
    _fuse("coils", "coils"),
    _fuse("pump", "fuel pump"),
    _fuse("lift", "lift pump"),
    _fuse("fan", "fan"),
)  # fmt: skip
