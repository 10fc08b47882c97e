"""Advice: changes that could help, each solved as a whole build, ranked."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ...build import apply_edit
from ...errors import BuildError
from ...figures import Result
from ...physics.pump import PumpFit, fit_pump
from ...reference import PumpData, pumps, wires
from ...units import si
from ...worked import Worked, work_out
from .plumbing import fitted

#: Contacts of a pump circuit made new.
FRESH = [{"kind": "fuse_holder", "count": 1}, {"kind": "relay", "count": 1}, {"kind": "crimp", "count": 4}]


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
        pipe = [
            put("/fuel/supply/bore", f"{bore:.1f} mm"),
            put("/fuel/supply/material", "steel_tube"),
            put("/fuel/supply/clamps", "flared_or_crimped"),
        ]
        wire = [put("/fuel/wire/contacts", FRESH), put("/fuel/wire/size", "4 mm2")]
        found += [
            _Change(
                f"{pump.name} from the shelf, supply line {bore:.1f} mm, 4 mm² wire with a relay",
                [*_pump_patch(w, pump), *pipe, *wire],
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
    return [p for p in pumps() if shelf_fit(p).flow(13.4, pressure) > here * 1.05][:2]


def shelf_fit(pump: PumpData) -> PumpFit:
    rows = pump.table()
    return fit_pump(
        [
            (si(r["voltage"], "voltage"), si(r["pressure"], "pressure"), si(r["flow"], "volume flow"), si(r["current"], "current"))
            for r in rows
        ]
    )


def advice_on(document: dict[str, Any], w: Worked) -> list[Advice]:
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
