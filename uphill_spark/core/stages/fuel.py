"""Fuel: where pump and system meet at full power, idle and cranking; line losses, velocity, return pressure, margin."""

from __future__ import annotations

from typing import Literal

from ..build import Build
from ..build.fuel import Line
from ..figures import Result, Spec
from ..physics import pipe
from ..physics.electric import resistance_per_metre
from ..physics.pump import PumpFit, fit_pump, operating_point
from ..reference import contacts, fittings, fuels, lines
from .engine import EngineResult, fuel_data

PointName = Literal["full", "idle", "crank"]
POINTS: tuple[PointName, ...] = ("full", "idle", "crank")
#: Volts at the battery in each state: charging, charging, starter turning.
SUPPLY_VOLTS: dict[PointName, float] = {"full": 13.8, "idle": 13.8, "crank": 10.0}
#: Pressure drop of a wide-open regulator [Pa] at a flow [m3/s]; it goes with the square of flow.
WIDE_OPEN_DROP = (20e3, 200e-3 / 3600)
#: Share of full-power fuel that an engine takes while it is cranked.
CRANK_SHARE = 0.05


class Point(Result):
    """One solved operating point. Pressures are gauge, at the part named."""

    name: PointName
    flow_m3_s: float
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
    """A place along the way from tank to rail: metres run, height of the line, gauge pressure in it at full power."""

    label: str
    run_m: float
    height_m: float
    pressure_pa: float


class FuelResult(Result):
    need_m3_s: float
    design_flow_m3_s: float
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
    grade: list[GradePoint]
    gauge_engine_off_pa: float
    gauge_idle_pa: float


def as_run(line: Line) -> pipe.Run:
    """A line's hydraulics from its description."""
    k = sum(fittings()[f.kind] * f.count for f in line.fittings)
    return pipe.Run(line.bore.si, line.length.si, lines()[line.material].roughness, line.rise.si, k)


def pump_circuit_ohms(build: Build) -> float:
    """Resistance [ohm] of the pump's circuit: wire out and back, and every contact."""
    wire = build.fuel.wire
    copper = 2 * wire.length.si * resistance_per_metre(wire.size.si, wire.temperature.si)
    return copper + sum(contacts()[c.kind] * c.count for c in wire.contacts)


class _System:
    """The plumbing between pump outlet and tank at one state of the engine."""

    def __init__(self, build: Build, demand: float, reference_pa: float) -> None:
        data = fuel_data(build.engine)
        f = build.fuel
        self.liquid = pipe.Liquid(data.density, data.viscosity)
        self.supply, self.back = as_run(f.supply), as_run(f.return_line)
        self.filter = f.filter
        self.thickness = data.viscosity / fuels()["E0"].viscosity if f.filter.fluid == "petrol" else 1.0
        self.demand = demand
        self.set_pa = f.regulator.set_pressure.si + (reference_pa if f.regulator.reference == "manifold" else 0.0)

    def return_pressure(self, flow: float) -> float:
        spare = max(flow - self.demand, 0.0)
        return pipe.line_loss(self.back, spare, self.liquid) + pipe.head(self.liquid, self.back.rise)

    def regulator_open(self, flow: float) -> float:
        drop, rated = WIDE_OPEN_DROP
        return drop * (max(flow - self.demand, 0.0) / rated) ** 2

    def rail(self, flow: float) -> float:
        """Rail pressure: the set value, or what the return pushes back when it cannot carry the rest."""
        return max(self.set_pa, self.return_pressure(flow) + self.regulator_open(flow))

    def filter_drop(self, flow: float) -> float:
        return pipe.filter_loss(self.filter.pressure_drop.si, self.filter.at_flow.si, flow, self.thickness, self.filter.due)

    def pump_outlet(self, flow: float) -> float:
        return (
            self.rail(flow)
            + pipe.line_loss(self.supply, flow, self.liquid)
            + self.filter_drop(flow)
            + pipe.head(self.liquid, self.supply.rise)
        )


def work_out(build: Build, engine: EngineResult) -> FuelResult:
    """Every operating point, solved."""
    f = build.fuel
    density = fuel_data(build.engine).density
    need = engine.fuel_mass_flow_kg_s / density
    demand: dict[PointName, float] = {"full": need, "idle": engine.idle_fuel_mass_flow_kg_s / density, "crank": CRANK_SHARE * need}
    reference: dict[PointName, float] = {"full": 0.0, "idle": engine.idle_manifold_pressure_pa - engine.ambient_pressure_pa, "crank": 0.0}
    fit = fit_pump([(r.voltage.si, r.pressure.si, r.flow.si, r.current.si) for r in f.pump.curve])
    ohms = pump_circuit_ohms(build)
    systems = {name: _System(build, demand[name], reference[name]) for name in POINTS}
    points = {name: _point(name, systems[name], fit, ohms) for name in POINTS}
    full, idle = points["full"], points["idle"]
    straight = operating_point(fit, SUPPLY_VOLTS["full"], 0.0, systems["full"].pump_outlet)
    return FuelResult(
        need_m3_s=need,
        design_flow_m3_s=need * f.design_margin.si,
        points=points,
        margin_full=full.flow_m3_s / need,
        margin_no_wire_loss=straight.flow / need,
        wire_ohms=ohms,
        wire_loss_share=1 - full.flow_m3_s / straight.flow if straight.flow > 0 else 0.0,
        fit_residual=fit.residual,
        fit_assumed_slope=fit.assumed_voltage_slope,
        highest_listed_pa=fit.highest_pressure,
        extrapolated=full.pump_pressure_pa / fit.highest_pressure,
        idle_rail_creep_pa=max(idle.rail_pressure_pa - systems["idle"].set_pa, 0.0),
        highest_pressure_pa=max(p.pump_pressure_pa for p in points.values()),
        supply_limit_pa=lines()[f.supply.material].working_pressure,
        curves={name: _curves(systems[name], fit, ohms, SUPPLY_VOLTS[name]) for name in POINTS},
        grade=_grade(systems["full"], full),
        gauge_engine_off_pa=max(f.regulator.set_pressure.si, points["crank"].rail_pressure_pa),
        gauge_idle_pa=idle.rail_pressure_pa,
    )


def _point(name: PointName, system: _System, fit: PumpFit, ohms: float) -> Point:
    found = operating_point(fit, SUPPLY_VOLTS[name], ohms, system.pump_outlet)
    return Point(
        name=name,
        flow_m3_s=found.flow,
        demand_m3_s=system.demand,
        pump_pressure_pa=found.pressure,
        rail_pressure_pa=system.rail(found.flow),
        return_pressure_pa=system.return_pressure(found.flow),
        regulator_open_pa=system.regulator_open(found.flow),
        filter_drop_pa=system.filter_drop(found.flow),
        line_loss_pa=pipe.line_loss(system.supply, found.flow, system.liquid),
        head_pa=pipe.head(system.liquid, system.supply.rise),
        current_a=found.current,
        volts=found.volts,
        supply_volts=SUPPLY_VOLTS[name],
        velocity_m_s=system.supply.velocity(found.flow),
        return_velocity_m_s=system.back.velocity(max(found.flow - system.demand, 0.0)),
        holds=found.flow >= system.demand,
    )


def _curves(system: _System, fit: PumpFit, ohms: float, supply: float, n: int = 13) -> list[CurvePoint]:
    """Pump and system pressure over flow. The pump on its wire: V = V_s - R (d + e P) put into Q = a V - b P - c, solved for P."""
    slope = fit.b + fit.a * ohms * fit.e
    free = max(fit.a * (supply - ohms * fit.d) - fit.c, 1e-9)
    steps = [free * k / (n - 1) for k in range(n)]
    return [CurvePoint(flow_m3_s=q, pump_pa=(free - q) / slope if slope > 0 else 0.0, system_pa=system.pump_outlet(q)) for q in steps]


def _grade(system: _System, full: Point) -> list[GradePoint]:
    """The pressure grade line at full power, fittings shared out along the line; the filter sits a fifth of the way along."""
    length, rise = system.supply.length, system.supply.rise
    at = length * 0.2
    start = full.pump_pressure_pa
    before = start - (full.line_loss_pa + full.head_pa) * 0.2
    after = before - full.filter_drop_pa
    rail = full.rail_pressure_pa
    return [
        GradePoint(label="pump", run_m=0.0, height_m=0.0, pressure_pa=start),
        GradePoint(label="filter in", run_m=at, height_m=rise * 0.2, pressure_pa=before),
        GradePoint(label="filter out", run_m=at, height_m=rise * 0.2, pressure_pa=after),
        GradePoint(label="rail", run_m=length, height_m=rise, pressure_pa=rail),
        GradePoint(label="after regulator", run_m=length, height_m=rise, pressure_pa=full.return_pressure_pa),
        GradePoint(label="tank", run_m=length + system.back.length, height_m=rise + system.back.rise, pressure_pa=0.0),
    ]


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
    Spec("fuel.margin.full", "1", "Pump capacity over need at full power", ("fuel.pump.flow.full", "fuel.need"), "capacity at rail pressure over need", lambda r: r.margin_full),
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
)  # fmt: skip
