"""The fuel system looked at longer, on asking: every state with every battery and filter, the doubt of the margin, what to measure, what to change.

`evaluate` answers at once and leaves these out; they take some hundred solves.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from ...build import Build, apply_edit
from ...errors import BuildError
from ...figures import Result
from ...physics.pump import PumpFit, fit_pump
from ...reference import PumpData, pumps, wires
from ...units import si
from ...worked import Worked, work_out
from ..engine import fuel_data
from .plumbing import Plumbing, as_run, circuit_ohms, fitted
from .shopping import Item, shopping

Array = NDArray[np.float64]
StateName = Literal["full", "cruise", "idle", "hot_idle", "prime", "crank"]
VOLTS = (11.8, 12.4, 13.8)
CRUISE_SHARE = 0.18  # of full-power fuel, level road
DRAWS = 2000
#: Contacts of a pump circuit made new.
FRESH = [{"kind": "fuse_holder", "count": 1}, {"kind": "relay", "count": 1}, {"kind": "crimp", "count": 4}]
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


class Band(Result):
    """The margin at full power as a band: 5, 50 and 95 % of the draws, and the share of draws that hold."""

    low: float
    middle: float
    high: float
    enough: float
    draws: int
    heights: list[float]
    edges: list[float]


class Doubt(Result):
    """One input's doubt and how far it alone moves the margin, both ways."""

    pointer: str
    label: str
    doubt: str
    assumed: bool
    margin_low: float
    margin_high: float


class Advice(Result):
    """A change that was solved: what it does to the margin and to the findings, what it costs about, and the patch that makes it."""

    title: str
    why: str
    patch: list[dict[str, Any]]
    margin: float
    cleared: list[str]
    raised: list[str]
    stops: int
    hours: float
    cost: str


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
    margins = _margins(worked)
    return FuelDepth(
        cases=_cases(worked),
        band=_band(worked, margins),
        doubts=_doubts(worked, margins),
        advice=_advice(document, worked),
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


@dataclass(frozen=True, slots=True)
class _Input:
    """An uncertain input: where it is, its one-sigma doubt as a share, and how it is told."""

    key: str
    pointer: str
    label: str
    sigma: float


#: One-sigma doubts of values as stated; an assumed value is taken as twice as doubtful.
_INPUTS = (
    _Input("bsfc", "/engine/bsfc", "fuel used per unit of work", 0.05),
    _Input("flow", "/fuel/pump/curve", "the pump's flow against its sheet", 0.04),
    _Input("volts", "/wiring/feed", "volts at full power", 0.02),
    _Input("length", "/fuel/wire/length", "length of the pump's wire", 0.05),
    _Input("contacts", "/fuel/wire/contacts", "resistance of the contacts", 0.40),
    _Input("filter", "/fuel/filter", "drop of the filter", 0.25),
    _Input("bore", "/fuel/supply/bore", "true bore of the supply line", 0.03),
    _Input("fittings", "/fuel/supply/fittings", "losses of the fittings", 0.25),
    _Input("set", "/fuel/regulator/set_pressure", "the regulator's set pressure", 0.02),
)

Margins = Callable[[dict[str, Array]], Array]


def _sigma(w: Worked, item: _Input) -> float:
    assumed = bool(w.build.assumed_under(item.pointer)) or (item.key == "bsfc" and w.engine.bsfc_assumed)
    return item.sigma * (2 if assumed else 1)


def _margins(w: Worked) -> Margins:
    """Margin at full power for arrays of factors on each input: the operating point solved by halving, all draws at once."""
    f = w.build.fuel
    fit, run, liquid = fitted(w.build), as_run(f.supply), fuel_data(w.build.engine)
    system = Plumbing(w.build, w.fuel.need_m3_s, w.fuel.need_m3_s, 0.0)
    copper = circuit_ohms(w.build.model_copy(update={"fuel": f.model_copy(update={"wire": f.wire.model_copy(update={"contacts": []})})}))
    joints = circuit_ohms(w.build) - copper

    def solve(factor: dict[str, Array]) -> Array:
        one = np.ones_like(next(iter(factor.values())))
        k = {item.key: factor.get(item.key, one) for item in _INPUTS}
        ohms = copper * k["length"] + joints * k["contacts"]
        supply, set_pa, bore = 13.8 * k["volts"], system.set_pa * k["set"], run.bore * k["bore"]
        area = np.pi * bore**2 / 4
        need = w.fuel.need_m3_s * k["bsfc"]
        through = 0.0 if f.scheme == "tank_regulator" else 1.0

        def outlet(q: Array) -> Array:
            spare = 0.0 if f.scheme == "dead_head" else np.maximum(q - need, 0.0)
            back = (w.fuel.points["full"].return_pressure_pa + w.fuel.points["full"].regulator_open_pa) * (
                spare / max(w.fuel.points["full"].flow_m3_s - w.fuel.need_m3_s, 1e-9)
            ) ** 1.8
            v = q / area
            re = np.maximum(liquid.density * v * bore / liquid.viscosity, 1e-6)
            a = (2.457 * np.log(1 / ((7 / re) ** 0.9 + 0.27 * run.roughness / bore))) ** 16
            friction = 8 * ((8 / re) ** 12 + 1 / (a + (37530 / re) ** 16) ** 1.5) ** (1 / 12)
            line = (friction * run.length / bore + run.k_sum * k["fittings"]) * liquid.density * v**2 / 2
            drop = system.filter_drop(1.0) * q * k["filter"]
            return np.asarray(np.maximum(set_pa, back) + through * (line + system.lift_head()) + drop, dtype=np.float64)

        low, high = np.zeros_like(one), one * max(fit.flow(16.0, 0.0), 1e-9) * 1.3
        for _ in range(40):
            q = (low + high) / 2
            pressure = outlet(q)
            given = k["flow"] * (fit.a * (supply - ohms * (fit.d + fit.e * pressure)) - fit.b * pressure - fit.c)
            low, high = np.where(given > q, q, low), np.where(given > q, high, q)
        return np.asarray((low + high) / 2 / need, dtype=np.float64)

    return solve


def _band(w: Worked, margins: Margins) -> Band:
    """The margin over draws of all inputs at once; a fixed seed, so that the same build gives the same band."""
    draw = np.random.default_rng(20)
    factors = {item.key: np.maximum(1 + _sigma(w, item) * draw.standard_normal(DRAWS), 0.05) for item in _INPUTS}
    found = margins(factors)
    low, middle, high = (float(v) for v in np.percentile(found, [5, 50, 95]))
    heights, edges = np.histogram(found, bins=24)
    return Band(
        low=low, middle=middle, high=high, enough=float(np.mean(found >= w.build.fuel.design_margin.si)), draws=DRAWS,
        heights=(heights / heights.max()).tolist(), edges=edges.tolist(),
    )  # fmt: skip


def _doubts(w: Worked, margins: Margins) -> list[Doubt]:
    """Each input moved by its own doubt both ways, the others still; the one that moves the margin most first."""
    rows = []
    for item in _INPUTS:
        sigma = _sigma(w, item)
        ends = margins({item.key: np.array([max(1 - sigma, 0.05), 1 + sigma])})
        rows.append(
            Doubt(
                pointer=item.pointer,
                label=item.label,
                doubt=f"± {sigma * 100:.0f} %",
                assumed=sigma > item.sigma,
                margin_low=float(ends.min()),
                margin_high=float(ends.max()),
            )
        )
    return sorted(rows, key=lambda d: d.margin_low - d.margin_high)


@dataclass(frozen=True, slots=True)
class _Change:
    title: str
    patch: list[dict[str, Any]]
    hours: float
    cost: str


def _candidates(w: Worked) -> list[_Change]:
    """Changes that could help, from the cheapest to the dearest: wire, filter, lines, regulator's place, pump's place, another pump."""
    f = w.build.fuel

    def put(path: str, value: Any) -> dict[str, Any]:
        return {"op": "add", "path": path, "value": value}

    found = [
        _Change(f"Wire to the pump {size * 1e6:g} mm²", [put("/fuel/wire/size", f"{size * 1e6:g} mm2")], 2.0, "low")
        for size in _larger(f.wire.size.si, [x.area for x in wires()])[:3]
    ]
    aged = [c for c in f.wire.contacts if c.kind == "aged_crimp" and c.count]
    if aged or not any(c.kind == "relay" and c.count for c in f.wire.contacts):
        found.append(_Change("A relay near the pump and fresh crimps", [put("/fuel/wire/contacts", FRESH)], 2.0, "low"))
        found.append(
            _Change(
                "A relay, fresh crimps and 4 mm² from the battery",
                [put("/fuel/wire/contacts", FRESH), put("/fuel/wire/size", "4 mm2")],
                3.0,
                "low",
            )
        )
    if f.filter.due:
        found.append(_Change("A new fine filter", [put("/fuel/filter/due", False)], 0.5, "low"))
    if f.filter.fineness.si > 25e-6:
        found.append(_Change("A filter of 10 µm", [put("/fuel/filter/fineness", "10 um"), put("/fuel/filter/due", False)], 0.5, "low"))
    for name, at, line in (("Supply", "/fuel/supply", f.supply), ("Return", "/fuel/return_line", f.return_line)):
        for bore in _larger(line.bore.si, [x * 1e-3 for x in (4.8, 6.3, 7.9, 9.5, 12.7)])[:2]:
            found.append(
                _Change(
                    f"{name} line {bore * 1e3:.1f} mm in steel tube",
                    [
                        put(f"{at}/bore", f"{bore * 1e3:.1f} mm"),
                        put(f"{at}/material", "steel_tube"),
                        put(f"{at}/clamps", "flared_or_crimped"),
                    ],
                    5.0,
                    "middle",
                )
            )
        if line.material not in ("steel_tube", "copper_nickel_tube"):
            found.append(
                _Change(
                    f"{name} line as it runs, in steel tube",
                    [put(f"{at}/material", "steel_tube"), put(f"{at}/clamps", "flared_or_crimped")],
                    4.0,
                    "middle",
                )
            )
        if line.exhaust_distance is not None and line.exhaust_distance.si < 0.1:
            found.append(_Change(f"{name} line moved to 120 mm from the exhaust", [put(f"{at}/exhaust_distance", "120 mm")], 2.0, "low"))
    if f.pump.control == "key":
        found.append(_Change("Pump switched by the control unit", [put("/fuel/pump/control", "control_unit")], 2.0, "low"))
    if f.tank.return_enters == "above_fuel":
        found.append(_Change("A drop tube in the tank", [put("/fuel/tank/return_enters", "drop_tube")], 2.0, "low"))
    if f.pump.place == "external":
        head = [put("/fuel/tank/head", "0.05 m")] if f.tank.head.si < 0 else []
        if head:
            found.append(_Change("Pump moved below the tank's outlet", head, 3.0, "low"))
    if f.scheme == "return":
        found.append(
            _Change(
                "Regulator at the tank, one line forward",
                [put("/fuel/scheme", "tank_regulator"), put("/fuel/regulator/reference", "open_air")],
                5.0,
                "middle",
            )
        )
    found += [_Change(f"Pump from the shelf: {pump.name}", _pump_patch(w, pump), 5.0, "high") for pump in _better(w)]
    if w.fuel.margin_full < f.design_margin.si:
        bore = max([f.supply.bore.si * 1e3, 7.9])
        line = [
            put("/fuel/supply/bore", f"{bore:.1f} mm"),
            put("/fuel/supply/material", "steel_tube"),
            put("/fuel/supply/clamps", "flared_or_crimped"),
        ]
        wire = [put("/fuel/wire/contacts", FRESH), put("/fuel/wire/size", "4 mm2")]
        found += [
            _Change(
                f"{pump.name} from the shelf, supply line {bore:.1f} mm, 4 mm² wire with a relay",
                [*_pump_patch(w, pump), *line, *wire],
                11.0,
                "high",
            )
            for pump in _better(w)[:1]
        ]
    return found


def _larger(now: float, sizes: list[float]) -> list[float]:
    return [s for s in sizes if s > now * 1.02]


def _pump_patch(w: Worked, pump: PumpData) -> list[dict[str, Any]]:
    patch: list[dict[str, Any]] = [
        {"op": "add", "path": "/fuel/pump/curve", "value": pump.table()},
        {"op": "add", "path": "/fuel/pump/name", "value": pump.name},
        {"op": "add", "path": "/fuel/pump/place", "value": "in_tank"},
    ]
    known = w.build.fuel.pump
    patch.extend(
        {"op": "remove", "path": f"/fuel/pump/{key}"} for key in ("inlet_bore", "outlet_bore", "relief") if getattr(known, key) is not None
    )
    return patch


def _better(w: Worked) -> list[PumpData]:
    """Shelf pumps that give more than the one fitted, at the pressure it works at."""
    pressure = w.fuel.points["full"].pump_pressure_pa
    here = fitted(w.build).flow(13.4, pressure)
    return [p for p in pumps() if _fit(p).flow(13.4, pressure) > here * 1.05][:2]


def _fit(pump: PumpData) -> PumpFit:
    rows = pump.table()
    return fit_pump(
        [
            (si(r["voltage"], "voltage"), si(r["pressure"], "pressure"), si(r["flow"], "volume flow"), si(r["current"], "current"))
            for r in rows
        ]
    )


def _advice(document: dict[str, Any], w: Worked) -> list[Advice]:
    """Every candidate solved as a whole build. What clears nothing and adds no margin that is wanted is left out."""
    from ...findings import judge  # the catalogue imports the stages; here, on asking, it may be looked into
    from ...worked import figures

    def open_codes(worked: Worked) -> dict[str, int]:
        """The worst that each code says, as a rank: 0 a Stop, 2 a Watch."""
        ranks = ("stop", "sort_out", "watch")
        found: dict[str, int] = {}
        for x in judge(worked, figures(worked)):
            if x.severity in ranks:
                found[x.code] = min(found.get(x.code, 9), ranks.index(x.severity))
        return found

    before = open_codes(w)
    wanted = w.build.fuel.design_margin.si
    found = []
    for change in _candidates(w):
        try:
            after = work_out(apply_edit(document, change.patch)[2])
        except BuildError:
            continue
        now = open_codes(after)
        cleared = sorted(code for code in before if code not in now and code.startswith("FUEL"))
        eased = sorted(code for code in before if code in now and now[code] > before[code] and code.startswith("FUEL"))
        worse = sorted(code for code in now if now[code] < before.get(code, 9))
        short = w.fuel.margin_full < wanted
        if not cleared and not eased and not (short and after.fuel.margin_full > w.fuel.margin_full * 1.03):
            continue
        told = (
            [f"margin {w.fuel.margin_full:.2f} → {after.fuel.margin_full:.2f}"]
            if abs(after.fuel.margin_full / w.fuel.margin_full - 1) > 0.005
            else []
        )
        told += [f"clears {', '.join(cleared)}"] if cleared else []
        told += [f"eases {', '.join(eased)}"] if eased else []
        told += [f"{'worsens' if code in before else 'brings'} {code}" for code in worse]
        found.append(
            Advice(
                title=change.title, why="; ".join(told), patch=change.patch, margin=after.fuel.margin_full, cleared=cleared, raised=worse,
                stops=sum(rank == 0 for rank in now.values()), hours=change.hours, cost=change.cost,
            )
        )  # fmt: skip
    rank = {"low": 0, "middle": 1, "high": 2}
    enough = [min(a.margin, wanted) for a in found]
    order = sorted(
        range(len(found)),
        key=lambda i: (
            found[i].stops,
            len(found[i].raised),
            -round(enough[i], 2),
            rank[found[i].cost],
            -len(found[i].cleared),
            found[i].hours,
        ),
    )
    return [found[i] for i in order]


def _shelf(w: Worked) -> list[ShelfPump]:
    """The pump fitted and those on the shelf, on this car's wire and lines at full power."""
    need = w.fuel.need_m3_s
    ohms = circuit_ohms(w.build)
    system = Plumbing(w.build, need, need, 0.0)
    rows = []
    for name, fit, mine in [(w.build.fuel.pump.name, fitted(w.build), True), *((p.name, _fit(p), False) for p in pumps())]:
        solved = system.solve(fit, 13.8, ohms)
        slope = fit.b + fit.a * ohms * fit.e
        free = max(fit.a * (13.8 - ohms * fit.d) - fit.c, 0.0)
        curve = [(q * LH, (free - q) / slope / 1e3) for q in np.linspace(0, free, 9).tolist()] if slope > 0 else []
        rows.append(
            ShelfPump(
                name=name, mine=mine, margin=solved.capacity / need, current_a=solved.point.current, residual=fit.residual,
                past_table=solved.point.pressure > 1.2 * fit.highest_pressure, curve=curve,
            )
        )  # fmt: skip
    return rows
