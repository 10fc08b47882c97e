"""Fuel: where pump and system meet at full power, idle and cranking; line losses, return pressure, margin, vapour at the inlet.

`plumbing` holds the three schemes, `inlet` the pump's suction side, `depth` what is worked out on asking: cases, doubt, advice.
"""

from __future__ import annotations

from typing import Literal

from ...build import Build
from ...figures import Result, Spec
from ...physics.pump import PumpFit, operating_point
from ...reference import lines
from ..engine import EngineResult, fuel_data
from .inlet import Inlet, at_inlet
from .plumbing import Plumbing, circuit_ohms, fitted

PointName = Literal["full", "idle", "crank"]
POINTS: tuple[PointName, ...] = ("full", "idle", "crank")
#: Volts at the battery in each state: charging, charging, starter turning.
SUPPLY_VOLTS: dict[PointName, float] = {"full": 13.8, "idle": 13.8, "crank": 10.0}
TIRED_VOLTS = 11.8  # a tired battery with the charging gone
#: Share of full-power fuel that an engine takes while it is cranked.
CRANK_SHARE = 0.05
SPECIFIC_HEAT = 2100.0  # J/(kg K), petrol
QUARTER = 0.25  # of a tank, the least that fuel warming is judged at


class Point(Result):
    """One solved operating point. Pressures are gauge, at the part named."""

    name: PointName
    flow_m3_s: float
    capacity_m3_s: float
    demand_m3_s: float
    pump_pressure_pa: float
    rail_pressure_pa: float
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
    holds: bool


class CurvePoint(Result):
    flow_m3_s: float
    pump_pa: float
    system_pa: float


class GradePoint(Result):
    """A place along the way from tank to rail: metres run, height of the line, gauge pressure in it."""

    label: str
    run_m: float
    height_m: float
    pressure_pa: float


class FuelResult(Result):
    need_m3_s: float
    points: dict[PointName, Point]
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
    curves: dict[PointName, list[CurvePoint]]
    grades: dict[PointName, list[GradePoint]]
    gauge_engine_off_pa: float
    gauge_idle_pa: float
    across_full_pa: float
    across_idle_pa: float
    tired_margin: float
    crank_margin: float
    inlet: Inlet
    warming_k_s: float
    surge_s: float | None
    lift_margin: float | None


def work_out(build: Build, engine: EngineResult) -> FuelResult:
    """Every operating point, solved."""
    f = build.fuel
    density = fuel_data(build.engine).density
    need = engine.fuel_mass_flow_kg_s / density
    demand: dict[PointName, float] = {"full": need, "idle": engine.idle_fuel_mass_flow_kg_s / density, "crank": CRANK_SHARE * need}
    vacuum = engine.idle_manifold_pressure_pa - engine.ambient_pressure_pa
    manifold: dict[PointName, float] = {"full": 0.0, "idle": vacuum, "crank": 0.0}
    fit, ohms = fitted(build), circuit_ohms(build)
    systems = {name: Plumbing(build, demand[name], need, manifold[name]) for name in POINTS}
    points = {name: _point(name, systems[name], fit, ohms) for name in POINTS}
    full, idle = points["full"], points["idle"]
    straight = operating_point(fit, SUPPLY_VOLTS["full"], 0.0, systems["full"].pump_outlet)
    tired = operating_point(fit, TIRED_VOLTS, ohms, Plumbing(build, need, need, 0.0, due=True).pump_outlet)
    inlet = at_inlet(build, max(p.flow_m3_s for p in points.values()), engine.ambient_pressure_pa)
    lift = f.lift
    fills = None
    if lift is not None:
        fills = need if lift.return_to == "surge_tank" else max(full.flow_m3_s, need)
    return FuelResult(
        need_m3_s=need,
        points=points,
        margin_full=full.capacity_m3_s / need,
        margin_no_wire_loss=straight.flow / need,
        wire_ohms=ohms,
        wire_loss_share=1 - full.capacity_m3_s / straight.flow if straight.flow > 0 else 0.0,
        fit_residual=fit.residual,
        fit_assumed_slope=fit.assumed_voltage_slope,
        highest_listed_pa=fit.highest_pressure,
        extrapolated=full.pump_pressure_pa / fit.highest_pressure,
        idle_rail_creep_pa=max(systems["idle"].regulated(idle.flow_m3_s) - systems["idle"].set_pa, 0.0),
        highest_pressure_pa=max(p.pump_pressure_pa for p in points.values()),
        supply_limit_pa=lines()[f.supply.material].working_pressure,
        curves={name: _curves(systems[name], fit, ohms, SUPPLY_VOLTS[name]) for name in POINTS},
        grades={name: _grade(systems[name], points[name]) for name in POINTS},
        gauge_engine_off_pa=max(f.regulator.set_pressure.si, points["crank"].rail_pressure_pa)
        if f.scheme == "return"
        else points["crank"].rail_pressure_pa,
        gauge_idle_pa=idle.rail_pressure_pa,
        across_full_pa=full.rail_pressure_pa,
        across_idle_pa=idle.rail_pressure_pa - vacuum,
        tired_margin=tired.flow / need,
        crank_margin=points["crank"].capacity_m3_s / demand["crank"],
        inlet=inlet,
        warming_k_s=_warming(build, idle, density),
        surge_s=lift.usable.si / need if lift is not None else None,
        lift_margin=lift.flow.si / fills if lift is not None and fills else None,
    )


def _warming(build: Build, idle: Point, density: float) -> float:
    """Rise of a quarter tank of fuel [K/s] from the pump's power, where what is pumped comes back."""
    if build.fuel.scheme == "dead_head":
        return 0.0
    return idle.volts * idle.current_a / (density * build.fuel.tank.volume.si * QUARTER * SPECIFIC_HEAT)


def _point(name: PointName, system: Plumbing, fit: PumpFit, ohms: float) -> Point:
    solved = system.solve(fit, SUPPLY_VOLTS[name], ohms)
    found = solved.point
    return Point(
        name=name,
        flow_m3_s=found.flow,
        capacity_m3_s=solved.capacity,
        demand_m3_s=system.demand,
        pump_pressure_pa=found.pressure,
        rail_pressure_pa=system.rail(found.flow),
        return_pressure_pa=system.return_pressure(found.flow),
        regulator_open_pa=system.regulator_open(found.flow),
        filter_drop_pa=system.filter_drop(found.flow),
        line_loss_pa=system.line_loss(found.flow),
        head_pa=system.lift_head(),
        current_a=found.current,
        volts=found.volts,
        supply_volts=SUPPLY_VOLTS[name],
        velocity_m_s=system.supply.velocity(system.in_supply(found.flow)),
        return_velocity_m_s=system.back.velocity(system.spare(found.flow)),
        holds=solved.capacity >= system.demand,
    )


def _curves(system: Plumbing, fit: PumpFit, ohms: float, supply: float, n: int = 9) -> list[CurvePoint]:
    """Pump and system pressure over flow. The pump on its wire: V = V_s - R (d + e P) put into Q = a V - b P - c, solved for P."""
    slope = fit.b + fit.a * ohms * fit.e
    free = max(fit.a * (supply - ohms * fit.d) - fit.c, 1e-9)
    steps = [free * k / (n - 1) for k in range(n)]
    return [CurvePoint(flow_m3_s=q, pump_pa=(free - q) / slope if slope > 0 else 0.0, system_pa=system.pump_outlet(q)) for q in steps]


def _grade(system: Plumbing, at_point: Point) -> list[GradePoint]:
    """The pressure grade line at an operating point, fittings shared out along the line; the filter sits a fifth of the way along."""
    length, rise = system.supply.length, system.supply.rise
    at = 0.0 if system.scheme == "tank_regulator" else length * 0.2
    along = (at_point.line_loss_pa + at_point.head_pa) * (at / length if length > 0 else 0.0)
    start = at_point.pump_pressure_pa
    points = [
        GradePoint(label="pump", run_m=0.0, height_m=0.0, pressure_pa=start),
        GradePoint(label="filter in", run_m=at, height_m=rise * 0.2 if at else 0.0, pressure_pa=start - along),
        GradePoint(label="filter out", run_m=at, height_m=rise * 0.2 if at else 0.0, pressure_pa=start - along - at_point.filter_drop_pa),
    ]
    if system.scheme == "dead_head":
        before = start - at_point.filter_drop_pa - at_point.line_loss_pa - at_point.head_pa
        points.append(GradePoint(label="before regulator", run_m=length, height_m=rise, pressure_pa=before))
    points.append(GradePoint(label="rail", run_m=length, height_m=rise, pressure_pa=at_point.rail_pressure_pa))
    if system.scheme == "return":
        points.append(GradePoint(label="after regulator", run_m=length, height_m=rise, pressure_pa=at_point.return_pressure_pa))
        points.append(GradePoint(label="tank", run_m=length + system.back.length, height_m=rise + system.back.rise, pressure_pa=0.0))
    return points


_SYSTEM = (
    "/fuel/supply",
    "/fuel/filter",
    "/fuel/regulator",
    "/fuel/return_line",
    "/engine/fuel",
    "/fuel/pump/curve",
    "/fuel/wire",
    "fuel.need",
)
_AT = {"full": "at full power", "idle": "at idle", "crank": "while cranking"}
_IDLE = ("engine.idle_fuel_mass_flow", "engine.idle_manifold_pressure", "engine.ambient_pressure")
_UPON: dict[PointName, tuple[str, ...]] = {"full": _SYSTEM, "idle": (*_SYSTEM, *_IDLE), "crank": _SYSTEM}
_INLET = (*_UPON["idle"], "/fuel/tank", "/fuel/suction", "/fuel/strainer", "/fuel/pump/place", "/fuel/lift")
_SOLVE = "pump and system meet; Darcy-Weisbach, Churchill (1977)"


def _point_figures(p: PointName) -> tuple[Spec, ...]:
    return (
        Spec(f"fuel.pump.flow.{p}", "L/h", f"Pump flow {_AT[p]}", _UPON[p], _SOLVE, lambda r: r.points[p].flow_m3_s),
        Spec(f"fuel.pump.pressure.{p}", "kPa", f"Pressure at the pump {_AT[p]}", _UPON[p], _SOLVE, lambda r: r.points[p].pump_pressure_pa),
        Spec(f"fuel.pump.current.{p}", "A", f"Pump current {_AT[p]}", _UPON[p], _SOLVE, lambda r: r.points[p].current_a),
        Spec(f"fuel.pump.voltage.{p}", "V", f"Volts at the pump {_AT[p]}", _UPON[p], _SOLVE, lambda r: r.points[p].volts),
        Spec(f"fuel.rail.pressure.{p}", "kPa", f"Rail pressure {_AT[p]}, gauge", _UPON[p], _SOLVE, lambda r: r.points[p].rail_pressure_pa),
    )


FIGURES = (
    Spec("fuel.need", "L/h", "Fuel needed at full power", ("engine.fuel_mass_flow", "/engine/fuel"), "mass flow over density", lambda r: r.need_m3_s),
    *(figure for p in POINTS for figure in _point_figures(p)),
    Spec("fuel.margin.full", "1", "Pump capacity over need at full power", _SYSTEM, "capacity at rail pressure over need", lambda r: r.margin_full),
    Spec("fuel.wire.resistance", "mohm", "Resistance of the pump's circuit", ("/fuel/wire",), "IEC 60028", lambda r: r.wire_ohms),
    Spec("fuel.wire.flow_lost", "1", "Share of the pump's flow lost to its wire", _SYSTEM, _SOLVE, lambda r: r.wire_loss_share, share=True),
    Spec("fuel.supply.loss.full", "kPa", "Lost in the supply line at full power, filter not counted", _SYSTEM, "Darcy-Weisbach, Churchill (1977)", lambda r: r.points["full"].line_loss_pa),
    Spec("fuel.supply.velocity.full", "m/s", "Speed of fuel in the supply line at full power", _SYSTEM, "flow over area", lambda r: r.points["full"].velocity_m_s),
    Spec("fuel.filter.loss.full", "kPa", "Lost in the filter at full power", _SYSTEM, "Darcy, linear in flow", lambda r: r.points["full"].filter_drop_pa),
    Spec("fuel.return.pressure.idle", "kPa", "Pressure in the return at idle", _UPON["idle"], "Darcy-Weisbach, Churchill (1977)", lambda r: r.points["idle"].return_pressure_pa),
    Spec("fuel.rail.creep.idle", "kPa", "Rail above its set value at idle", _UPON["idle"], "return pressure and wide-open regulator", lambda r: r.idle_rail_creep_pa),
    Spec("fuel.gauge.engine_off", "kPa", "Gauge, pump running, engine off", _SYSTEM, "regulator's set pressure", lambda r: r.gauge_engine_off_pa),
    Spec("fuel.gauge.idle", "kPa", "Gauge at idle", _UPON["idle"], "set pressure, less manifold vacuum when referenced", lambda r: r.gauge_idle_pa),
    Spec("fuel.pump.fit_residual", "1", "Misfit of the pump's table, share of its largest flow", ("/fuel/pump/curve",), "least squares", lambda r: r.fit_residual, share=True),
    Spec("fuel.margin.tired", "1", "The same at 11.8 V with a filter due for change", _SYSTEM, _SOLVE, lambda r: r.tired_margin),
    Spec("fuel.margin.crank", "1", "Pump capacity over need while cranking", _SYSTEM, _SOLVE, lambda r: r.crank_margin),
    Spec("fuel.injector.pressure.full", "kPa", "Pressure across the injector at full power", _SYSTEM, "rail less manifold", lambda r: r.across_full_pa),
    Spec("fuel.injector.pressure.idle", "kPa", "Pressure across the injector at idle", _UPON["idle"], "rail less manifold", lambda r: r.across_idle_pa),
    Spec("fuel.inlet.margin", "m", "Pump inlet above vapour pressure, in metres of fuel, hottest fuel", _INLET, "EPA AP-42, ch. 7.1", lambda r: r.inlet.margin_m if r.inlet.known else None),
    Spec("fuel.inlet.hottest", "degC", "Hottest fuel that the pump takes", _INLET, "EPA AP-42, ch. 7.1", lambda r: r.inlet.hottest_k if r.inlet.known else None),
    Spec("fuel.suction.velocity", "m/s", "Speed of fuel in the suction line", _INLET, "flow over area", lambda r: r.inlet.suction_velocity_m_s or None),
    Spec("fuel.warming", "K/h", "A quarter tank warms at idle by", (*_UPON["idle"], "/fuel/tank/volume"), "pump power over heat capacity", lambda r: r.warming_k_s),
    Spec("fuel.surge.time", "s", "Time that the surge tank covers at full power", ("/fuel/lift", "fuel.need"), "usable volume over need", lambda r: r.surge_s),
    Spec("fuel.lift.margin", "1", "Lift pump over what it has to fill", (*_SYSTEM, "/fuel/lift"), "flow over need, or over the whole flow", lambda r: r.lift_margin),
)  # fmt: skip
