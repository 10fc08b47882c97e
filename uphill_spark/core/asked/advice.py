"""Advice: changes that could help, each solved as a whole build, ranked."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from ..circuit.netlist import pump_wires
from ..figures import Result
from ..findings import Finding
from ..findings.fuel_system import COARSE, FINE
from ..given.edit import Patch, put, take_out
from ..given.fuel import Run
from ..physics.pump import PumpFit, fit_pump
from ..reference import PumpData, pumps, tube_bores, wires
from ..stages.fuel.paths import placed, restrung
from ..stages.fuel.plumbing import fitted
from ..units import si
from ..worked import Worked
from .trial import Trial, Tried

Cost = Literal["low", "middle", "high"]
COSTS: tuple[Cost, ...] = ("low", "middle", "high")
_RANKS = ("stop", "sort_out", "watch")

#: Contacts of a pump wire made new.
FRESH = [{"kind": "crimp", "count": 2}]
VOLTS = 13.4  # V at which shelf pumps are held against the one fitted
LEAST_BORE = 4.8e-3  # m, the narrowest that is offered
METAL = ("steel_tube", "copper_nickel_tube")


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


@dataclass(frozen=True, slots=True)
class Change:
    """A change that could be made: the patch that makes it, hours it usually takes, and about what it costs."""

    title: str
    patch: Patch
    hours: float
    cost: Cost


@dataclass(frozen=True, slots=True)
class Effect:
    """What a change does once it is solved: margin at full power, codes cleared, eased, and brought or worsened, Stops left."""

    margin: float
    cleared: list[str]
    eased: list[str]
    raised: list[str]
    stops: int
    told: str


def advice_on(trial: Trial) -> list[Advice]:
    """Every candidate solved as a whole build, the best first. What clears nothing and adds no margin that is wanted is left out."""
    w = trial.worked
    wanted, now, before = w.build.fuel.design_margin.si, w.fuel.margin_full, _open(trial.findings)
    found: list[tuple[Change, Effect]] = []
    for change in _candidates(w):
        tried = trial.attempt(change.patch, drawn=False)
        if isinstance(tried, str):
            continue
        effect = _effect(w, before, tried)
        if effect.cleared or effect.eased or (now < wanted and effect.margin > now * 1.03):
            found.append((change, effect))
    found.sort(
        key=lambda x: (x[1].stops, len(x[1].raised), -round(min(x[1].margin, wanted), 2), COSTS.index(x[0].cost), -len(x[1].cleared), x[0].hours)
    )  # fmt: skip
    return [
        Advice(
            title=c.title, why=e.told, patch=c.patch, margin=e.margin, cleared=e.cleared, raised=e.raised, stops=e.stops, hours=c.hours, cost=c.cost
        )
        for c, e in found
    ]  # fmt: skip


def _effect(w: Worked, before: dict[str, int], tried: Tried) -> Effect:
    now = _open(tried.findings)
    cleared = sorted(code for code in before if code not in now and code.startswith("FUEL"))
    eased = sorted(code for code in before if code in now and now[code] > before[code] and code.startswith("FUEL"))
    worse = sorted(code for code in now if now[code] < before.get(code, 9))
    old, new = w.fuel.margin_full, tried.worked.fuel.margin_full
    told = [f"margin {old:.2f} → {new:.2f}"] if abs(new - old) > 0.005 * max(old, new) else []
    told += [f"clears {', '.join(cleared)}"] if cleared else []
    told += [f"eases {', '.join(eased)}"] if eased else []
    told += [f"{'worsens' if code in before else 'brings'} {code}" for code in worse]
    return Effect(
        margin=new, cleared=cleared, eased=eased, raised=worse, stops=sum(rank == 0 for rank in now.values()), told="; ".join(told)
    )


def _open(findings: list[Finding]) -> dict[str, int]:
    """The worst that each code says, as a rank: 0 a Stop, 2 a Watch."""
    found: dict[str, int] = {}
    for x in findings:
        if x.severity in _RANKS:
            found[x.code] = min(found.get(x.code, 9), _RANKS.index(x.severity))
    return found


def _candidates(w: Worked) -> list[Change]:
    """Changes that could help, from the cheapest to the dearest: wire, filters, lines, regulator's place, pump's place, another pump."""
    f = w.build.fuel
    cut = f.sections
    found = [*_wiring(w), *_filters(w)]
    for name, names in (("Supply", cut.to_rail), ("Return", cut.from_rail)):
        found += _lines(name, f.runs(names))
    found += _near_exhaust(f.runs((*cut.suction, *cut.to_rail, *cut.from_rail)))
    if f.pump.control == "key":
        found.append(Change("Pump switched by the control unit", [put("/fuel/pump/control", "control_unit")], 2.0, "low"))
    if f.tank.return_enters == "above_fuel":
        found.append(Change("A drop tube in the tank", [put("/fuel/tank/return_enters", "drop_tube")], 2.0, "low"))
    if f.lift and cut.ends == "tank":
        found.append(Change("Return led back to the surge tank", [put(f"/fuel/path/{len(f.path) - 1}", "surge_tank"),
                            take_out(f"/fuel/path/{len(f.path)}")], 2.0, "low"))  # fmt: skip
    found += _suction(w)
    if f.scheme == "return":
        found.append(
            Change(
                "Regulator at the tank, one line forward",
                [*restrung(f, "tank_regulator"), put("/fuel/regulator/reference", "open_air")],
                5.0,
                "middle",
            )
        )
    for choice in f.candidates:
        price = f", {choice.price}" if choice.price else ""
        rows = [row.model_dump() for row in choice.curve]
        found.append(Change(f"Pump to compare: {choice.name}{price}", _pump_patch(w, choice.name, rows), 5.0, "high"))
    better = _better(w)
    found += [Change(f"Pump from the shelf: {pump.name}", _pump_patch(w, pump.name, pump.table()), 5.0, "high") for pump in better]
    if better and w.fuel.margin_full < f.design_margin.si:
        runs = f.runs(cut.to_rail)
        bore = max([0.0079, *(run.bore.si for run in runs.values())])
        patch = [op for name, run in runs.items() for op in _tube(name, max(bore, run.bore.si))]
        title = f"{better[0].name} from the shelf, supply line {bore * 1e3:.1f} mm, 4 mm² wire"
        found.append(Change(title, [*_pump_patch(w, better[0].name, better[0].table()), *patch, *_thicker(w, 4e-6)], 11.0, "high"))
    return found


def _wiring(w: Worked) -> list[Change]:
    fitted_wires = w.build.wiring.fitted
    thinnest = min(w.circuit.made[key].area_m2 for key in pump_wires(w.build))
    found = [
        Change(f"Wire to the pump {size * 1e6:g} mm²", _thicker(w, size), 2.0, "low")
        for size in _larger(thinnest, [x.area for x in wires()])[:3]
    ]
    if any(
        j.kind == "aged_crimp" and j.count for key in pump_wires(w.build) if key in fitted_wires for j in fitted_wires[key].joints or []
    ):
        found.append(Change("Fresh crimps in the pump's circuit", _fresh(w), 2.0, "low"))
        found.append(Change("Fresh crimps and 4 mm² from the battery", [*_fresh(w), *_thicker(w, 4e-6)], 3.0, "low"))
    return found


def _fitted(w: Worked, key: str, name: str, value: Any) -> Patch:
    """A value of a wire as fitted, the wire's entry made where there is none."""
    if key in w.build.wiring.fitted:
        return [put(f"/wiring/fitted/{key}/{name}", value)]
    return [put(f"/wiring/fitted/{key}", {name: value})]


def _thicker(w: Worked, size: float) -> Patch:
    """The pump's wires of a size, those that are thicker left."""
    return [
        op for key in pump_wires(w.build) if w.circuit.made[key].area_m2 < size for op in _fitted(w, key, "size", f"{size * 1e6:g} mm2")
    ]


def _fresh(w: Worked) -> Patch:
    return [
        op
        for key in pump_wires(w.build)
        if key in w.build.wiring.fitted and w.build.wiring.fitted[key].joints
        for op in _fitted(w, key, "joints", FRESH)
    ]


def _filters(w: Worked) -> list[Change]:
    f = w.build.fuel
    found = []
    for name, part in f.filters(f.sections.to_rail).items():
        at = f"/fuel/parts/{name}"
        if part.due:
            found.append(Change("A new fine filter", [put(f"{at}/due", False)], 0.5, "low"))
        if part.fineness.si > FINE:
            found.append(Change("A filter of 10 µm", [put(f"{at}/fineness", "10 um"), put(f"{at}/due", False)], 0.5, "low"))
    for name, part in f.filters(f.sections.suction).items():
        if part.fineness.si < COARSE:
            at = f"/fuel/parts/{name}"
            coarse = [put(f"{at}/fineness", "100 um"), put(f"{at}/pressure_drop", "1 kPa"), put(f"{at}/at_flow", "150 L/h")]
            found.append(Change("A strainer of 100 µm before the pump", coarse, 1.0, "low"))
    return found


def _tube(name: str, bore: float | None = None) -> Patch:
    """A run in steel tube, of another bore if one is given."""
    at = f"/fuel/parts/{name}"
    wider = [put(f"{at}/bore", f"{bore * 1e3:.1f} mm")] if bore else []
    return [*wider, put(f"{at}/material", "steel_tube"), put(f"{at}/clamps", "flared_or_crimped")]


def _lines(what: str, runs: dict[str, Run]) -> list[Change]:
    if not runs:
        return []
    found = []
    for bore in _larger(min(run.bore.si for run in runs.values()), [b for b in tube_bores() if b >= LEAST_BORE])[:2]:
        patch = [op for name, run in runs.items() if run.bore.si < bore for op in _tube(name, bore)]
        found.append(Change(f"{what} line {bore * 1e3:.1f} mm in steel tube", patch, 5.0, "middle"))
    soft = [name for name, run in runs.items() if run.material not in METAL]
    if soft:
        found.append(Change(f"{what} line as it runs, in steel tube", [op for name in soft for op in _tube(name)], 4.0, "middle"))
    return found


def _near_exhaust(runs: dict[str, Run]) -> list[Change]:
    return [
        Change(
            f"{name.replace('_', ' ').capitalize()} moved to 120 mm from the exhaust",
            [put(f"/fuel/parts/{name}/exhaust_distance", "120 mm")],
            2.0,
            "low",
        )
        for name, run in runs.items()
        if run.exhaust_distance is not None and run.exhaust_distance.si < 0.1
    ]


def _suction(w: Worked) -> list[Change]:
    f = w.build.fuel
    if f.pump.place != "external":
        return []
    found = []
    at = "/fuel/lift/head" if f.lift else "/fuel/tank/head"
    low = [put(at, "0.05 m"), *(put(f"/fuel/parts/{name}/rise", "0 m") for name in f.runs(f.sections.suction))]
    if w.fuel.inlet.head_m < 0:
        found.append(Change("Pump moved below the tank's outlet", low, 3.0, "low"))
    wide = [name for name, run in f.runs(f.sections.suction).items() if run.bore.si < 0.0119]
    if wide:
        hose = [op for name in wide for op in (put(f"/fuel/parts/{name}/bore", "12.7 mm"), put(f"/fuel/parts/{name}/material", "30R14T2"),
                put(f"/fuel/parts/{name}/fittings", [{"kind": "entry", "count": 1}]))]  # fmt: skip
        found.append(Change("Suction line 12.7 mm, straight in", hose, 2.0, "low"))
        if w.fuel.inlet.head_m < 0:
            found.append(Change("Pump moved low, suction line 12.7 mm, straight in", [*hose, *low], 4.0, "low"))
    return found


def _larger(now: float, sizes: list[float]) -> list[float]:
    return [s for s in sizes if s > now * 1.02]


def _pump_patch(w: Worked, name: str, rows: list[dict[str, str]]) -> Patch:
    known = w.build.fuel.pump
    return [
        put("/fuel/pump/curve", rows),
        put("/fuel/pump/name", name),
        *placed(w.build.fuel, "in_tank"),
        *(take_out(f"/fuel/pump/{key}") for key in ("inlet_bore", "outlet_bore", "relief") if getattr(known, key) is not None),
    ]


def _better(w: Worked) -> list[PumpData]:
    """Shelf pumps that give more than the one fitted, at the pressure it works at."""
    pressure = w.fuel.points["full"].pump_pressure_pa
    here = fitted(w.build).flow(VOLTS, pressure)
    return [p for p in pumps() if shelf_fit(p).flow(VOLTS, pressure) > here * 1.05][:2]


def shelf_fit(pump: PumpData) -> PumpFit:
    """The coefficients of a pump on the shelf, from its table as any other's."""
    rows = pump.table()
    return fit_pump(
        [
            (si(r["voltage"], "voltage"), si(r["pressure"], "pressure"), si(r["flow"], "volume flow"), si(r["current"], "current"))
            for r in rows
        ]
    )
