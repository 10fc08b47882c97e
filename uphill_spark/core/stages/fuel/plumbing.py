"""The plumbing as the pump meets it, in each of the three schemes.

return          pump - filter - supply line - rail - regulator - return line: the pump's whole flow passes the supply line
tank_regulator  pump - filter - regulator at the tank, the rest back at once; only demand passes the supply line
dead_head       pump - filter - supply line - regulator - rail: only demand flows, nothing comes back
"""

from __future__ import annotations

from dataclasses import dataclass

from ...build import Build
from ...build.fuel import Line
from ...physics import pipe
from ...physics.electric import resistance_per_metre
from ...physics.pump import OperatingPoint, PumpFit, fit_pump, operating_point
from ...reference import contacts, fittings, fuels, lines
from ..engine import fuel_data

#: Pressure drop of a wide-open regulator [Pa] at a flow [m3/s]; it goes with the square of flow.
WIDE_OPEN_DROP = (20e3, 200e-3 / 3600)
#: Share of its set value that a dead-head regulator loses from no flow to full demand.
DROOP = 0.05


def as_run(line: Line) -> pipe.Run:
    """A line's hydraulics from its description."""
    k = sum(fittings()[f.kind] * f.count for f in line.fittings)
    return pipe.Run(line.bore.si, line.length.si, lines()[line.material].roughness, line.rise.si, k)


def copper_ohms(build: Build) -> float:
    """Resistance [ohm] of the pump's wire, out and back."""
    wire = build.fuel.wire
    return 2 * wire.length.si * resistance_per_metre(wire.size.si, wire.temperature.si)


def contact_ohms(build: Build) -> float:
    """Resistance [ohm] of every contact in the pump's circuit."""
    return sum(contacts()[c.kind] * c.count for c in build.fuel.wire.contacts)


def circuit_ohms(build: Build) -> float:
    """Resistance [ohm] of the pump's circuit: wire out and back, and every contact."""
    return copper_ohms(build) + contact_ohms(build)


def fitted(build: Build) -> PumpFit:
    """The pump's coefficients from its table."""
    return fit_pump([(r.voltage.si, r.pressure.si, r.flow.si, r.current.si) for r in build.fuel.pump.curve])


@dataclass(frozen=True, slots=True)
class Solved:
    """A solved state: what the pump does, and what it could give at the rail's pressure [m3/s]."""

    point: OperatingPoint
    capacity: float


class Plumbing:
    """Everything between pump outlet and tank at one state of the engine: demand [m3/s], manifold less ambient pressure [Pa]."""

    def __init__(self, build: Build, demand: float, full_demand: float, manifold_pa: float, *, due: bool | None = None) -> None:
        data = fuel_data(build.engine)
        f = build.fuel
        self.scheme = f.scheme
        self.liquid = pipe.Liquid(data.density, data.viscosity)
        self.supply, self.back = as_run(f.supply), as_run(f.return_line)
        self.filter, self.due = f.filter, f.filter.due if due is None else due
        self.thickness = data.viscosity / fuels()["E0"].viscosity if f.filter.fluid == "petrol" else 1.0
        self.demand = demand
        self.relief = f.pump.relief.si if f.pump.relief else None
        follows = f.regulator.reference == "manifold"
        droop = 1 - DROOP * min(demand / full_demand, 1.0) if f.scheme == "dead_head" and full_demand > 0 else 1.0
        self.set_pa = max(f.regulator.set_pressure.si * droop + (manifold_pa if follows else 0.0), 0.0)

    def spare(self, flow: float) -> float:
        """What comes back to the tank [m3/s]."""
        return 0.0 if self.scheme == "dead_head" else max(flow - self.demand, 0.0)

    def in_supply(self, flow: float) -> float:
        """What passes the supply line [m3/s]."""
        return flow if self.scheme == "return" else min(flow, self.demand)

    def return_pressure(self, flow: float) -> float:
        """Pressure that the return line needs for what comes back [Pa]."""
        if self.scheme == "dead_head":
            return 0.0
        return pipe.line_loss(self.back, self.spare(flow), self.liquid) + pipe.head(self.liquid, self.back.rise)

    def regulator_open(self, flow: float) -> float:
        """Drop of the wide-open regulator [Pa]."""
        drop, rated = WIDE_OPEN_DROP
        return drop * (self.spare(flow) / rated) ** 2

    def regulated(self, flow: float) -> float:
        """Pressure at the regulator's controlled side [Pa]: set, or what the return pushes back when it cannot carry the rest."""
        return max(self.set_pa, self.return_pressure(flow) + self.regulator_open(flow))

    def filter_drop(self, flow: float) -> float:
        return pipe.filter_loss(self.filter.pressure_drop.si, self.filter.at_flow.si, flow, self.thickness, self.due)

    def line_loss(self, flow: float) -> float:
        return pipe.line_loss(self.supply, self.in_supply(flow), self.liquid)

    def lift_head(self) -> float:
        return pipe.head(self.liquid, self.supply.rise)

    def rail(self, flow: float) -> float:
        """Gauge pressure at the rail [Pa]."""
        if self.scheme == "tank_regulator":
            return self.regulated(flow) - self.line_loss(flow) - self.lift_head()
        return self.regulated(flow)

    def pump_outlet(self, flow: float) -> float:
        """Gauge pressure that the pump must make to pass a flow [Pa]; rises with flow."""
        if self.scheme == "tank_regulator":
            return self.regulated(flow) + self.filter_drop(flow)
        return self.regulated(flow) + pipe.line_loss(self.supply, flow, self.liquid) + self.lift_head() + self.filter_drop(flow)

    def solve(self, fit: PumpFit, supply_volts: float, ohms: float) -> Solved:
        """The state solved. A dead-head pump runs at demand, against what its own curve then gives or its relief valve lets through."""
        meets = operating_point(fit, supply_volts, ohms, self.pump_outlet)
        if self.scheme != "dead_head" or meets.flow <= self.demand:
            return Solved(meets, meets.flow)
        slope = fit.b + fit.a * ohms * fit.e
        free = fit.a * (supply_volts - ohms * fit.d) - fit.c
        pressure = (free - self.demand) / slope if slope > 0 else meets.pressure
        pressure = min(pressure, self.relief) if self.relief is not None else pressure
        current = fit.current(pressure)
        return Solved(OperatingPoint(self.demand, pressure, current, supply_volts - current * ohms, meets.misfit), meets.flow)
