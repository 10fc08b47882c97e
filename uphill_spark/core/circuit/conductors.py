"""What each wire is made of: its way, its length, its size as fitted or as proposed by drop and by heat, its resistance; and the load on each fuse."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from ..given import Build
from ..given.wiring import Fitted, InsulationClass
from ..physics.electric import bundle_diameter, bundle_rise, resistance_per_metre, wire_current_limit, wire_temperature
from ..physics.network import LEAST_OHMS
from ..reference import contacts
from ..reference import fuses as standard_fuses
from ..reference import wires as standard_wires
from .layout import Layout
from .netlist import Circuit, Conductor, Netlist
from .pulsed import NOTHING, Draw
from .states import SYSTEM_VOLTS

#: What insulation bears [K] (ISO 6722-1 classes A, B and C).
INSULATION: dict[InsulationClass, float] = {"pvc_85": 358.15, "pvc_105": 378.15, "cross_linked_125": 398.15}
FUSE_LOAD = 0.75  # of a fuse, what it may carry for good (ISO 8820-3)
#: What a wire is proposed for, whatever runs beside it: an engine harness with its fan and pump at work is warmed by about this much [K]. Were it the real
#: heat, every edit of any current would resize every wire. What a wire may carry goes by the real heat.
BUNDLE_WARMS = 10.0
#: Or, of a wire that bears little more than its zone, this share of what is left.
BUNDLE_SHARE = 0.5
#: A circuit's joints are given at most this share of its drop: past it thicker copper mends nothing.
JOINTS_MOST = 0.68
_CRIMPS = 2  # one at each end


@dataclass(frozen=True, slots=True)
class Made:
    """A conductor as it is made. `most` is the most that its loads draw with nothing lost on the way; `ambient_k` is the air of the hottest zone that it
    passes, `beside_k` the hottest that the wires beside it make of the air on its way. `limit_a` is what it carries in that, `cool_area_m2` the size that would carry its fuse there."""

    wire: Conductor
    route: tuple[str, ...]
    length_m: float
    ambient_k: float
    beside_k: float
    temperature_k: float
    most: Draw
    bears_k: float
    area_m2: float
    proposed_area_m2: float
    cool_area_m2: float
    fitted: bool
    colour: str
    copper_ohm: float
    joints_ohm: float
    limit_a: float

    @property
    def ohms(self) -> float:
        """Resistance [ohm], copper and joints."""
        return max(self.copper_ohm + self.joints_ohm, LEAST_OHMS)


@lru_cache(maxsize=1024)
def outside_diameter(area_m2: float) -> float:
    """Outside diameter [m] over insulation of the standard size nearest above an area."""
    return next((w.outside for w in standard_wires() if w.area >= area_m2 * 0.97), standard_wires()[-1].outside)


@lru_cache(maxsize=4096)
def _limit(area: float, outside: float, ambient: float, bears: float) -> float:
    """Current limit of a wire: asked again and again for the same few sizes and places."""
    return wire_current_limit(area, outside, ambient, bears)


@lru_cache(maxsize=8192)
def _proposed(peak: float, must_carry: float, length: float, allowed_v: float, at: float, ambient: float, bears: float) -> float:
    """The smallest standard area [m2] that keeps the drop and carries what it must. Most wires are the same after an edit."""
    for wire in standard_wires():
        drop = peak * length * resistance_per_metre(wire.area, at)
        if drop <= allowed_v and _limit(wire.area, wire.outside, ambient, bears) >= must_carry:
            return wire.area
    return standard_wires()[-1].area


def next_fuse(load: float) -> float | None:
    """The smallest standard fuse [A] that a load [A] fills to three quarters at most; None past the largest."""
    return next((f for f in standard_fuses() if f * FUSE_LOAD >= load - 1e-9), None)


def fuse_loads(made: Mapping[str, Made]) -> dict[str, float]:
    """Load [A] on each fuse, effective: what the wire nearest to it carries, which is the most that any wire behind it carries."""
    return _loads([(m.wire.fuse, m.most.effective) for m in made.values()])


def _loads(rows: Sequence[tuple[str | None, float]]) -> dict[str, float]:
    loads: dict[str, float] = {}
    for fuse, amps in rows:
        if fuse:
            loads[fuse] = max(loads.get(fuse, 0.0), amps)
    return loads


@dataclass(slots=True)
class _Drawn:
    """A wire while it is sized: what is settled of it before its neighbours are known, and its area once it is."""

    wire: Conductor
    fitted: Fitted | None
    route: tuple[str, ...]
    length: float
    ambient: float
    at: float
    bears: float
    must_carry: float
    allowed_v: float
    usual_k: float
    area: float = 0.0

    def size(self, peak: float, around_k: float) -> float:
        """The area [m2] that it wants in air of some temperature."""
        return _proposed(peak, self.must_carry, self.length, self.allowed_v, self.at, around_k, self.bears)


def _usually(ambient: float, bears: float, route: tuple[str, ...]) -> float:
    """The air [K] about a wire in a bundle of usual warmth; that of its place where it runs in none."""
    return ambient + min(BUNDLE_WARMS, BUNDLE_SHARE * max(bears - ambient, 0.0)) if route else ambient


def make(build: Build, netlist: Netlist, most: Mapping[str, Draw]) -> dict[str, Made]:
    """Every wire, routed and sized: by heat for the effective, by drop for the peak current. `most` holds the most that each load draws.

    Wires are proposed for a bundle of usual warmth; what each may carry goes by the heat that the others, so sized or as fitted, make.
    """
    layout = Layout(build.wiring)
    fitted = build.wiring.fitted
    wires = netlist.conductors
    draws = {w.key: sum((most[load] for load in w.carries), Draw.steady(w.amps) if w.amps else NOTHING) for w in wires}
    peaks = {key: draw.peak for key, draw in draws.items()}
    loads = _loads([(w.fuse, draws[w.key].effective) for w in wires])
    landed = {f"{_GROUND_OF.get(key, key)}_ground": g.ohms.si for key, g in build.wiring.grounds.items() if g.ohms is not None}
    joints = {w.key: joints_ohm(fitted.get(w.key)) + landed.get(w.key, 0.0) for w in wires}
    by_link = {link.key: link.ohms for link in netlist.links}
    drawn: dict[str, _Drawn] = {}
    for circuit in netlist.circuits:
        routes = {w.key: layout.route(w.start_place, w.end_place) for w in circuit.wires}
        lengths = {key: _length(layout, route, fitted.get(key)) for key, route in routes.items()}
        whole = sum(lengths.values()) or 1.0
        in_copper = _copper_volts(circuit, peaks, joints, by_link)
        for w in circuit.wires:
            own, ambient = fitted.get(w.key), layout.ambient(routes[w.key])
            bears = INSULATION[(own.insulation if own else None) or build.wiring.insulation]
            drawn[w.key] = _Drawn(
                wire=w,
                fitted=own,
                route=routes[w.key],
                length=lengths[w.key],
                ambient=ambient,
                at=own.temperature.si if own and own.temperature else ambient,
                bears=bears,
                must_carry=max(draws[w.key].effective, (next_fuse(loads[w.fuse]) or 0.0) if w.fuse else 0.0),
                allowed_v=in_copper * lengths[w.key] / whole,
                usual_k=_usually(ambient, bears, routes[w.key]),
            )
    for key, d in drawn.items():
        d.area = d.fitted.size.si if d.fitted and d.fitted.size else d.size(peaks[key], d.usual_k)
    return {
        key: _made(d, draws[key], beside, joints[key])
        for (key, d), beside in zip(drawn.items(), _beside(layout, drawn, draws), strict=True)
    }


def _made(d: _Drawn, draw: Draw, beside_k: float, joints: float) -> Made:
    own, area = d.fitted, d.area
    copper = d.length * resistance_per_metre(area, d.at)
    if own and own.measured is not None:  # of a wire that is there already: the meter knows better
        copper, joints = own.measured.si, 0.0
    proposed = d.size(draw.peak, d.usual_k) if d.fitted and d.fitted.size else area
    return Made(
        wire=d.wire, route=d.route, length_m=d.length, ambient_k=d.ambient, beside_k=beside_k, temperature_k=d.at, most=draw, bears_k=d.bears, area_m2=area,
        proposed_area_m2=proposed, cool_area_m2=d.size(draw.peak, beside_k), fitted=bool(own and own.size), colour=own.colour if own and own.colour else d.wire.colour,
        copper_ohm=copper, joints_ohm=joints, limit_a=_limit(area, outside_diameter(area), beside_k, d.bears),
    )  # fmt: skip


def _beside(layout: Layout, drawn: Mapping[str, _Drawn], draws: Mapping[str, Draw]) -> list[float]:
    """For each wire the hottest [K] that the heat of the wires beside it makes of the air along its way, by what they really carry."""
    heat: defaultdict[str, float] = defaultdict(float)
    sizes: defaultdict[str, list[tuple[int, float]]] = defaultdict(list)
    own = {}
    for key, d in drawn.items():
        amps, outside = draws[key].effective, outside_diameter(d.area)
        own[key] = amps**2 * resistance_per_metre(d.area, min(wire_temperature(amps, d.area, outside, d.ambient), d.bears)) if amps else 0.0
        for branch in d.route:
            heat[branch] += own[key]
            sizes[branch].append((1, outside))
    legs = {branch: (layout.zone(branch), bundle_diameter(wires)) for branch, wires in sizes.items()}
    return [
        max((zone + bundle_rise(max(heat[b] - own[key], 0.0), across) for b in d.route for zone, across in (legs[b],)), default=d.ambient)
        for key, d in drawn.items()
    ]


#: Grounds whose wire is called otherwise.
_GROUND_OF = {"coils": "coil"}


def joints_ohm(fitted: Fitted | None) -> float:
    """Resistance [ohm] of a wire's contacts as counted, or of a crimp at each end."""
    if fitted is None or fitted.joints is None:
        return _CRIMPS * contacts()["crimp"]
    return sum(contacts()[joint.kind] * joint.count for joint in fitted.joints)


def links_of(circuit: Circuit) -> list[str]:
    """Keys of the fuse and the relay contact that lie in a circuit."""
    fuses = [f"fuse.{w.fuse}" for w in circuit.wires if w.fuse and w.nets[0] == f"fuse.{w.fuse}"]
    relays = [f"{w.end.removesuffix('.30')}.contact" for w in circuit.wires if w.end.endswith(".30")]
    return fuses + relays


def _copper_volts(circuit: Circuit, amps: Mapping[str, float], joints: Mapping[str, float], links: Mapping[str, float]) -> float:
    """What a circuit may lose in its copper [V]: its allowance less its joints, fuse and relay, which no thicker wire mends."""
    allowed = circuit.allowed * SYSTEM_VOLTS
    most = max(amps[w.key] for w in circuit.wires)
    lost = sum(amps[w.key] * joints[w.key] for w in circuit.wires) + most * sum(links.get(key, 0.0) for key in links_of(circuit))
    return max(allowed - lost, allowed * (1 - JOINTS_MOST))


def _length(layout: Layout, route: tuple[str, ...], fitted: Fitted | None) -> float:
    return fitted.length.si if fitted and fitted.length else layout.length(route)
