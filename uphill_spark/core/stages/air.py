"""Air: what the throttle body costs at full power, how the pedal feels, where the pedal takes the plate, which hose belongs on which port."""

from __future__ import annotations

import math

import numpy as np
from scipy.optimize import linear_sum_assignment

from ..figures import Result, Spec
from ..given import Build
from ..given.air import Consumer, Linkage, Port, Throttle
from ..physics import air
from .engine import EngineResult

AMBIENT_TEMPERATURE = 293.15  # K
#: Discharge coefficient of an open throttle bore (Heywood, ch. 7.6).
DISCHARGE = 0.85
RATED_DENSITY = air.density(air.P_SEA_LEVEL, AMBIENT_TEMPERATURE)  # kg/m3, at which throttle bodies are rated
FEEL_SPEED = 2500 / 60  # rev/s at which the pedal's feel is drawn
FEEL_FILLING = 0.85
PEDAL_ENOUGH, PEDAL_MOST = 0.95, 1.06  # of full opening, at full pedal: enough, and not against the stop
LEAK = 2e-6  # m2, past a shut plate
CHOKED = 0.5283  # pressure ratio below which flow no longer follows it
#: What each consumer may be fed by, in the order of preference, and the bore [m] that it wants where none is told.
WANTS: dict[str, tuple[tuple[str, ...], float]] = {
    "brake_booster": (("full_manifold", "vacuum_pump"), 10e-3),
    "pressure_sensor": (("full_manifold",), 4e-3),
    "regulator_reference": (("full_manifold",), 4e-3),
    "crankcase_valve": (("full_manifold",), 9e-3),
    "crankcase_breather": (("filtered_air",), 15e-3),
    "distributor_advance": (("ported", "full_manifold"), 4e-3),
    "gearbox_modulator": (("full_manifold",), 5e-3),
    "heater_controls": (("full_manifold", "vacuum_pump"), 5e-3),
    "canister_purge": (("full_manifold", "ported"), 6e-3),
}
#: Consumers that want a port which serves all cylinders alike.
CENTRAL = ("brake_booster", "pressure_sensor", "regulator_reference", "crankcase_valve")
SMALL = 0.8  # of the bore that it wants, below which a port is too small
NEVER = 1e6  # cost of a pairing that must not be
#: What it costs to leave a consumer without a port: brakes first, then what the engine is run by.
LEFT_OFF = {"brake_booster": 1e4, "pressure_sensor": 5e3, "regulator_reference": 4e3, "crankcase_valve": 3e3}
LEFT_OFF_ELSE = 1e3


class FeelPoint(Result):
    """Pedal 0..1, plate opening 0..1, air as a share of full throttle at the speed drawn, and whether the throttle is choked."""

    pedal: float
    opening: float
    flow: float
    choked: bool


class Hose(Result):
    """One consumer: where its hose goes, where it should go, and what is wrong with where it goes."""

    kind: str
    now: str | None
    proposed: str | None
    wrong: str | None


class AirResult(Result):
    """Throttle, pedal, ports and hoses as they breathe."""

    need_m3_s: float
    need_for_target_m3_s: float
    drop_full_pa: float | None
    drop_worked_out: bool
    power_lost: float | None
    area_m2: float | None
    gas_speed_m_s: float | None
    half_pedal: float | None
    feel: list[FeelPoint]
    plate_deg: float | None
    pedal_full: float | None
    pedal_enough: float
    spare_travel_m: float | None
    hoses: list[Hose]
    open_ports: list[str]
    spare_ports: list[str]
    starved: list[str]
    unsteady: list[str]
    reservoir_applications: int | None


#: What this stage reads of the build, and of the stages that it takes.
READS = (
    "air",
    "engine.cylinders",
    "engine.displacement",
    "engine.layout",
    "engine.power_speed",
    "ignition.distributor",
    "ignition.timed_by_unit",
)
LOOKS = {"engine": ("air_mass_flow_kg_s", "ambient_pressure_pa", "full_air_here_kg_s")}


def work_out(build: Build, engine: EngineResult) -> AirResult:
    """Throttle, linkage and vacuum; what is not described stays unknown."""
    a, link = build.air, build.air.linkage
    density = air.density(engine.ambient_pressure_pa, AMBIENT_TEMPERATURE)
    need = engine.full_air_here_kg_s / density
    t = a.throttle
    hoses, starved = _hoses(build)
    proposed = {h.proposed for h in hoses}
    used = {c.port for c in a.consumers}
    plate, pull = (_plate_deg(link), _pull(link)) if link else (None, None)
    area = _area(t) if t else None
    drop = _drop(t, need, density) if t else None
    feel = _feel(build, engine, t, area) if t and area else []
    return AirResult(
        need_m3_s=need,
        need_for_target_m3_s=engine.air_mass_flow_kg_s / density,
        drop_full_pa=drop,
        drop_worked_out=bool(t and t.flow is None),
        power_lost=drop / engine.ambient_pressure_pa if drop is not None else None,
        area_m2=area,
        gas_speed_m_s=2 * build.engine.displacement.si * build.engine.power_speed.si / area
        if area and build.engine.layout == "individual_throttles"
        else None,
        half_pedal=_half(feel),
        feel=feel,
        plate_deg=plate,
        pedal_enough=PEDAL_ENOUGH,
        pedal_full=plate / link.needed.si if link and plate is not None else None,
        spare_travel_m=pull - link.lever.si * math.radians(link.needed.si) if link and link.lever and pull is not None else None,
        hoses=hoses,
        open_ports=[name for name, p in a.ports.items() if not p.capped and name not in used],
        spare_ports=[name for name, p in a.ports.items() if not p.capped and name not in proposed],
        starved=starved,
        unsteady=_unsteady(build),
        reservoir_applications=_applications(build),
    )


def _unsteady(build: Build) -> list[str]:
    """Consumers of vacuum that one throttle per cylinder does not feed steadily: no balance manifold, or brakes without a reservoir or a pump."""
    a = build.air
    if build.engine.layout != "individual_throttles" and not (a.manifolds is not None and a.manifolds > 1):
        return []
    on_manifold: list[str] = [c.kind for c in a.consumers if c.port and a.ports[c.port].source == "full_manifold"]
    if a.balance == "none":
        return on_manifold
    return ["brake_booster"] if "brake_booster" in on_manifold and a.reservoir is None else []


def _applications(build: Build) -> int | None:
    """Full brake applications that a reservoir gives with the engine off, before its vacuum has halved.

    Each lets air of one booster filling into reservoir and booster together, at one temperature: vacuum shrinks by V / (V + v).
    """
    a = build.air
    if a.reservoir is None:
        return None
    return int(math.log(0.5) / math.log(a.reservoir.si / (a.reservoir.si + a.booster.si)) + 1e-9)


def _area(t: Throttle) -> float | None:
    """Open area [m2] of all bores, shafts taken off; None before they were measured."""
    if t.bores is None or t.bore is None:
        return None
    return t.bores * (math.pi * t.bore.si**2 / 4 - t.shaft.si * t.bore.si)


def _drop(t: Throttle, need: float, density: float) -> float | None:
    """Pressure [Pa] lost at full power: the rating scaled with the square of flow, or an orifice of the open area."""
    if t.flow is not None:
        return t.rated_drop.si * (need / t.flow.si) ** 2 * density / RATED_DENSITY
    area = _area(t)
    return density / 2 * (need / (DISCHARGE * area)) ** 2 if area else None


def _feel(build: Build, engine: EngineResult, t: Throttle, whole: float, n: int = 21) -> list[FeelPoint]:
    """Pedal against air at one speed: throttle as a compressible orifice, engine as a pump that fills from the manifold.

    What the engine pumps at a manifold pressure is known, so the area that lets it in is, and that is read backwards for each opening.
    """
    ambient = engine.ambient_pressure_pa
    ratio = np.linspace(0.02, 0.9995, 120)
    pumped = FEEL_FILLING * ratio * ambient / (air.R_AIR * AMBIENT_TEMPERATURE) * build.engine.displacement.si * FEEL_SPEED / 2
    per_area = air.orifice_flow(np.ones_like(ratio), ambient, AMBIENT_TEMPERATURE, ratio, DISCHARGE)
    wanted = pumped / per_area
    pedal = np.linspace(0.0, 1.0, n)
    opening = np.minimum(pedal * _plate_share(build.air.linkage), 1.0)
    bore, bores = (t.bore.si, t.bores) if t.bore and t.bores else (0.0, 0)
    area = np.minimum(air.butterfly_area(bore, opening, t.closed.si) * bores, whole) + LEAK
    found, full = np.interp(area, wanted, ratio), float(np.interp(whole + LEAK, wanted, ratio))
    return [
        FeelPoint(pedal=p, opening=o, flow=r / full, choked=r < CHOKED)
        for p, o, r in zip(pedal.tolist(), opening.tolist(), found.tolist(), strict=True)
    ]


def _half(feel: list[FeelPoint]) -> float | None:
    """Pedal [-] at which half of the air flows."""
    return float(np.interp(0.5, [p.flow for p in feel], [p.pedal for p in feel])) if feel and feel[-1].flow > 0.5 else None


def _pull(linkage: Linkage) -> float | None:
    """Cable pulled [m] at full pedal, slack taken off where it was measured; None before travel and ratio were."""
    if linkage.pedal_travel is None or linkage.pedal_ratio is None:
        return None
    return max(linkage.pedal_travel.si / linkage.pedal_ratio.si - (linkage.slack.si if linkage.slack else 0.0), 0.0)


def _plate_deg(linkage: Linkage) -> float | None:
    """Turn of the plate [deg] at full pedal, before its stop; None before it was measured."""
    pull = _pull(linkage)
    return math.degrees(pull / linkage.lever.si) if pull is not None and linkage.lever is not None else None


def _plate_share(linkage: Linkage | None) -> float:
    """Share of the plate's travel that full pedal gives; 1 where the linkage is not known."""
    plate = _plate_deg(linkage) if linkage else None
    return plate / linkage.needed.si if linkage and plate is not None else 1.0


def _cost(consumer: Consumer, port: Port) -> float:
    """How ill a port suits a consumer: kind of source first, then bore, then whether it serves all cylinders."""
    sources, wanted = WANTS[consumer.kind]
    if port.source not in sources or port.bore is None:
        return NEVER
    if port.capped and consumer.port is not None:
        return NEVER  # a cap comes off for what has lost its hose, not to move one that has a place
    bore = consumer.bore.si if consumer.bore else wanted
    if consumer.kind == "brake_booster" and port.bore.si < SMALL * bore:
        return NEVER
    lonely = 2.0 if consumer.kind in CENTRAL and not port.central else 0.0
    return sources.index(port.source) * 5.0 + (0.5 if port.capped else 0.0) + abs(math.log(port.bore.si / bore)) * 3.0 + lonely


def _hoses(build: Build) -> tuple[list[Hose], list[str]]:
    """The best port for every consumer, all at once (assignment by the Hungarian method), and those for which none is left."""
    ports = build.air.ports
    consumers = [c for c in build.air.consumers if not _retired(c, build)]
    best: dict[str, str] = {}
    if consumers and ports:
        names = list(ports)
        kept = {c.port: c.kind for c in consumers if c.port is not None and _wrong(c, build) is None}
        served = np.array(
            [[_cost(c, ports[name]) + (NEVER if kept.get(name, c.kind) != c.kind else 0.0) for name in names] for c in consumers]
        )
        none = np.full((len(consumers), len(consumers)), NEVER)
        np.fill_diagonal(none, [LEFT_OFF.get(c.kind, LEFT_OFF_ELSE) for c in consumers])
        for i, j in zip(*linear_sum_assignment(np.hstack([served, none])), strict=True):
            if j < len(names):
                best[consumers[i].kind] = names[j]
    rows = [Hose(kind=c.kind, now=c.port, proposed=best.get(c.kind), wrong=_wrong(c, build)) for c in build.air.consumers]
    return rows, [c.kind for c in consumers if c.kind not in best]


def _retired(c: Consumer, build: Build) -> bool:
    """A distributor's vacuum advance is taken off once the control unit times the spark."""
    return c.kind == "distributor_advance" and build.ignition.timed_by_unit


def _wrong(c: Consumer, build: Build) -> str | None:
    """What is wrong with where a hose goes now."""
    if _retired(c, build):
        return "still on a port, though the control unit times the spark" if c.port else None
    if c.port is None:
        return "left off"
    port = build.air.ports[c.port]
    sources, wanted = WANTS[c.kind]
    noted = build.ignition.distributor.vacuum if build.ignition.distributor else "not_noted"
    if c.kind == "distributor_advance" and noted in ("ported", "full_manifold") and port.source is not None and port.source != noted:
        return f"on {port.source.replace('_', ' ')}, on the carburettor it was on {noted.replace('_', ' ')}"
    if port.source is not None and port.source not in sources:
        return f"on {port.source.replace('_', ' ')}, it wants {' or '.join(s.replace('_', ' ') for s in sources)}"
    sharing = [o.kind for o in build.air.consumers if o.port == c.port and o.kind != c.kind]
    if sharing and c.kind in ("brake_booster", "pressure_sensor"):
        return f"shares a port with that of the {sharing[0].replace('_', ' ')}, it wants one alone"
    bore = c.bore.si if c.bore else wanted
    if c.kind in ("brake_booster", "crankcase_valve", "crankcase_breather") and port.bore is not None and port.bore.si < SMALL * bore:
        return f"on a port of {port.bore}, it wants {bore * 1e3:.0f} mm"
    if c.kind in CENTRAL and build.engine.cylinders > 1 and not port.central and build.engine.layout != "individual_throttles":
        return "on a port of one runner, it wants one that serves all cylinders alike"
    if c.kind == "brake_booster" and c.check_valve is False:
        return "without a check valve of its own"
    return None


_NEED = ("engine.air.full", "engine.ambient_pressure")
_THROTTLE = ("/air/throttle", *_NEED)
_HOSES = (
    "/air/ports",
    "/air/consumers",
    "/ignition/timed_by_unit",
    "/ignition/distributor/vacuum",
    "/engine/layout",
    "/engine/cylinders",
    "/engine/firing_order",
)
FIGURES = (
    Spec("air.need", "m**3/h", "Air drawn at full power, as it is here", _NEED, "filling, displacement and speed", lambda r: r.need_m3_s),
    Spec("air.need.target", "m**3/h", "Air that the power target takes, as it is here", ("engine.air_mass_flow", "engine.ambient_pressure"), "mass flow over density", lambda r: r.need_for_target_m3_s),
    Spec("air.throttle.drop.full", "kPa", "Lost in the throttle body at full power", _THROTTLE, "rated drop times the square of flow", lambda r: r.drop_full_pa),
    Spec("air.throttle.loss.full", "1", "Power that it costs", _THROTTLE, "drop over ambient pressure", lambda r: r.power_lost, share=True),
    Spec("air.throttle.area", "mm**2", "Open area of all bores, shafts taken off", ("/air/throttle",), "geometry", lambda r: r.area_m2),
    Spec("air.throttle.speed", "m/s", "Speed of the air in a bore while its cylinder draws", ("/air/throttle", "/engine/displacement", "/engine/power_speed", "/engine/layout"),
         "swept volume in half a turn, over the area", lambda r: r.gas_speed_m_s),
    Spec("air.pedal.full", "1", "Plate opening at full pedal, share of its travel", ("/air/linkage",), "travel over ratio over lever", lambda r: r.pedal_full, share=True),
    Spec("air.pedal.half", "1", "Pedal at which half the air flows, 2,500 rpm", ("/air/throttle", "/air/linkage", "/engine/displacement", "engine.ambient_pressure"),
         "compressible orifice; Heywood, app. C", lambda r: r.half_pedal, share=True),
    Spec("air.ports.open", "1", "Ports left open", _HOSES, "matching of ports and consumers", lambda r: float(len(r.open_ports)) if r.hoses or r.open_ports else None),
    Spec("air.reservoir.applications", "1", "Brake applications that the reservoir holds, engine off", ("/air/reservoir", "/air/booster"), "vacuum halves; ideal gas at one temperature",
         lambda r: r.reservoir_applications),
)  # fmt: skip
