"""Doubt: the margin at full power with all inputs drawn at once, and with each moved alone."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ...circuit.electric import Electric
from ...circuit.netlist import pump_wires
from ...figures import Result, Spec
from ...given import Build
from ...given.document import touches
from ...physics.pipe import MANY, Array
from ...physics.pump import PumpFit, operating_flows
from ..engine import EngineResult
from . import SYSTEM, FuelResult
from .demand import KEY_STATE, demands
from .plumbing import Factors, Network, Plumbing

DRAWS = 1000


class MarginBand(Result):
    """The margin at full power as a band: 5, 50 and 95 % of the draws, and the share of draws that hold."""

    low: float
    middle: float
    high: float
    enough: float
    draws: int


class Shape(Result):
    """How many draws lie between edges, the fullest as 1."""

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
    """An uncertain input: where it is, its one-sigma doubt as a share, and how it is told. Under * stand the parts on the way to the rail."""

    key: str
    pointer: str
    label: str
    sigma: float


#: One-sigma doubts of values as stated; an assumed value is taken as twice as doubtful.
_INPUTS = (
    _Input("bsfc", "/engine/bsfc", "fuel used per unit of work", 0.05),
    _Input("flow", "/fuel/pump/curve", "the pump's flow against its sheet", 0.04),
    _Input("volts", "/wiring/feed", "volts at full power", 0.02),
    _Input("length", "/wiring/fitted/pump_feed/length", "length of the pump's wire", 0.05),
    _Input("contacts", "/wiring/fitted/pump_feed/joints", "resistance of the contacts", 0.40),
    _Input("filter", "/fuel/parts/*/pressure_drop", "drop of the filter", 0.25),
    _Input("bore", "/fuel/parts/*/bore", "true bore of the supply line", 0.03),
    _Input("fittings", "/fuel/parts/*/fittings", "losses of the fittings", 0.25),
    _Input("set", "/fuel/regulator/set_pressure", "the regulator's set pressure", 0.02),
)
KEYS = tuple(item.key for item in _INPUTS)


class Margins:
    """The margin at full power for factors on its inputs: the same plumbing as the single solve, all draws at once."""

    def __init__(
        self, build: Build, network: Network, fit: PumpFit, need: float, flow: float, boost: float, supply_volts: float, copper: float, joints: float,
        bsfc_assumed: bool,
    ) -> None:  # fmt: skip
        """`copper` and `joints` are the resistances [ohm] of the pump's wires and of all else in its circuit, `supply_volts` what stands behind them."""
        self.build, self.network, self.need, self.near = build, network, need, flow
        self.boost, self.supply, self.bsfc_assumed = boost, supply_volts, bsfc_assumed
        self.fit, self.copper, self.joints = fit, copper, joints
        self.marks = tuple(m for m, mark in build.marks.items() if mark.kind == "assumed")

    def places(self, item: _Input) -> list[str]:
        """Where an input stands in this build."""
        if "*" not in item.pointer:
            return [item.pointer]
        last = item.pointer.rsplit("/", 1)[-1]
        fuel = self.build.fuel
        return [f"/fuel/parts/{name}/{last}" for name in fuel.sections.to_rail if last in type(fuel.parts[name]).model_fields] or [
            "/fuel/path"
        ]

    def sigma(self, item: _Input) -> float:
        """One standard deviation, as a share [-] of the value."""
        assumed = any(touches(m, place) for m in self.marks for place in self.places(item)) or (item.key == "bsfc" and self.bsfc_assumed)
        return item.sigma * (2 if assumed else 1)

    def of(self, factors: dict[str, Array]) -> Array:
        """Margins [-] for arrays of factors by input."""
        draws = len(next(iter(factors.values())))
        k = {key: factors.get(key, np.ones(draws)) for key in KEYS}
        need = self.need * k["bsfc"]
        doubtful = Factors(bore=k["bore"], fittings=k["fittings"], filter=k["filter"], set_pressure=k["set"])
        system = Plumbing(self.network, need, self.need, self.boost, MANY, doubtful)
        ohms, volts, fit = self.copper * k["length"] + self.joints * k["contacts"], self.supply * k["volts"], self.fit

        def surplus(flow: Array) -> Array:
            pressure = system.pump_outlet(flow)
            given = fit.a * (volts - ohms * (fit.d + fit.e * pressure)) - fit.b * pressure - fit.c
            return np.asarray(k["flow"] * given - flow)

        free = max(fit.flow(self.supply, 0.0), 1e-9)
        return np.asarray(operating_flows(surplus, self.near, free, draws) / need, dtype=np.float64)

    def drawn(self) -> Array:
        """The margin over draws of all inputs at once; a fixed seed, so that the same build gives the same draws."""
        return self.of({item.key: np.maximum(1 + self.sigma(item) * noise, 0.05) for item, noise in zip(_INPUTS, _noise(), strict=True)})

    def doubts(self) -> list[Doubt]:
        """Each input moved by its own doubt both ways, the others still; the one that moves the margin most first."""
        sigmas = [self.sigma(item) for item in _INPUTS]
        ends = {
            item.key: np.array([f for i in range(len(_INPUTS)) for f in ((max(1 - sigmas[i], 0.05), 1 + sigmas[i]) if _INPUTS[i] is item else (1.0, 1.0))])
            for item in _INPUTS
        }  # fmt: skip
        margins = self.of(ends).reshape(-1, 2)
        rows = [
            Doubt(
                pointer=self.places(item)[0], label=item.label, doubt=f"± {sigma * 100:.0f} %", assumed=sigma > item.sigma,
                margin_low=float(pair.min()), margin_high=float(pair.max()),
            )
            for item, sigma, pair in zip(_INPUTS, sigmas, margins, strict=True)
        ]  # fmt: skip
        return sorted(rows, key=lambda d: d.margin_low - d.margin_high)


@lru_cache(maxsize=1)
def _noise() -> tuple[Array, ...]:
    draw = np.random.default_rng(20)
    return tuple(draw.standard_normal(DRAWS) for _ in _INPUTS)


def band_of(margins: Array, wanted: float) -> MarginBand:
    """The draws as a band of margins [times the need], against the margin wanted."""
    ordered = np.sort(margins)
    low, middle, high = (float(ordered[round(share * (len(ordered) - 1))]) for share in (0.05, 0.5, 0.95))
    return MarginBand(low=low, middle=middle, high=high, enough=float(np.mean(margins >= wanted)), draws=len(margins))


def shape_of(margins: Array) -> Shape:
    """How the draws lie, for drawing them."""
    heights, edges = np.histogram(margins, bins=24)
    return Shape(heights=(heights / heights.max()).tolist(), edges=edges.tolist())


#: What the doubt reads of the build, and of the stages that it takes. No finding rests on it: a change that is only tried does without.
READS = ("fuel", "engine.boost", "marks")
LOOKS = {"engine": ("ambient_pressure_pa", "bsfc_assumed", "fuel_mass_flow_kg_s", "idle_fuel_mass_flow_kg_s", "idle_manifold_pressure_pa")}
BESIDE = True


def margins(build: Build, engine: EngineResult, circuit: Electric, fuel: FuelResult) -> Margins:
    """The margin at full power as a function of what is doubtful about it."""
    feed = circuit.feed("pump", KEY_STATE["full"])
    copper = sum(circuit.made[key].copper_ohm for key in pump_wires(build))
    boost = demands(build, engine)["full"][1]
    return Margins(
        build, circuit.pipes, circuit.fit, circuit.need_m3_s, fuel.points["full"].capacity_m3_s, boost, feed.volts, copper, feed.ohms - copper, engine.bsfc_assumed,
    )  # fmt: skip


def work_out(build: Build, engine: EngineResult, circuit: Electric, fuel: FuelResult) -> MarginBand:
    """The margin's band, against the margin wanted."""
    return band_of(margins(build, engine, circuit, fuel).drawn(), build.fuel.design_margin.si)


_DRAWS = "1,000 draws of every input's doubt"
FIGURES = (
    Spec("fuel.margin.full.p05", "1", "Margin at full power, 19 of 20 draws are above", (*SYSTEM, "/engine/bsfc"), _DRAWS, lambda r: r.low),
    Spec(
        "fuel.margin.full.p95", "1", "Margin at full power, 19 of 20 draws are below", (*SYSTEM, "/engine/bsfc"), _DRAWS, lambda r: r.high
    ),
)
