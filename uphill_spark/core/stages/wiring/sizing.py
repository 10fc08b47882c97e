"""Routing, wire size by drop and by heat, fuses."""

from __future__ import annotations

import itertools
from collections import Counter
from functools import lru_cache

import networkx

from ...figures import Result
from ...given import Build
from ...physics.electric import resistance_per_metre, wire_current_limit, wire_temperature
from ...reference import fuses as standard_fuses
from ...reference import wires as standard_wires
from ...reference import zones
from .circuits import CircuitPlan, WirePlan

INSULATION_LIMIT = 398.15  # K, cross-linked insulation, 125 C class (ISO 6722-1 class C)
SERVICE_LOOP, TWIST = 0.15, 1.03  # m; lay of the harness
SYSTEM_VOLTS = 13.8
FUSE_LOAD = 0.75
LOADED = 1.0  # A, a wire that warms its bundle
SHORTEST = 0.25  # m, a lead between neighbours at one place


class WireRow(Result):
    """A wire from pin to pin, as it is to be made."""

    key: str
    label: str
    circuit: str
    start: str
    end: str
    start_node: str
    end_node: str
    colour: str
    noise: str
    path: list[str]
    length_m: float
    current_a: float
    area_m2: float
    proposed_area_m2: float
    fitted: bool
    drop_v: float
    limit_a: float
    temperature_k: float
    fuse: str | None


class CircuitRow(Result):
    """A circuit's drop, out and back, against what it may lose."""

    key: str
    label: str
    drop_v: float
    allowed_v: float
    fitted: bool


class FuseRow(Result):
    """A fuse: what it feeds, what is proposed, what is fitted, and what the thinnest wire behind it may carry."""

    key: str
    load_a: float
    proposed_a: float | None
    fitted_a: float | None
    wire_limit_a: float
    thinnest: str


@lru_cache(maxsize=64)
def _routes(branches: tuple[tuple[str, str, str, float], ...]) -> dict[str, dict[str, list[str]]]:
    """Places passed on the shortest way between any two places."""
    graph: networkx.Graph[str] = networkx.Graph()
    for key, start, end, length in branches:
        graph.add_edge(start, end, weight=length, key=key)
    ways = dict(networkx.all_pairs_dijkstra_path(graph, weight="weight"))
    return {a: {b: [graph[x][y]["key"] for x, y in itertools.pairwise(way)] for b, way in to.items()} for a, to in ways.items()}


@lru_cache(maxsize=1024)
def outside_diameter(area_m2: float) -> float:
    """Outside diameter [m] over insulation of the standard size nearest above an area."""
    return next((w.outside for w in standard_wires() if w.area >= area_m2 * 0.97), standard_wires()[-1].outside)


@lru_cache(maxsize=4096)
def _limit(area: float, outside: float, ambient: float, bundle: int) -> float:
    """Current limit of a wire: asked again and again for the same few sizes and places."""
    return wire_current_limit(area, outside, ambient, INSULATION_LIMIT, bundle)


@lru_cache(maxsize=8192)
def _proposed(current: float, must_carry: float, length: float, allowed_v: float, at: float, ambient: float, bundle: int) -> float:
    """The smallest standard area [m2] that keeps the drop and carries what it must. Most wires are the same after an edit."""
    for wire in standard_wires():
        drop = current * length * resistance_per_metre(wire.area, at)
        if drop <= allowed_v and _limit(wire.area, wire.outside, ambient, bundle) >= must_carry:
            return wire.area
    return standard_wires()[-1].area


def size(build: Build, plans: list[CircuitPlan]) -> tuple[list[WireRow], list[CircuitRow], list[FuseRow]]:
    """Every wire routed and sized, every circuit's drop, every fuse."""
    routes = _routes(tuple((k, b.start, b.end, b.length.si) for k, b in build.wiring.branches.items()))
    all_wires = [w for plan in plans for w in plan.wires]
    paths = {w.key: routes[w.start_node][w.end_node] for w in all_wires}
    loaded = Counter(key for w in all_wires if w.current >= LOADED for key in paths[w.key])
    loads = _fuse_loads(plans)
    rows: list[WireRow] = []
    circuit_rows: list[CircuitRow] = []
    for plan in plans:
        lengths = [w.fixed_length if w.fixed_length is not None else _length(build, paths[w.key]) for w in plan.wires]
        total = sum(lengths) or 1.0
        made = [
            _row(
                build,
                w,
                paths[w.key],
                length,
                plan.allowed * SYSTEM_VOLTS * length / total,
                max((loaded[k] for k in paths[w.key]), default=1),
                loads,
            )
            for w, length in zip(plan.wires, lengths, strict=True)
        ]
        rows += made
        circuit_rows.append(
            CircuitRow(
                key=plan.key,
                label=plan.label,
                drop_v=sum(r.drop_v for r in made),
                allowed_v=plan.allowed * SYSTEM_VOLTS,
                fitted=any(r.fitted for r in made),
            )
        )
    return rows, circuit_rows, _fuse_rows(build, loads, rows)


def _length(build: Build, path: list[str]) -> float:
    """Length [m] of a wire: its branches, twist, a service loop; neighbours at one place still need a lead."""
    branches = build.wiring.branches
    run = sum([branches[k].length.si for k in path])
    return max(run * TWIST + SERVICE_LOOP, SHORTEST)


def _fuse_loads(plans: list[CircuitPlan]) -> dict[str, float]:
    """Load [A] on each fuse: what the wire nearest to it carries, which is the most that any wire behind it carries."""
    loads: dict[str, float] = {}
    for plan in plans:
        for wire in plan.wires:
            if wire.fuse:
                loads[wire.fuse] = max(loads.get(wire.fuse, 0.0), wire.current)
    return loads


def _next_fuse(load: float) -> float | None:
    return next((f for f in standard_fuses() if f * FUSE_LOAD >= load - 1e-9), None)


def _row(build: Build, plan: WirePlan, path: list[str], length: float, allowed_v: float, bundle: int, loads: dict[str, float]) -> WireRow:
    ambient = max((zones()[build.wiring.branches[k].zone] for k in path), default=zones()["bay"])
    must_carry = plan.current
    if plan.fuse:
        must_carry = max(must_carry, _next_fuse(loads[plan.fuse]) or 0.0)
    # The pump's circuit is worked out at the wire temperature stated at the Fuel station, so that both stations give one figure.
    at = build.fuel.wire.temperature.si if plan.circuit == "pump" else ambient
    proposed = _proposed(plan.current, must_carry, length, allowed_v, at, ambient, bundle)
    override = build.wiring.overrides.get(plan.key)
    chosen = override.size.si if override and override.size else plan.fixed_area
    area = chosen if chosen is not None else proposed
    outside = outside_diameter(area)
    return WireRow(
        key=plan.key,
        label=plan.label,
        circuit=plan.circuit,
        start=plan.start,
        end=plan.end,
        start_node=plan.start_node,
        end_node=plan.end_node,
        colour=override.colour if override and override.colour else plan.colour,
        noise=plan.noise,
        path=path,
        length_m=length,
        current_a=plan.current,
        area_m2=area,
        proposed_area_m2=proposed,
        fitted=chosen is not None,
        drop_v=plan.current * length * resistance_per_metre(area, at),
        limit_a=_limit(area, outside, ambient, bundle),
        temperature_k=min(wire_temperature(plan.current, area, outside, ambient), 2000.0),
        fuse=plan.fuse,
    )


def _fuse_rows(build: Build, loads: dict[str, float], wires: list[WireRow]) -> list[FuseRow]:
    rows = []
    for key, load in loads.items():
        behind = [w for w in wires if w.fuse == key]
        thinnest = min(behind, key=lambda w: w.limit_a)
        proposed = _next_fuse(load)
        rows.append(
            FuseRow(
                key=key,
                load_a=load,
                proposed_a=proposed,
                fitted_a=build.wiring.fuses.get(key, proposed),
                wire_limit_a=thinnest.limit_a,
                thinnest=thinnest.key,
            )
        )
    return rows
