"""What each wire is made of: its way, its length, its size as fitted or as proposed by drop and by heat, its resistance; and the load on each fuse."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from ..given import Build
from ..given.wiring import Fitted, InsulationClass
from ..physics.electric import resistance_per_metre, wire_current_limit
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
LOADED = 1.0  # A, a wire that warms its bundle
#: A circuit's joints are given at most this share of its drop: past it thicker copper mends nothing.
JOINTS_MOST = 0.5
_CRIMPS = 2  # one at each end


@dataclass(frozen=True, slots=True)
class Made:
    """A conductor as it is made. `most` is the most that its loads draw with nothing lost on the way."""

    wire: Conductor
    route: tuple[str, ...]
    length_m: float
    ambient_k: float
    temperature_k: float
    most: Draw
    bears_k: float
    area_m2: float
    proposed_area_m2: float
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
def _limit(area: float, outside: float, ambient: float, bears: float, bundle: int) -> float:
    """Current limit of a wire: asked again and again for the same few sizes and places."""
    return wire_current_limit(area, outside, ambient, bears, bundle)


@lru_cache(maxsize=8192)
def _proposed(
    peak: float, must_carry: float, length: float, allowed_v: float, at: float, ambient: float, bears: float, bundle: int
) -> float:
    """The smallest standard area [m2] that keeps the drop and carries what it must. Most wires are the same after an edit."""
    for wire in standard_wires():
        drop = peak * length * resistance_per_metre(wire.area, at)
        if drop <= allowed_v and _limit(wire.area, wire.outside, ambient, bears, bundle) >= must_carry:
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


def make(build: Build, netlist: Netlist, most: Mapping[str, Draw]) -> dict[str, Made]:
    """Every wire, routed and sized: by heat for the effective, by drop for the peak current. `most` holds the most that each load draws."""
    layout = Layout(build.wiring)
    fitted = build.wiring.fitted
    wires = netlist.conductors
    draws = {w.key: sum((most[load] for load in w.carries), Draw.steady(w.amps) if w.amps else NOTHING) for w in wires}
    amps = {key: draw.effective for key, draw in draws.items()}
    peaks = {key: draw.peak for key, draw in draws.items()}
    routes = {w.key: layout.route(w.start_place, w.end_place) for w in wires}
    warm = Counter(branch for w in wires if amps[w.key] >= LOADED for branch in routes[w.key])
    loads = _loads([(w.fuse, amps[w.key]) for w in wires])
    joints = {w.key: joints_ohm(fitted.get(w.key)) for w in wires}
    by_link = {link.key: link.ohms for link in netlist.links}
    made: dict[str, Made] = {}
    for circuit in netlist.circuits:
        lengths = {w.key: _length(layout, routes[w.key], fitted.get(w.key)) for w in circuit.wires}
        whole = sum(lengths.values()) or 1.0
        in_copper = _copper_volts(circuit, peaks, joints, by_link)
        for w in circuit.wires:
            as_fitted, route, length, current = fitted.get(w.key), routes[w.key], lengths[w.key], amps[w.key]
            ambient = layout.ambient(route)
            at = as_fitted.temperature.si if as_fitted and as_fitted.temperature else ambient
            bears = INSULATION[(as_fitted.insulation if as_fitted else None) or build.wiring.insulation]
            bundle = max((warm[branch] for branch in route), default=1)
            must_carry = max(current, (next_fuse(loads[w.fuse]) or 0.0) if w.fuse else 0.0)
            proposed = _proposed(peaks[w.key], must_carry, length, in_copper * length / whole, at, ambient, bears, bundle)
            area = as_fitted.size.si if as_fitted and as_fitted.size else proposed
            made[w.key] = Made(
                wire=w,
                route=route,
                length_m=length,
                ambient_k=ambient,
                temperature_k=at,
                most=draws[w.key],
                bears_k=bears,
                area_m2=area,
                proposed_area_m2=proposed,
                fitted=bool(as_fitted and as_fitted.size),
                colour=as_fitted.colour if as_fitted and as_fitted.colour else w.colour,
                copper_ohm=length * resistance_per_metre(area, at),
                joints_ohm=joints[w.key],
                limit_a=_limit(area, outside_diameter(area), ambient, bears, bundle),
            )
    return made


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
