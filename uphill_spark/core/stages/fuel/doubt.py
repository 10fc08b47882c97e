"""The doubt of the margin: all inputs drawn at once, and each alone."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ...figures import Result
from ...physics.pipe import Array, friction_factors
from ...worked import Worked
from ..engine import fuel_data
from .plumbing import Plumbing, as_run, contact_ohms, copper_ohms, fitted

DRAWS = 2000


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


def margins_of(w: Worked) -> Margins:
    """Margin at full power for arrays of factors on each input: the operating point solved by halving, all draws at once."""
    f = w.build.fuel
    fit, run, liquid = fitted(w.build), as_run(f.supply), fuel_data(w.build.engine)
    system = Plumbing(w.build, w.fuel.need_m3_s, w.fuel.need_m3_s, 0.0)
    copper, joints, full = copper_ohms(w.build), contact_ohms(w.build), w.fuel.points["full"]

    def solve(factor: dict[str, Array]) -> Array:
        one = np.ones_like(next(iter(factor.values())))
        k = {item.key: factor.get(item.key, one) for item in _INPUTS}
        ohms = copper * k["length"] + joints * k["contacts"]
        supply, set_pa, bore = full.supply_volts * k["volts"], system.set_pa * k["set"], run.bore * k["bore"]
        area = np.pi * bore**2 / 4
        need = w.fuel.need_m3_s * k["bsfc"]
        through = 0.0 if f.scheme == "tank_regulator" else 1.0

        def outlet(q: Array) -> Array:
            spare = 0.0 if f.scheme == "dead_head" else np.maximum(q - need, 0.0)
            # Return and wide-open regulator as they are at the solved point, scaled between friction's power and the orifice's.
            back = (full.return_pressure_pa + full.regulator_open_pa) * (spare / max(full.flow_m3_s - w.fuel.need_m3_s, 1e-9)) ** 1.8
            v = q / area
            re = np.maximum(liquid.density * v * bore / liquid.viscosity, 1e-6)
            friction = friction_factors(re, run.roughness / bore)
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


def band_of(w: Worked, margins: Margins) -> Band:
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


def doubts_of(w: Worked, margins: Margins) -> list[Doubt]:
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
