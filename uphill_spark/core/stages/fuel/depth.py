"""The fuel system looked at longer, on asking: every state with every battery and filter, the doubt of the margin, what to measure, what to change.

`evaluate` answers at once and leaves these out; they take some hundred solves.
"""

from __future__ import annotations

from typing import Any, Literal

import numpy as np

from ...build import Build
from ...figures import Result
from ...reference import pumps
from ...worked import Worked, work_out
from .advice import Advice, advice_on, shelf_fit
from .doubt import Band, Doubt, band_of, doubts_of, margins_of
from .plumbing import Plumbing, circuit_ohms, fitted
from .shopping import Item, shopping

StateName = Literal["full", "cruise", "idle", "hot_idle", "prime", "crank"]
VOLTS = (11.8, 12.4, 13.8)
CRUISE_SHARE = 0.18  # of full-power fuel, level road
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
    band: Band
    doubts: list[Doubt]
    advice: list[Advice]
    shelf: list[ShelfPump]
    shopping: list[Item]


def look_deeper(document: dict[str, Any], build: Build) -> FuelDepth:
    """Everything above, from a document and its build."""
    worked = work_out(build)
    margins = margins_of(worked)
    return FuelDepth(
        cases=_cases(worked),
        band=band_of(worked, margins),
        doubts=doubts_of(worked, margins),
        advice=advice_on(document, worked),
        shelf=_shelf(worked),
        shopping=shopping(build),
    )


def _cases(w: Worked) -> list[Case]:
    """All states at all volts with a clean and a due filter."""
    build, need = w.build, w.fuel.need_m3_s
    idle = w.fuel.points["idle"].demand_m3_s
    vacuum = w.engine.idle_manifold_pressure_pa - w.engine.ambient_pressure_pa
    states: tuple[tuple[StateName, float, float], ...] = (
        ("full", need, 0.0), ("cruise", need * CRUISE_SHARE, vacuum * 0.7), ("idle", idle, vacuum), ("hot_idle", idle * 1.2, vacuum * 0.9), ("prime", 0.0, 0.0),
        ("crank", w.fuel.points["crank"].demand_m3_s, 0.0),
    )  # fmt: skip
    fit, ohms = fitted(build), circuit_ohms(build)
    rows = []
    for state, demand, manifold in states:
        for due in (False, True):
            system = Plumbing(build, demand, need, manifold, due=due)
            for volts in (10.0,) if state == "crank" else VOLTS:
                solved = system.solve(fit, volts, ohms)
                at = solved.point
                rows.append(
                    Case(
                        state=state, volts=volts, filter_due=due, flow_m3_s=at.flow, capacity_m3_s=solved.capacity, demand_m3_s=demand, pump_pressure_pa=at.pressure,
                        rail_pressure_pa=system.rail(at.flow), across_pa=system.rail(at.flow) - manifold, return_pressure_pa=system.return_pressure(at.flow),
                        current_a=at.current, pump_volts=at.volts, velocity_m_s=system.supply.velocity(system.in_supply(at.flow)), holds=solved.capacity >= demand,
                    )
                )  # fmt: skip
    return rows


def _shelf(w: Worked) -> list[ShelfPump]:
    """The pump fitted and those on the shelf, on this car's wire and lines at full power."""
    need = w.fuel.need_m3_s
    ohms = circuit_ohms(w.build)
    system = Plumbing(w.build, need, need, 0.0)
    volts = w.fuel.points["full"].supply_volts
    rows = []
    for name, fit, mine in [(w.build.fuel.pump.name, fitted(w.build), True), *((p.name, shelf_fit(p), False) for p in pumps())]:
        solved = system.solve(fit, volts, ohms)
        slope = fit.b + fit.a * ohms * fit.e
        free = max(fit.a * (volts - ohms * fit.d) - fit.c, 0.0)
        curve = [(q * LH, (free - q) / slope / 1e3) for q in np.linspace(0, free, 9).tolist()] if slope > 0 else []
        rows.append(
            ShelfPump(
                name=name, mine=mine, margin=solved.capacity / need, current_a=solved.point.current, residual=fit.residual,
                past_table=solved.point.pressure > 1.2 * fit.highest_pressure, curve=curve,
            )
        )  # fmt: skip
    return rows
