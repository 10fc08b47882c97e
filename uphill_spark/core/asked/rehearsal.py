"""The first start rehearsed without a person: the build's own tune and harness from key to idle, many times over, each time with other doubts; what it hangs on, and what would help, tried."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Callable
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray
from scipy.stats import qmc

from ..figures import Result
from ..given.kept import TABLES
from ..physics.air import Array, orifice_flow
from ..stages.engine import fuel_data
from ..stages.engine.measures import HEATING, measures
from ..stages.tune import Table
from ..stages.tune.curves import TIP_IN_COOLANT, TIP_IN_SHARE, TIP_IN_TIME
from ..stages.tune.in_use import tables_in_use
from ..standin.engine import RESTED, SAGS, Car, Filled
from ..standin.start import Doubts, Fuelled, Started, start
from ..standin.unit import Unit, bilinear
from ..worked import Worked
from .cycle import _at, held
from .trial import Trial

RUNS, SEED = 256, 7
#: What is drawn: its key, its word, from and to, its unit.
DRAWN = (
    ("flow", "Injector flow", -0.05, 0.05, "share"), ("filling", "Filling of the engine", -0.10, 0.10, "share"), ("dead", "Dead time", -0.15, 0.15, "ms"), ("coolant", "Warmth", -10.0, 35.0, "degC"),
    ("battery", "Battery at rest", 11.8, 12.7, "V"), ("sender", "Coolant sender", -3.0, 3.0, "K"),
)  # fmt: skip
SPEEDS = (150.0, 250.0, 400.0, 600.0, 800.0, 1000.0, 1300.0, 1700.0, 2200.0, 3000.0)  # rpm
LOADS = (0.2, 0.3, 0.4, 0.5, 0.62, 0.75, 0.9, 1.0)  # of the pressure outside
TEMPERATURES, BATTERIES = (-10.0, 0.0, 10.0, 20.0, 35.0), (11.8, 12.1, 12.4, 12.7)
#: What is tried: its key, its word, tables and by how much each is multiplied.
TRIED = (
    ("cranking_more", "Cranking fuel + 20 %", {"cranking": 1.2}), ("cranking_less", "Cranking fuel − 20 %", {"cranking": 0.8}), ("warm_more", "Warm-up and after-start fuel + 10 %", {"warm_up": 1.1, "after_start": 1.1}),
    ("filling_more", "Filling at idle + 10 %", {"ve": 1.1}), ("filling_less", "Filling at idle − 10 %", {"ve": 0.9}), ("air_more", "Idle air + 20 %", {"idle_air": 1.2}),
)  # fmt: skip
_WORDS = {
    "unit_resets": "the unit resets while the starter turns", "floods": "it floods", "starves": "it gets too little fuel to catch", "too_slow": "it turns, and does not catch", "stalls": "it catches and dies",
    "hangs_low": "it idles too low", "races": "it idles too high", "idles_lean": "it idles lean", "idles_rich": "it idles rich",
}  # fmt: skip


class Square(Result):
    """Starts between two temperatures [degC] and two battery voltages at rest [V]: how many, and how many of them caught and idled."""

    cold: float
    warm: float
    low_v: float
    high_v: float
    runs: int
    good: int


class Hangs(Result):
    """A doubt, and how much the outcome hangs on it (correlation, 0 to 1), with its sign: more of it helps or harms."""

    key: str
    word: str
    share: float
    helps: bool


class Tried(Result):
    """A change that was tried: the share that catches and idles with it, against as it is, of all and of the coldest third."""

    key: str
    word: str
    good: float
    cold: float


class Rehearsal(Result):
    """What came of all starts: shares that catch, and that idle in bounds; seconds to catch (middle, and of nine in ten); what goes wrong, in words with its share; a chart; what it hangs on; what was tried."""

    runs: int
    catch: float
    idle: float
    cold_idle: float
    seconds: float | None
    seconds_p90: float | None
    troubles: list[tuple[str, float]]
    closest: str
    chart: list[Square]
    hangs: list[Hangs]
    tried: list[Tried]
    blocked: str


Told = Callable[[float], None]


def look_deeper(trial: Trial, told: Told = lambda _: None) -> Rehearsal:
    """The rehearsal of a build. Raises NoEngine for measures that make no engine, and what `told` raises."""
    w = trial.worked
    draws = qmc.Sobol(len(DRAWN), seed=SEED).random(RUNS)
    values = {key: low + (high - low) * draws[:, i] for i, (key, _, low, high, _) in enumerate(DRAWN)}
    doubts = Doubts(values["flow"], values["filling"], values["dead"] * 1e-3, values["coolant"], values["battery"], values["sender"])
    found = measures(w.build)
    speeds, loads = np.array(SPEEDS), np.array(LOADS) * w.engine.ambient_pressure_pa / 1e3
    worked = _at(w, found, (speeds, loads), told=lambda share: told(share * 0.3))[0]
    shape = (len(loads), len(speeds))
    runs = worked.runs.reshape(shape)
    itself = {
        key: _plain(speeds, loads, _held(values.reshape(shape), runs))
        for key, values in (("filling", worked.filling), ("residual", worked.residual), ("best", worked.best_spark))
    }

    def filled(rev_s: Array, manifold_pa: Array) -> Filled:
        return Filled(*(bilinear(itself[key], rev_s * 60, manifold_pa / 1e3) for key in ("filling", "residual", "best")))

    tables = {t.key: t for t in tables_in_use(w.tune.tables, w.in_use)}
    every = [{}, *(change for _, _, change in TRIED)]
    scaled = {key: np.repeat([change.get(key, 1.0) for change in every], RUNS) for key in {k for change in every for k in change}}
    all_of = start(
        _car(w),
        _unit(w, tables, scaled),
        filled,
        _fuelled(w),
        doubts.times(len(every)),
        np.tile(_unit_volts(w, doubts.rested_v), len(every)),
        _opening(w),
        lambda share: told(0.3 + share * 0.7),
    )
    outcomes = [all_of.part(slice(k * RUNS, (k + 1) * RUNS)) for k in range(len(every))]
    return _told(w, outcomes, doubts, values)


def rests_on(w: Worked) -> str:
    """All that the rehearsal rests on, in words."""
    from .cycle import rests_on as engine_rests

    tables = [(t.key, t.x, t.y, t.rows) for t in tables_in_use(w.tune.tables, w.in_use)]
    i, f = w.injectors, _fuelled(w)
    return repr(
        (
            engine_rests(w),
            tables,
            i.flow_nominal_kg_s,
            i.dead_time_full_s,
            f,
            w.wiring.crank_v,
            _fires(w),
            w.engine.idle_manifold_pressure_pa,
        )
    )


def _plain(x: Array, y: Array, rows: Array) -> Table:
    return Table(
        key="", title="", unit="", x_label="rpm", x=x.tolist(), y_label="manifold pressure, kPa", y=y.tolist(), rows=rows.tolist(), doubt=""
    )


def _held(values: Array, runs: NDArray[np.bool_]) -> Array:
    """Cells in which the engine does not run as the nearest above them that does, then as the next faster."""
    good = runs & np.isfinite(values)
    there = np.logical_or.accumulate(good[::-1])[::-1]  # whatever has one above it that does
    return held(held(values, good).T, there.T).T


def _car(w: Worked) -> Car:
    e, fuel = w.build.engine, fuel_data(w.build.engine)
    held, ambient = w.engine.idle_manifold_pressure_pa, w.engine.ambient_pressure_pa
    swallowed = w.engine.idle_fuel_mass_flow_kg_s * fuel.stoich * w.build.tune.idle_lambda
    each = float(orifice_flow(np.array([1.0]), ambient, 293.15, np.array([held / ambient]))[0])
    enters = w.build.injectors.enters
    return Car(
        displacement=e.displacement.si, ambient_pa=ambient, heating=HEATING[e.fuel], stoich=fuel.stoich, fires=_fires(w), idle_m2=swallowed / each, wets=np.array(TIP_IN_SHARE[enters]),
        dries_s=np.array(TIP_IN_TIME[enters]), wall_at=np.array(TIP_IN_COOLANT),
    )  # fmt: skip


def _fires(w: Worked) -> float:
    """Share of cylinders that fire in their turn, by the order that was typed into the unit."""
    typed, order = w.build.tune.typed.firing_order, w.build.engine.firing_order
    if typed is None:
        return 1.0
    turned = max(sum(a == b for a, b in zip(typed, order[k:] + order[:k], strict=False)) for k in range(len(order)))
    return turned / len(order)


def _fuelled(w: Worked) -> Fuelled:
    """What of the fuel comes, by the pressure that the solved system holds."""
    points, i = w.fuel.points, w.injectors
    nominal = points["prime"].held_across_pa
    crank, idle = points.get("crank", points["prime"]), points["idle"]

    def share(across: float) -> float:
        return math.sqrt(max(across, 0.0) / nominal) if nominal > 0 else 0.0

    flow = i.flow_nominal_kg_s * w.build.injectors.count
    return Fuelled(share(crank.across_pa), share(idle.across_pa), flow)


def _opening(w: Worked) -> float:
    """How far the plates stand open at idle [% of their travel], as the unit sees it."""
    return next(mark.load for mark in w.tune.landmarks if mark.key == "idle") if w.tune.load_signal == "throttle" else 0.0


def _unit_volts(w: Worked, rested: Array) -> Array:
    """Volts at the unit while the starter turns [V], by what the battery rests at."""
    return np.asarray(w.circuit.across("unit", "crank") - SAGS * (RESTED - rested), dtype=np.float64)


def _unit(w: Worked, tables: dict[str, Table], scaled: dict[str, Array]) -> Unit:
    return Unit(tables, w.tune.fuel_per_cycle_kg, w.build.engine.cylinders, scaled)


def _told(w: Worked, outcomes: list[Started], doubts: Doubts, values: dict[str, Array]) -> Rehearsal:
    first = outcomes[0]
    good = first.idles
    cold = doubts.coolant <= np.quantile(doubts.coolant, 1 / 3)
    words = Counter(word for word in first.trouble if word)
    seconds = first.after_s[first.caught]
    return Rehearsal(
        runs=doubts.many, catch=float(first.caught.mean()), idle=float(good.mean()), cold_idle=float(good[cold].mean()),
        seconds=float(np.median(seconds)) if len(seconds) else None, seconds_p90=float(np.quantile(seconds, 0.9)) if len(seconds) else None,
        troubles=[(_WORDS[word], many / doubts.many) for word, many in words.most_common()],
        closest=_closest(first), chart=_chart(doubts, good), hangs=_hangs(first, values),
        tried=sorted((Tried(key=key, word=word, good=float(o.idles.mean()), cold=float(o.idles[cold].mean())) for (key, word, _), o in zip(TRIED, outcomes[1:], strict=True)), key=lambda t: -t.good),
        blocked=_blocked(w),
    )  # fmt: skip


def _closest(found: Started) -> str:
    """What the good starts are nearest to."""
    good = found.idles
    if not good.any():
        return ""
    lean, rich, slow = np.quantile(found.lamda[good], 0.95), np.quantile(found.lamda[good], 0.05), np.quantile(found.after_s[good], 0.95)
    return f"Of those that idle, one in twenty is at lambda {lean:.2f} or leaner, one in twenty at {rich:.2f} or richer; one in twenty takes {slow:.1f} s or more to catch."


def _chart(doubts: Doubts, good: NDArray[np.bool_]) -> list[Square]:
    squares = []
    for cold, warm in pairwise(TEMPERATURES):
        for low, high in pairwise(BATTERIES):
            here = (doubts.coolant >= cold) & (doubts.coolant < warm) & (doubts.rested_v >= low) & (doubts.rested_v < high)
            squares.append(Square(cold=cold, warm=warm, low_v=low, high_v=high, runs=int(here.sum()), good=int(good[here].sum())))
    return squares


def _hangs(found: Started, values: dict[str, Array]) -> list[Hangs]:
    """How much the outcome hangs on each doubt: on whether it idles, or, where all do, on how long it takes."""
    result = found.idles.astype(float)
    if result.std() == 0:
        result = -np.nan_to_num(found.after_s, nan=30.0)
    told = []
    for key, word, *_ in DRAWN:
        r = float(np.corrcoef(values[key], result)[0, 1]) if result.std() > 0 else 0.0
        told.append(Hangs(key=key, word=word, share=round(abs(r), 3), helps=r > 0))
    return sorted(told, key=lambda h: -h.share)


def _blocked(w: Worked) -> str:
    """What keeps it from being a start at all, whatever is drawn."""
    f = _fuelled(w)
    if f.cranking <= 0.3:
        return "There is no fuel pressure to speak of while it cranks: mend the pump, its feed or its line first."
    if _fires(w) < 1:
        return "The firing order typed in is not the engine's: some cylinders fire when another should."
    return ""


if not {key for _, _, change in TRIED for key in change} <= set(TABLES):
    raise ValueError("a table that is tried is none")
