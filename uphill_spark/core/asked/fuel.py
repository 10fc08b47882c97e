"""The fuel system looked at longer, on asking: every state with every battery and filter, what to measure, what to change.

`evaluate` answers at once and leaves these out; they take some hundred solves.
"""

from __future__ import annotations

import numpy as np

from ..circuit.states import CHARGING_V, REST_V, TIRED_V
from ..figures import Result
from ..reference import pumps
from ..stages.fuel import posts, pump_feeds
from ..stages.fuel.demand import STATES, StateName, demands
from ..stages.fuel.doubt import Doubt, Shape, margins, shape_of
from ..stages.fuel.plumbing import Network, Plumbing, Wired, fit_sheet, without_relief
from ..stages.fuel.shopping import Item, shopping
from ..worked import Worked
from .advice import Advice, advice_on, shelf_fit
from .trial import Trial

#: Volts at the posts: a tired battery, one at rest, one that is charged.
VOLTS = (TIRED_V, REST_V, CHARGING_V)


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
    curve: list[tuple[float, float]]  # (flow m3/s, pressure Pa)


class FuelDepth(Result):
    """What the fuel station works out on asking: cases, the shape of the doubt, what to measure first, the shelf."""

    cases: list[Case]
    shape: Shape
    doubts: list[Doubt]
    advice: list[Advice]
    shelf: list[ShelfPump]
    shopping: list[Item]


def look_deeper(trial: Trial) -> FuelDepth:
    """Everything above, for a build as it stands."""
    w = trial.worked
    doubtful = margins(w.build, w.engine, w.circuit, w.fuel)
    return FuelDepth(
        cases=cases(w), shape=shape_of(doubtful.drawn()), doubts=doubtful.doubts(), advice=advice_on(trial), shelf=_shelf(w), shopping=shopping(w.build)
    )  # fmt: skip


def cases(w: Worked) -> list[Case]:
    """All states at all volts with clean and due filters. The starter turns at one voltage only."""
    build, need, fit, feeds = w.build, w.fuel.need_m3_s, w.circuit.fit, pump_feeds(w.circuit)
    networks = {due: Network(build, due) for due in (False, True)}
    rows = []
    for state, (demand, manifold) in demands(build, w.engine).items():
        for due in (False, True):
            system = Plumbing(networks[due], demand, need, manifold)
            for volts in (posts(w.circuit, "crank"),) if state == "crank" else VOLTS:
                solved = system.solve(fit, feeds[state].volts + volts - posts(w.circuit, state), feeds[state].ohms)
                at = solved.point
                rows.append(
                    Case(
                        state=state, volts=volts, filter_due=due, flow_m3_s=at.flow, capacity_m3_s=solved.capacity, demand_m3_s=demand, pump_pressure_pa=at.pressure,
                        rail_pressure_pa=solved.rail, across_pa=solved.rail - system.mouth_pa, return_pressure_pa=system.return_pressure(at.flow),
                        current_a=at.current, pump_volts=at.volts, velocity_m_s=system.fastest_forth(at.flow), holds=solved.capacity >= demand,
                    )
                )  # fmt: skip
    return sorted(rows, key=lambda c: STATES.index(c.state))


def _shelf(w: Worked) -> list[ShelfPump]:
    """The pump fitted, those to compare and those on the shelf, on this car's wire and lines at full power."""
    need = w.fuel.need_m3_s
    feed = pump_feeds(w.circuit)["full"]
    volts, ohms = feed.volts, feed.ohms
    boost = demands(w.build, w.engine)["full"][1]
    own, others = Plumbing(w.circuit.pipes, need, need, boost), Plumbing(without_relief(w.build), need, need, boost)
    rows = []
    f = w.build.fuel
    mine_and_others = [(f.pump.name, w.circuit.fit, True), *((c.name, fit_sheet(c), False) for c in f.candidates)]
    for name, fit, mine in [*mine_and_others, *((p.name, shelf_fit(p), False) for p in pumps())]:
        solved, pump = (own if mine else others).solve(fit, volts, ohms), Wired(fit, volts, ohms)
        rows.append(
            ShelfPump(
                name=name, mine=mine, margin=solved.capacity / need, current_a=solved.point.current, residual=fit.residual,
                past_table=solved.point.pressure > 1.2 * fit.highest_pressure,
                curve=[(q, pump.pressure(q)) for q in np.linspace(0, pump.free, 9).tolist()],
            )
        )  # fmt: skip
    return rows
