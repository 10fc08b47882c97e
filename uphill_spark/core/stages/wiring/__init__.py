"""Wiring: the netlist that follows from the earlier stages, routed, sized and fused.

`circuits` says which wires there are, `pins` gives each its pin on the control unit, `sizing` routes, sizes and fuses them.
"""

from __future__ import annotations

from collections import Counter

from ...figures import Result, Spec
from ...given import Build
from ...physics.electric import bundle_diameter
from ..fuel import STATES, FuelResult
from ..ignition import IgnitionResult
from ..injectors import InjectorsResult
from ..sensors import SensorsResult
from .circuits import circuits
from .pins import PinRow, assign
from .sizing import CircuitRow, FuseRow, WireRow, outside_diameter, size


class NodeRow(Result):
    key: str
    name: str
    x_m: float
    y_m: float


class BranchRow(Result):
    key: str
    start: str
    end: str
    zone: str
    length_m: float
    wires: int
    diameter_m: float


class WiringResult(Result):
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


def work_out(build: Build, fuel: FuelResult, injectors: InjectorsResult, sensors: SensorsResult, ignition: IgnitionResult) -> WiringResult:
    """The whole harness, from what the earlier stages need."""
    plans = circuits(build, fuel, injectors, sensors, ignition)
    pins, short = assign(build, plans)
    wires, circuit_rows, fuses = size(build, plans)
    w = build.wiring
    through: Counter[str] = Counter()
    sizes: dict[str, list[tuple[int, float]]] = {}
    for wire in wires:
        for key in wire.path:
            through[key] += 1
            sizes.setdefault(key, []).append((1, outside_diameter(wire.area_m2)))
    return WiringResult(
        profile=w.profile,
        wires=wires,
        circuits=circuit_rows,
        fuses=fuses,
        pins=pins,
        pins_short=short,
        nodes=[NodeRow(key=k, name=n.name, x_m=n.x, y_m=n.y) for k, n in w.nodes.items()],
        branches=[
            BranchRow(
                key=k,
                start=b.start,
                end=b.end,
                zone=b.zone,
                length_m=b.length.si,
                wires=through[k],
                diameter_m=bundle_diameter(sizes[k]) if k in sizes else 0.0,
            )
            for k, b in w.branches.items()
        ],
        total_length_m=sum(wire.length_m for wire in wires),
        off_v=w.feed.off.si if w.feed.off else None,
        accessory_v=w.feed.accessory.si if w.feed.accessory else None,
        run_v=w.feed.run.si if w.feed.run else None,
        crank_v=w.feed.crank.si if w.feed.crank else None,
    )


_LIST = ("/wiring/profile", "/wiring/extras", "/engine/cylinders", "/engine/firing_order", "/engine/layout", "/injectors/count", "/injectors/firing", "/injectors/driver",
         "/injectors/per_driver", "/ignition", "/sensors", "/fuel/pump/control")  # fmt: skip
_LENGTH = ("/wiring/nodes", "/wiring/branches", "/fuel/wire/length")


def _fuse(name: str, label: str, uses: tuple[str, ...]) -> Spec:
    def take(r: WiringResult) -> float | None:
        return next((f.proposed_a for f in r.fuses if f.key == name), None)

    return Spec(f"wiring.fuse.{name}", "A", f"Fuse proposed, {label}", (*_LIST, *uses), "load over 0.75, next value of ISO 8820", take)


FIGURES = (
    Spec("wiring.total_length", "m", "Wire in the harness, all sizes", (*_LIST, *_LENGTH), "branches on the way, service loop, 3 % for twist", lambda r: r.total_length_m),
    Spec("wiring.count", "1", "Wires in the harness", _LIST, "the netlist", lambda r: len(r.wires)),
    Spec("wiring.feed.crank", "V", "Ignition feed while cranking", ("/wiring/feed/crank",), "measured", lambda r: r.crank_v),
    Spec("wiring.pins_short", "1", "Signals left without a pin", _LIST, "matching of signals to pins", lambda r: len(r.pins_short)),
    _fuse("unit", "control unit", ("injectors.current.average",)),
    _fuse("injectors", "injectors", ("injectors.current.average",)),
    _fuse("coils", "coils", ("ignition.current.average",)),
    _fuse("pump", "fuel pump", tuple(f"fuel.pump.current.{state}" for state in STATES)),
    _fuse("fan", "fan", ()),
)  # fmt: skip
