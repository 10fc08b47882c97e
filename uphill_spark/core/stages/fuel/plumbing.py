"""The plumbing as the pump meets it: the losses of every part on the path, and what the regulator does with them.

The pump's whole flow passes what lies between pump and regulator (or rail, where the rail comes first). Past a regulator that stands before the
rail only what the engine takes goes on; what is left over goes back from the regulator. Without a way back only what the engine takes flows at all.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from scipy.optimize import brentq

from ...given import Build
from ...given.fuel import CheckValve, Damper, Filter, FuelSystem, PumpSheet, Run
from ...physics import pipe
from ...physics.pipe import ONE, Arithmetic, Liquid
from ...physics.pump import OperatingPoint, PumpFit, fit_pump, operating_point
from ...reference import fittings, fuels, lines
from ..engine import fuel_data

#: Pressure drop of a wide-open regulator [Pa] at a flow [m3/s]; it goes with the square of flow.
WIDE_OPEN_DROP = (20e3, 200e-3 / 3600)
#: Share of its set value that a dead-head regulator loses from no flow to full demand.
DROOP = 0.05


def as_run(run: Run) -> pipe.Run:
    """A run's hydraulics from its description. A fitting of another bore counts on its own: K goes with the fourth power of the bores."""
    k = sum(fittings()[f.kind] * f.count * (run.bore.si / (f.bore or run.bore).si) ** 4 for f in run.fittings)
    return pipe.Run(run.bore.si, run.length.si, lines()[run.material].roughness, run.rise.si, k)


def fit_sheet(sheet: PumpSheet) -> PumpFit:
    """A pump's coefficients from its table."""
    return _fit(tuple((r.voltage.si, r.pressure.si, r.flow.si, r.current.si) for r in sheet.curve))


@lru_cache(maxsize=256)
def _fit(rows: tuple[tuple[float, float, float, float], ...]) -> PumpFit:
    """The same, once for each table: it is asked for by every stage that looks at the pump."""
    return fit_pump(rows)


def fitted(build: Build) -> PumpFit:
    """The coefficients of the pump that is fitted."""
    return fit_sheet(build.fuel.pump)


@dataclass(frozen=True, slots=True)
class Factors:
    """Factors on doubtful inputs, one each or an array of draws."""

    bore: Any = 1.0
    fittings: Any = 1.0
    filter: Any = 1.0
    set_pressure: Any = 1.0


EXACT = Factors()


@dataclass(frozen=True, slots=True)
class Element:
    """A part of the path as the liquid meets it."""

    name: str
    part: Run | Filter | CheckValve | Damper
    run: pipe.Run | None
    thickness: float
    due: bool

    @property
    def rise(self) -> float:
        """Height [m] from its start to its end; none for a fitting."""
        return self.run.rise if self.run else 0.0

    @property
    def length(self) -> float:
        """Length [m]; none for a fitting."""
        return self.run.length if self.run else 0.0

    def loss(self, flow: Any, liquid: Liquid, how: Arithmetic = ONE, factors: Factors = EXACT) -> Any:
        """Pressure [Pa] lost in it at a flow [m3/s], height not counted."""
        part = self.part
        if self.run is not None:
            return pipe.line_loss(self.run, flow, liquid, how, factors.bore, factors.fittings)
        if isinstance(part, Filter):
            return pipe.filter_loss(part.pressure_drop.si, part.at_flow.si, flow, self.thickness, self.due) * factors.filter
        narrow = pipe.orifice_loss(part.pressure_drop.si, part.at_flow.si, flow)  # type: ignore[union-attr]  # valve or damper
        return narrow + (part.opens_at.si if isinstance(part, CheckValve) else 0.0)


def elements(fuel: FuelSystem, names: Sequence[str], viscosity: float, due: bool | None = None) -> tuple[Element, ...]:
    """The named parts in their order, at a viscosity [Pa s]. `due` takes every filter as due or as clean, instead of as it is."""
    found = []
    for name in names:
        part = fuel.parts[name]
        petrol = isinstance(part, Filter) and part.fluid == "petrol"
        found.append(
            Element(
                name=name,
                part=part,
                run=as_run(part) if isinstance(part, Run) else None,
                thickness=viscosity / fuels()["E0"].viscosity if petrol else 1.0,
                due=isinstance(part, Filter) and (part.due if due is None else due),
            )
        )
    return tuple(found)


class Section:
    """Parts in a row that the same flow passes, and the height [Pa] that they climb."""

    def __init__(self, parts: tuple[Element, ...], liquid: Liquid) -> None:
        self.parts, self.liquid = parts, liquid
        self.climb = pipe.head(liquid, sum(e.rise for e in parts))

    def loss(self, flow: Any, how: Arithmetic = ONE, factors: Factors = EXACT) -> Any:
        """Pressure [Pa] lost in them, height not counted."""
        lost = flow * 0.0
        for e in self.parts:
            lost = lost + e.loss(flow, self.liquid, how, factors)
        return lost

    def in_filters(self, flow: float) -> float:
        """What of that the filters take [Pa] at a flow [m3/s]."""
        return float(sum(e.loss(flow, self.liquid) for e in self.parts if isinstance(e.part, Filter)))

    def fastest(self, flow: float) -> float:
        """Highest speed [m/s] in any of its runs."""
        return max((e.run.velocity(flow) for e in self.parts if e.run), default=0.0)


class Network:
    """The path's hydraulics, made once for all states of the engine. `due` takes every filter as due or as clean."""

    def __init__(self, build: Build, due: bool | None = None) -> None:
        f, data = build.fuel, fuel_data(build.engine)
        cut = f.sections
        self.liquid = Liquid(data.density, data.viscosity)
        self.regulator, self.relief = f.regulator, f.pump.relief.si if f.pump.relief else None
        self.scheme, self.regulator_first = cut.scheme, cut.regulator_first
        self.above_plates, self.pressed = build.injectors.enters == "above_plates", _pressed(build)
        self.forward, self.between, self.back = (
            Section(elements(f, names, data.viscosity, due), self.liquid) for names in (cut.forward, cut.between, cut.back)
        )

    def mouth(self, manifold_pa: Any, how: Arithmetic = ONE) -> Any:
        """Pressure over ambient [Pa] into which the injectors spray: the manifold's, or above the plates that of the open air, or of a blower before them."""
        if not self.above_plates:
            return manifold_pa
        return how.larger(manifold_pa, 0.0) if self.pressed else manifold_pa * 0.0


def _pressed(build: Build) -> bool:
    """Whether a blower presses on the throttle plates from above; where it sits is taken so until it is told otherwise."""
    e = build.engine
    return bool(e.boost and e.boost.si > 0) and (e.blower is None or e.blower.sits != "after_throttle")


@dataclass(frozen=True, slots=True)
class Solved:
    """A solved state: what the pump does, the rail's gauge pressure [Pa], and what the pump could give at the pressure wanted [m3/s]."""

    point: OperatingPoint
    rail: float
    capacity: float


def without_relief(build: Build) -> Network:
    """The path for another pump than the one that is fitted: its relief valve is not that one's."""
    network = Network(build)
    network.relief = None
    return network


class Plumbing:
    """A network at one state of the engine: demand [m3/s], manifold less ambient pressure [Pa].

    With `how` MANY, demand, flows and factors are arrays of draws.
    """

    def __init__(
        self, network: Network, demand: Any, full_demand: float, manifold_pa: Any, how: Arithmetic = ONE, factors: Factors = EXACT
    ) -> None:
        self.net, self.how, self.factors, self.demand, self.manifold_pa = network, how, factors, demand, manifold_pa
        share = demand / full_demand if full_demand > 0 else 0.0
        droop = 1 - DROOP * how.smaller(share, 1.0) if network.scheme == "dead_head" else 1.0
        seen = network.regulator.reference
        follows = manifold_pa if seen == "manifold" else how.larger(manifold_pa, 0.0) if seen == "duct" else 0.0
        self.mouth_pa = network.mouth(manifold_pa, how)
        self.set_pa = how.larger(network.regulator.set_pressure.si * droop * factors.set_pressure + follows, 0.0)

    def spare(self, flow: Any) -> Any:
        """What comes back to the tank [m3/s]."""
        return flow * 0.0 if self.net.scheme == "dead_head" else self.how.larger(flow - self.demand, 0.0)

    def onward(self, flow: Any) -> Any:
        """What passes the parts between regulator and rail [m3/s]: the engine's share towards the rail, or the rest from it."""
        return self.how.smaller(flow, self.demand) if self.net.regulator_first else self.spare(flow)

    def across(self, section: Section, flow: Any) -> Any:
        """Loss and climb [Pa] over parts in a row."""
        return section.loss(flow, self.how, self.factors) + section.climb if section.parts else 0.0

    def return_pressure(self, flow: Any) -> Any:
        """Pressure that the way back needs, behind the regulator [Pa]."""
        return flow * 0.0 if self.net.scheme == "dead_head" else self.across(self.net.back, self.spare(flow))

    def regulator_open(self, flow: Any) -> Any:
        """Drop of the wide-open regulator [Pa]."""
        drop, rated = WIDE_OPEN_DROP
        return pipe.orifice_loss(drop, rated, self.spare(flow))

    def regulated(self, flow: Any) -> Any:
        """Pressure at the regulator's controlled side [Pa]: set, or what the return pushes back when it cannot carry the rest."""
        return self.how.larger(self.set_pa, self.return_pressure(flow) + self.regulator_open(flow))

    def rail(self, flow: Any) -> Any:
        """Gauge pressure at the rail [Pa] while the regulator is in charge."""
        towards = self.across(self.net.between, self.onward(flow))
        return self.regulated(flow) - towards if self.net.regulator_first else self.regulated(flow) + towards

    def pump_outlet(self, flow: Any) -> Any:
        """Gauge pressure that the pump must make to pass a flow [Pa]; rises with flow."""
        before = self.regulated(flow) if self.net.regulator_first else self.rail(flow)
        return before + self.across(self.net.forward, flow)

    def in_filters(self, flow: float) -> float:
        """Pressure [Pa] lost in filters from pump to rail."""
        return sum(section.in_filters(q) for section, q in self._forth(flow))

    def in_lines(self, flow: float) -> float:
        """Pressure [Pa] lost in all the rest from pump to rail, height not counted."""
        return sum(float(section.loss(q)) for section, q in self._forth(flow)) - self.in_filters(flow)

    def climb(self) -> float:
        """Pressure [Pa] that the height of the rail over the pump takes."""
        return sum(section.climb for section, _ in self._forth(0.0))

    def fastest_forth(self, flow: float) -> float:
        """Highest speed [m/s] from pump to rail."""
        return max(section.fastest(q) for section, q in self._forth(flow))

    def fastest_back(self, flow: float) -> float:
        """Highest speed [m/s] on the way back."""
        back = self.spare(flow)
        return max(self.net.back.fastest(back), 0.0 if self.net.regulator_first else self.net.between.fastest(back))

    def steepest(self, flow: float) -> str | None:
        """The run from pump to rail that loses most at a flow [m3/s]."""
        lost = [(e.loss(q, self.net.liquid), e.name) for section, q in self._forth(flow) for e in section.parts if e.run]
        return max(lost)[1] if lost else None

    def _forth(self, flow: float) -> list[tuple[Section, float]]:
        """Sections from pump to rail, with what passes them."""
        return [(self.net.forward, flow), *([(self.net.between, self.onward(flow))] if self.net.regulator_first else [])]

    def solve(self, fit: PumpFit, supply_volts: float, ohms: float, near: float | None = None) -> Solved:
        """The state solved, with `supply_volts` [V] at the head of the pump's wire, beginning from a flow `near` [m3/s].

        A pump that gives more than the engine takes holds the regulator's pressure. One that gives less shuts the regulator, and the rail
        sags until the injectors, open as long as before, pass what the pump gives: as an orifice, with the root of the pressure across them.
        `near` is a flow that may be close. A dead-head pump runs at demand, against what its own curve then gives or its relief lets through.
        """
        meets = operating_point(fit, supply_volts, ohms, self.pump_outlet, near)
        wire = Wired(fit, supply_volts, ohms)
        meets = self._relieved(meets, wire)
        if meets.flow < self.demand:
            return self._sagging(meets, wire)
        if self.net.scheme != "dead_head":
            return Solved(meets, self.rail(meets.flow), meets.flow)
        pressure = wire.pressure(self.demand)
        point = wire.at(self.demand, min(pressure, self.net.relief) if self.net.relief is not None else pressure)
        return Solved(point, self.rail(self.demand), meets.flow)

    def _relieved(self, meets: OperatingPoint, wire: Wired) -> OperatingPoint:
        """Where pump and system meet with the relief valve open, if it is: the system gets no more than what passes at the valve's pressure, the rest goes round."""
        relief = self.net.relief
        if relief is None or self.net.scheme == "dead_head" or meets.pressure <= relief:
            return meets

        def over(flow: float) -> float:
            return float(self.pump_outlet(flow) - relief)

        flow = float(brentq(over, 0.0, meets.flow, xtol=1e-13)) if over(0.0) < 0.0 else 0.0
        return wire.at(flow, relief)

    def _sagging(self, meets: OperatingPoint, wire: Wired) -> Solved:
        held, relief = self.rail(self.demand) - self.mouth_pa, self.net.relief

        def pressure(flow: float) -> float:
            return wire.pressure(flow) if relief is None else min(wire.pressure(flow), relief)

        def rail(flow: float) -> float:
            after = self.across(self.net.between, flow) if self.net.regulator_first else 0.0
            return float(pressure(flow) - self.across(self.net.forward, flow) - after)

        def surplus(flow: float) -> float:
            return float(rail(flow) - self.mouth_pa - max(held, 0.0) * (flow / self.demand) ** 2)

        flow = float(brentq(surplus, 0.0, self.demand, xtol=1e-13)) if surplus(0.0) > 0.0 > surplus(self.demand) else 0.0
        return Solved(wire.at(flow, pressure(flow)), max(rail(flow), 0.0), meets.flow)


@dataclass(frozen=True, slots=True)
class Wired:
    """A pump on its wire: V = V_s - R (d + e P) put into Q = a V - b P - c leaves a straight line of flow over pressure."""

    fit: PumpFit
    supply: float
    ohms: float

    @property
    def free(self) -> float:
        """Flow [m3/s] against no pressure."""
        return max(self.fit.a * (self.supply - self.ohms * self.fit.d) - self.fit.c, 0.0)

    def pressure(self, flow: float) -> float:
        """Pressure [Pa] that it makes at a flow; 0 past its free flow, or where its table falls by nothing."""
        slope = self.fit.b + self.fit.a * self.ohms * self.fit.e
        return max((self.free - flow) / slope, 0.0) if slope > 0 else 0.0

    def at(self, flow: float, pressure: float) -> OperatingPoint:
        """The point on its line: flow [m3/s], pressure [Pa gauge]."""
        current = self.fit.current(pressure)
        return OperatingPoint(flow, pressure, current, self.supply - current * self.ohms, 0.0)
