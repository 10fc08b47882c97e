"""The fuel system looked at longer, on asking: every state with every battery and filter, what to measure, what to change.

`evaluate` answers at once and leaves these out; they take some hundred solves.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ...figures import Result
from ...given import Build
from ...reference import pumps
from ...worked import Worked, work_out
from . import STATES, SUPPLY_VOLTS, StateName, demands
from .advice import Advice, advice_on, shelf_fit
from .doubt import Doubt, Margins, Shape, shape_of
from .plumbing import Network, Plumbing, Wired, circuit_ohms, fit_sheet, fitted
from .shopping import Item, shopping

VOLTS = (11.8, 12.4, 13.8)
LH = 3.6e6


class Case(Result):
    """One solved state: flows, pressures gauge, what the pump draws."""

    state: StateName
    volts: float
    filter_due: bool
    flow_m3_s: float
    capacity_m3_s: float
    demand_m3_s: float
    pump_pressure_pa: float
    rail_pressure_pa: float
    across_pa: float
    return_pressure_pa: float
    current_a: float
    pump_volts: float
    velocity_m_s: float
    holds: bool


class ShelfPump(Result):
    """A pump held against this car's own system at full power, on this car's own wire."""

    name: str
    mine: bool
    margin: float
    current_a: float
    residual: float
    past_table: bool
    curve: list[tuple[float, float]]  # (flow L/h, pressure kPa)


class FuelDepth(Result):
    cases: list[Case]
    shape: Shape
    doubts: list[Doubt]
    advice: list[Advice]
    shelf: list[ShelfPump]
    shopping: list[Item]


def look_deeper(document: dict[str, Any], build: Build) -> FuelDepth:
    """Everything above, from a document and its build."""
    w = work_out(build)
    full = w.fuel.points["full"]
    boost = full.rail_pressure_pa - full.across_pa
    margins = Margins(
        build, Network(build), fitted(build), w.fuel.need_m3_s, full.capacity_m3_s, boost, full.supply_volts, w.engine.bsfc_assumed
    )
    return FuelDepth(
        cases=cases(w),
        shape=shape_of(margins.drawn()),
        doubts=margins.doubts(),
        advice=advice_on(document, w),
        shelf=_shelf(w),
        shopping=shopping(build),
    )


def cases(w: Worked) -> list[Case]:
    """All states at all volts with clean and due filters. The starter turns at one voltage only."""
    build, need = w.build, w.fuel.need_m3_s
    fit, ohms = fitted(build), circuit_ohms(build)
    networks = {due: Network(build, due) for due in (False, True)}
    rows = []
    for state, (demand, manifold) in demands(build, w.engine, need).items():
        for due in (False, True):
            system = Plumbing(networks[due], demand, need, manifold)
            for volts in (SUPPLY_VOLTS["crank"],) if state == "crank" else VOLTS:
                solved = system.solve(fit, volts, ohms)
                at = solved.point
                rows.append(
                    Case(
                        state=state, volts=volts, filter_due=due, flow_m3_s=at.flow, capacity_m3_s=solved.capacity, demand_m3_s=demand, pump_pressure_pa=at.pressure,
                        rail_pressure_pa=solved.rail, across_pa=solved.rail - manifold, return_pressure_pa=system.return_pressure(at.flow),
                        current_a=at.current, pump_volts=at.volts, velocity_m_s=system.fastest_forth(at.flow), holds=solved.capacity >= demand,
                    )
                )  # fmt: skip
    return sorted(rows, key=lambda c: STATES.index(c.state))


def _shelf(w: Worked) -> list[ShelfPump]:
    """The pump fitted, those to compare and those on the shelf, on this car's wire and lines at full power."""
    need = w.fuel.need_m3_s
    ohms = circuit_ohms(w.build)
    system = Plumbing(Network(w.build), need, need, demands(w.build, w.engine, need)["full"][1])
    volts = w.fuel.points["full"].supply_volts
    rows = []
    f = w.build.fuel
    mine_and_others = [(f.pump.name, fitted(w.build), True), *((c.name, fit_sheet(c), False) for c in f.candidates)]
    for name, fit, mine in [*mine_and_others, *((p.name, shelf_fit(p), False) for p in pumps())]:
        solved, pump = system.solve(fit, volts, ohms), Wired(fit, volts, ohms)
        rows.append(
            ShelfPump(
                name=name, mine=mine, margin=solved.capacity / need, current_a=solved.point.current, residual=fit.residual,
                past_table=solved.point.pressure > 1.2 * fit.highest_pressure,
                curve=[(q * LH, pump.pressure(q) / 1e3) for q in np.linspace(0, pump.free, 9).tolist()],
            )
        )  # fmt: skip
    return rows
