"""Fuel: where pump and system meet in every state of the engine; losses along the path, return pressure, margin and its doubt, vapour at the inlet.

`plumbing` holds the path's hydraulics, `inlet` the pump's suction side, `grade` the path unrolled, `doubt` the margin's band (a stage of its own), `depth` what is
worked out on asking: cases, advice, choices.
"""

from __future__ import annotations

from typing import Literal

import numpy as np
from scipy.optimize import brentq

from ...circuit.electric import RESTS_ON, Electric, Feed
from ...circuit.netlist import PLUS
from ...circuit.states import TIRED_V
from ...figures import Result, Spec
from ...given import Build
from ...given.fuel import CheckValve
from ...physics.pipe import MANY
from ...physics.pump import operating_point, volts_share
from ...reference import lines
from ..engine import EngineResult, fuel_data
from .demand import KEY_STATE, STATES, StateName, demands
from .grade import Grade, grade
from .inlet import Inlet, Suction
from .plumbing import Network, Plumbing, Solved, Wired

SPECIFIC_HEAT = 2100.0  # J/(kg K), petrol
QUARTER = 0.25  # of a tank, the least that fuel warming is judged at
RAIL_WARMS = 2.0  # K that fuel picks up at a hot rail and on the way back, driving; none with the regulator at the tank
#: What a tank sheds driving [W/(m2 K)] over its skin, 6 V^(2/3) (Incropera, ch. 7: air over plates).
SHEDS, SKIN = 20.0, 6.0
HOT_DAY, LAPSE = 308.15, 6.5e-3  # K, air on the hottest day at sea level, and how much cooler it is a metre up (ISO 2533)
#: Temperatures [K] that a rail comes to standing in a hot bay, mild and bad.
SOAK = (353.15, 373.15)


class Point(Result):
    """One solved state. Pressures are gauge, at the part named; `held_across_pa` is what the injector would see from a pump that keeps up."""

    name: StateName
    flow_m3_s: float
    capacity_m3_s: float
    demand_m3_s: float
    pump_pressure_pa: float
    rail_pressure_pa: float
    across_pa: float
    held_across_pa: float
    return_pressure_pa: float
    regulator_open_pa: float
    filter_drop_pa: float
    line_loss_pa: float
    head_pa: float
    current_a: float
    volts: float
    supply_volts: float
    velocity_m_s: float
    return_velocity_m_s: float
    inlet_margin_m: float
    holds: bool


#: Flow [m3/s], pressure that the pump makes there and pressure that the system needs [Pa].
CurvePoint = tuple[float, float, float]


class FuelResult(Result):
    """Pump and system: where they meet in each state, margins, losses, heat."""

    need_m3_s: float
    scheme: Literal["return", "tank_regulator", "dead_head"]
    points: dict[StateName, Point]
    margin_full: float
    margin_no_wire_loss: float
    wire_ohms: float
    wire_loss_share: float
    fit_residual: float
    fit_assumed_slope: bool
    highest_listed_pa: float
    extrapolated: float
    idle_rail_creep_pa: float
    highest_pressure_pa: float
    supply_limit_pa: float | None
    steepest_part: str | None
    curves: dict[StateName, list[CurvePoint]]
    grades: dict[StateName, Grade]
    tired_margin: float
    inlet: Inlet
    warming_k_s: float
    settles_k: float | None
    soak_liquid_k: float
    soak_open_k: float
    keeps_pressure: bool
    lift_margin_m: float | None
    surge_s: float | None
    lift_margin: float | None
    lift_volts: float | None
    gravity_m3_s: float | None
    gravity_expected_m3_s: float | None


#: What this stage reads of the build, and of the stages that it takes.
READS = ("fuel", "injectors.enters", "engine.boost", "engine.blower", "engine.fuel", "engine.season", "engine.altitude")
LOOKS = {"engine": ("ambient_pressure_pa", "fuel_mass_flow_kg_s", "idle_fuel_mass_flow_kg_s", "idle_manifold_pressure_pa")}


def pump_feeds(circuit: Electric) -> dict[StateName, Feed]:
    """What stands behind the pump in each state of the fuel system."""
    return {name: circuit.feed("pump", key) for name, key in KEY_STATE.items()}


def posts(circuit: Electric, name: StateName) -> float:
    """Volts at the battery's posts [V] in a state of the fuel system."""
    return circuit.volts(PLUS, KEY_STATE[name])


def work_out(build: Build, engine: EngineResult, circuit: Electric, *, drawn: bool = True) -> FuelResult:
    """Every state, as it was solved with the harness. Without `drawn` curves and grade lines are left out."""
    f = build.fuel
    density = fuel_data(build.engine).density
    need, fit, feeds = circuit.need_m3_s, circuit.fit, pump_feeds(circuit)
    suction, network = Suction(build, engine.ambient_pressure_pa), circuit.pipes
    points = {name: _point(name, posts(circuit, name), system, solved, suction) for name, (system, solved) in circuit.hydraulics.items()}
    grades: dict[StateName, Grade] = {}
    if drawn:
        for name, (system, solved) in circuit.hydraulics.items():
            grades[name] = grade(f, system, solved, suction, engine.ambient_pressure_pa)
    full, idle = points["full"], points["idle"]
    at_full, at_idle = circuit.hydraulics["full"][0], circuit.hydraulics["idle"][0]
    states = demands(build, engine)
    boost = states["full"][1]
    pumps = {name: Wired(fit, feed.volts, feed.ohms) for name, feed in feeds.items()}
    whole = Plumbing(network, need, need, boost)
    straight = operating_point(fit, posts(circuit, "full"), 0.0, whole.pump_outlet)
    tired_feed = feeds["full"].volts - (posts(circuit, "full") - TIRED_V)
    tired = operating_point(fit, tired_feed, feeds["full"].ohms, Plumbing(Network(build, due=True), need, need, boost).pump_outlet)
    lift = f.lift
    fills, at_lift = None, 0.0
    if lift is not None:
        at_lift = circuit.across("lift", KEY_STATE["full"])
        fills = max(full.flow_m3_s, need) if f.sections.ends == "tank" else need
    return FuelResult(
        need_m3_s=need,
        scheme=f.scheme,
        points=points,
        margin_full=full.capacity_m3_s / need,
        margin_no_wire_loss=straight.flow / need,
        wire_ohms=feeds["full"].ohms,
        wire_loss_share=1 - full.capacity_m3_s / straight.flow if straight.flow > 0 else 0.0,
        fit_residual=fit.residual,
        fit_assumed_slope=fit.assumed_voltage_slope,
        highest_listed_pa=fit.highest_pressure,
        extrapolated=full.pump_pressure_pa / fit.highest_pressure,
        idle_rail_creep_pa=max(float(at_idle.regulated(idle.flow_m3_s) - at_idle.set_pa), 0.0),
        highest_pressure_pa=max(p.pump_pressure_pa for p in points.values()),
        supply_limit_pa=_weakest(build),
        steepest_part=at_full.steepest(full.flow_m3_s),
        curves=_curves(network, states, need, pumps) if drawn else {},
        grades=grades,
        tired_margin=tired.flow / need,
        inlet=suction.at_inlet(max(p.flow_m3_s for p in points.values())),
        warming_k_s=_heat(build, idle, density) / (density * f.tank.volume.si * QUARTER * SPECIFIC_HEAT),
        settles_k=HOT_DAY
        - LAPSE * build.engine.altitude.si
        + _heat(build, points["cruise"], density) / (SHEDS * SKIN * f.tank.volume.si ** (2 / 3))
        if f.scheme != "dead_head"
        else None,
        soak_liquid_k=_boils(suction, engine.ambient_pressure_pa + f.regulator.set_pressure.si),
        soak_open_k=_boils(suction, engine.ambient_pressure_pa),
        keeps_pressure=any(isinstance(f.parts[n], CheckValve) for n in f.sections.forward),
        lift_margin_m=_lift_margin(build, engine, fills),
        surge_s=lift.usable.si / need if lift is not None else None,
        lift_margin=lift.flow.si * volts_share(at_lift, lift.listed_at.si) / fills if lift is not None and fills else None,
        lift_volts=at_lift if lift is not None else None,
        gravity_m3_s=f.measured.caught.si / f.measured.caught_in.si if f.measured and f.measured.caught else None,
        gravity_expected_m3_s=suction.by_itself() if suction.known and f.pump.place == "external" else None,
    )


def _point(name: StateName, volts: float, system: Plumbing, solved: Solved, suction: Suction) -> Point:
    found, demand, mouth = solved.point, system.demand, system.mouth_pa
    return Point(
        name=name,
        flow_m3_s=found.flow,
        capacity_m3_s=solved.capacity,
        demand_m3_s=demand,
        pump_pressure_pa=found.pressure,
        rail_pressure_pa=solved.rail,
        across_pa=solved.rail - mouth,
        held_across_pa=system.rail(max(found.flow, demand)) - mouth,
        return_pressure_pa=system.return_pressure(found.flow),
        regulator_open_pa=system.regulator_open(found.flow),
        filter_drop_pa=system.in_filters(found.flow),
        line_loss_pa=system.in_lines(found.flow),
        head_pa=system.climb(),
        current_a=found.current,
        volts=found.volts,
        supply_volts=volts,
        velocity_m_s=system.fastest_forth(found.flow),
        return_velocity_m_s=system.fastest_back(found.flow),
        inlet_margin_m=suction.margin(found.flow),
        holds=solved.capacity >= demand,
    )


def _weakest(build: Build) -> float | None:
    """The lowest working pressure [Pa] of what sees the pump's pressure; None where nothing there has a limit."""
    runs = build.fuel.runs(build.fuel.sections.under_pressure).values()
    return min((p for run in runs if (p := lines()[run.material].working_pressure) is not None), default=None)


def _heat(build: Build, at: Point, density: float) -> float:
    """What warms the tank [W] where what is pumped comes back: the pump's power, and what fuel picks up at the rail."""
    if build.fuel.scheme == "dead_head":
        return 0.0
    back = max(at.flow_m3_s - at.demand_m3_s, 0.0) * density if build.fuel.scheme == "return" else 0.0
    return at.volts * at.current_a + back * SPECIFIC_HEAT * RAIL_WARMS


def _boils(suction: Suction, pressure_pa: float) -> float:
    """Temperature [K] at which the fuel boils under a pressure, 0 to 140 C."""
    low, high = 273.15, 413.15
    if suction.vapour(high) <= pressure_pa:
        return high
    return float(brentq(lambda kelvin: suction.vapour(kelvin) - pressure_pa, low, high, xtol=0.01))


def _lift_margin(build: Build, engine: EngineResult, flow: float | None) -> float | None:
    """Inlet of the lift pump over vapour pressure in metres of fuel; None without one, or where its suction is not described."""
    if build.fuel.lift is None or flow is None:
        return None
    suction = Suction(build, engine.ambient_pressure_pa, of_lift=True)
    return suction.margin(flow) if suction.known else None


def _curves(
    network: Network, states: dict[StateName, tuple[float, float]], need: float, pumps: dict[StateName, Wired], n: int = 7
) -> dict[StateName, list[CurvePoint]]:
    """Pump and system pressure over flow, of every state in one go."""
    flows = np.concatenate([np.linspace(0.0, max(pumps[s].free, 1e-9), n) for s in states])
    demand, manifold = (np.repeat([pair[k] for pair in states.values()], n) for k in (0, 1))
    outlets = Plumbing(network, demand, need, manifold, MANY).pump_outlet(flows).tolist()
    rows = list(zip(flows.tolist(), outlets, strict=True))
    return {s: [(q, pumps[s].pressure(q), p) for q, p in rows[i * n : (i + 1) * n]] for i, s in enumerate(states)}


#: What the volts at the pump rest on: its wires, and where they run when their length was not measured.
HARNESS = (*RESTS_ON, "/fuel/pump/control", "/fuel/pump/curve")
#: What of a part on the path the flow meets.
PARTS = tuple(
    f"/fuel/parts/*/{key}"
    for key in ("kind", "material", "bore", "length", "rise", "fittings", "pressure_drop", "at_flow", "fluid", "due", "opens_at")
)
SYSTEM = (
    "/fuel/path",
    *PARTS,
    "/fuel/regulator",
    "/engine/fuel",
    "/fuel/pump/curve",
    "/fuel/pump/relief",
    *HARNESS,
    "/engine/boost",
    "/engine/blower/sits",
    "/injectors/enters",
    "fuel.need",
)
_IDLE = ("engine.idle_fuel_mass_flow", "engine.idle_manifold_pressure", "engine.ambient_pressure")
_AT: dict[StateName, str] = {
    "full": "at full power",
    "cruise": "at cruise",
    "idle": "at idle",
    "hot_idle": "at a hot idle",
    "prime": "with the key on, engine off",
    "crank": "while cranking",
}
_UPON: dict[StateName, tuple[str, ...]] = {s: (*SYSTEM, *_IDLE) if s in ("cruise", "idle", "hot_idle") else SYSTEM for s in STATES}
_INLET = ("/fuel/tank", "/engine/season", "/fuel/pump/place", "/fuel/lift", "engine.ambient_pressure")
_SOLVE = "pump and system meet; Darcy-Weisbach, Churchill (1977)"
_DARCY = "Darcy-Weisbach, Churchill (1977)"


def _state_figures(s: StateName) -> tuple[Spec, ...]:
    at, upon = _AT[s], _UPON[s]
    return (
        Spec(f"fuel.pump.flow.{s}", "L/h", f"Pump flow {at}", upon, _SOLVE, lambda r: r.points[s].flow_m3_s),
        Spec(f"fuel.pump.pressure.{s}", "kPa", f"Pressure at the pump {at}", upon, _SOLVE, lambda r: r.points[s].pump_pressure_pa),
        Spec(f"fuel.pump.current.{s}", "A", f"Pump current {at}", upon, _SOLVE, lambda r: r.points[s].current_a),
        Spec(f"fuel.pump.voltage.{s}", "V", f"Volts at the pump {at}", upon, _SOLVE, lambda r: r.points[s].volts),
        Spec(f"fuel.rail.pressure.{s}", "kPa", f"Rail pressure {at}, gauge", upon, _SOLVE, lambda r: r.points[s].rail_pressure_pa),
        Spec(f"fuel.return.pressure.{s}", "kPa", f"Pressure in the return {at}", upon, _DARCY, lambda r: r.points[s].return_pressure_pa),
        Spec(f"fuel.inlet.margin.{s}", "m", f"Pump inlet above vapour pressure {at}, hottest fuel", (*upon, *_INLET), "EPA AP-42, ch. 7.1",
             lambda r: r.points[s].inlet_margin_m if r.inlet.known else None),
        *(() if s == "prime" else (  # nothing is needed then
            Spec(f"fuel.margin.{s}", "1", f"Pump capacity over need {at}", upon, "capacity at the pressure wanted, over need",
                 lambda r: r.points[s].capacity_m3_s / r.points[s].demand_m3_s),)),
    )  # fmt: skip


_WORST = (*_UPON["idle"], *_INLET)

FIGURES = (
    Spec("fuel.need", "L/h", "Fuel needed at full power", ("engine.fuel_mass_flow", "/engine/fuel", "/fuel/users", "/fuel/regulator/set_pressure"), "mass flow over density, and what second users of the line take", lambda r: r.need_m3_s),
    *(figure for s in STATES for figure in _state_figures(s)),
    Spec("fuel.margin.tired", "1", "Margin at full power at 11.8 V with filters due for change", SYSTEM, _SOLVE, lambda r: r.tired_margin),
    Spec("fuel.wire.resistance", "mohm", "Resistance of the pump's circuit", HARNESS, "IEC 60028, nodal solve of the harness", lambda r: r.wire_ohms),
    Spec("fuel.wire.flow_lost", "1", "Share of the pump's flow lost to its wire", SYSTEM, _SOLVE, lambda r: r.wire_loss_share, share=True),
    Spec("fuel.supply.loss.full", "kPa", "Lost from pump to rail at full power, filters not counted", SYSTEM, _DARCY, lambda r: r.points["full"].line_loss_pa),
    Spec("fuel.supply.velocity.full", "m/s", "Speed of fuel on the way to the rail at full power", SYSTEM, "flow over area", lambda r: r.points["full"].velocity_m_s),
    Spec("fuel.filter.loss.full", "kPa", "Lost in filters at full power", SYSTEM, "Darcy, linear in flow", lambda r: r.points["full"].filter_drop_pa),
    Spec("fuel.rail.creep.idle", "kPa", "Rail above its set value at idle", _UPON["idle"], "return pressure and wide-open regulator", lambda r: r.idle_rail_creep_pa),
    Spec("fuel.gauge.key_on", "kPa", "Gauge with the key on, pump running, engine off", SYSTEM, _SOLVE, lambda r: r.points["prime"].rail_pressure_pa),
    Spec("fuel.gauge.idle", "kPa", "Gauge at idle", _UPON["idle"], "set pressure, less manifold vacuum when referenced", lambda r: r.points["idle"].rail_pressure_pa),
    Spec("fuel.gauge.full", "kPa", "Gauge at full power", SYSTEM, _SOLVE, lambda r: r.points["full"].rail_pressure_pa),
    Spec("fuel.pump.fit_residual", "1", "Misfit of the pump's table, share of its largest flow", ("/fuel/pump/curve",), "least squares", lambda r: r.fit_residual, share=True),
    Spec("fuel.injector.pressure.full", "kPa", "Pressure across the injector at full power", SYSTEM, "rail less manifold", lambda r: r.points["full"].across_pa),
    Spec("fuel.injector.pressure.idle", "kPa", "Pressure across the injector at idle", _UPON["idle"], "rail less manifold", lambda r: r.points["idle"].across_pa),
    Spec("fuel.inlet.margin", "m", "Pump inlet above vapour pressure, in metres of fuel, hottest fuel, most flow", _WORST, "EPA AP-42, ch. 7.1", lambda r: r.inlet.margin_m if r.inlet.known else None),
    Spec("fuel.hottest", "degC", "Hottest fuel that the pump takes", _WORST, "EPA AP-42, ch. 7.1", lambda r: r.inlet.hottest_k if r.inlet.known else None),
    Spec("fuel.suction.velocity", "m/s", "Speed of fuel in the suction line", _WORST, "flow over area", lambda r: r.inlet.suction_velocity_m_s or None),
    Spec("fuel.warming", "K/h", "A quarter tank warms at idle by", (*_UPON["idle"], "/fuel/tank/volume"), "pump power and the rail's heat over heat capacity", lambda r: r.warming_k_s),
    Spec("fuel.settles", "degC", "Fuel settles at on the hottest day, driving", (*_UPON["cruise"], "/fuel/tank/volume", "engine.ambient_pressure"), "heat in over skin of the tank; Incropera, ch. 7", lambda r: r.settles_k),
    Spec("fuel.soak.liquid", "degC", "Rail stays liquid after key-off up to, if it keeps its pressure", ("/fuel/regulator/set_pressure", "/fuel/tank/reid", "/engine/fuel", "/engine/season", "engine.ambient_pressure"),
         "vapour pressure against base pressure", lambda r: r.soak_liquid_k),
    Spec("fuel.soak.open", "degC", "The same if it loses it", ("/fuel/tank/reid", "/engine/fuel", "/engine/season", "engine.ambient_pressure"), "vapour pressure against ambient", lambda r: r.soak_open_k),
    Spec("fuel.lift.inlet", "m", "Lift pump's inlet above vapour pressure, in metres of fuel", (*SYSTEM, "/fuel/tank", "/fuel/lift", "/engine/season", "engine.ambient_pressure"), "vapour pressure at the hottest fuel", lambda r: r.lift_margin_m),
    Spec("fuel.gravity.flow", "L/h", "Runs to the pump's inlet by itself, measured", ("/fuel/measured",), "volume over time", lambda r: r.gravity_m3_s),
    Spec("fuel.gravity.expected", "L/h", "Runs there by itself, worked out", ("/fuel/tank", "/fuel/path", "/fuel/parts", "/fuel/pump/place", "/fuel/lift", "/engine/fuel"), _DARCY, lambda r: r.gravity_expected_m3_s),
    Spec("fuel.surge.seconds", "s", "Time that the surge tank covers at full power", ("/fuel/lift", "fuel.need"), "usable volume over need", lambda r: r.surge_s),
    Spec("fuel.lift.margin", "1", "Lift pump over what it has to fill", (*SYSTEM, "/fuel/lift", "fuel.lift.voltage"), "flow at its volts over need, or over the whole flow", lambda r: r.lift_margin),
    Spec("fuel.lift.voltage", "V", "Volts at the lift pump, at full power", (*HARNESS, "/fuel/lift/current"), "the harness in balance", lambda r: r.lift_volts),
)  # fmt: skip
