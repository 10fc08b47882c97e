"""The first start rehearsed without a person: the build's own tune and harness from key to idle, many times over, each time with other doubts; what it hangs on, and what would help, tried."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from ..figures import Result
from ..given.kept import TABLES
from ..physics.air import Array
from ..stages.engine.measures import measures
from ..stages.tune.in_use import tables_in_use
from ..standin.ails import lanes_of
from ..standin.engine import RESTED, SAGS, Filled
from ..standin.plant import Itself, as_built, in_turn, plant_of, pressed
from ..standin.start import Doubts, Started, start
from ..standin.unit import Grid
from ..worked import Worked
from .cycle import _at, held
from .trial import Trial

RUNS, SEED = 256, 7
#: The most advance that a thin charge is found to want on an engine [deg]: beyond it the worked burn is slower than any that fires at all (Heywood, ch. 9.4).
BEST_MOST = 42.0
NOTHING, WEAK = 0.1, 0.6  # of the fuel pressure, while the starter turns
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
    from scipy.stats import qmc  # takes a while to load, and only the worker draws

    draws = qmc.Sobol(len(DRAWN), seed=SEED).random(RUNS)
    values = {key: low + (high - low) * draws[:, i] for i, (key, _, low, high, _) in enumerate(DRAWN)}
    doubts = Doubts(values["flow"], values["filling"], values["dead"] * 1e-3, values["coolant"], values["battery"], values["sender"])
    filled = itself(w, lambda share: told(share * 0.3))
    every = [{}, *(change for _, _, change in TRIED)]
    scaled = {key: np.repeat([change.get(key, 1.0) for change in every], RUNS) for key in {k for change in every for k in change}}
    all_of = start(
        plant_of(w, filled, scaled),
        lanes_of([as_built(w)], w.build.engine.cylinders),
        doubts.times(len(every)),
        np.tile(_unit_volts(w, doubts.rested_v), len(every)),
        lambda share: told(0.3 + share * 0.7),
    )
    outcomes = [all_of.part(slice(k * RUNS, (k + 1) * RUNS)) for k in range(len(every))]
    return _told(w, outcomes, doubts, values)


def itself(w: Worked, told: Told = lambda _: None) -> Itself:
    """What the engine of a build does by itself, worked from its measures. Raises NoEngine for measures that make none."""
    speeds, loads = np.array(SPEEDS), np.array(LOADS) * w.engine.ambient_pressure_pa / 1e3
    worked = _at(w, measures(w.build), (speeds, loads), told=told)[0]
    shape = (len(loads), len(speeds))
    runs = worked.runs.reshape(shape)
    best = np.minimum(worked.best_spark, BEST_MOST)
    grids = [Grid(speeds, loads, _held(values.reshape(shape), runs)) for values in (worked.filling, worked.residual, best)]

    def filled(rev_s: Array, manifold_pa: Array) -> Filled:
        return Filled(*(grid.at(rev_s * 60, manifold_pa / 1e3) for grid in grids))

    return filled


def rests_on(w: Worked) -> str:
    """All that the rehearsal rests on, in words."""
    from .cycle import rests_on as engine_rests

    tables = [(t.key, t.x, t.y, t.rows) for t in tables_in_use(w.tune.tables, w.in_use)]
    i = w.injectors
    return repr(
        (
            engine_rests(w),
            tables,
            i.flow_nominal_kg_s,
            i.dead_time_full_s,
            as_built(w),
            w.wiring.crank_v,
            in_turn(w),
            w.engine.idle_manifold_pressure_pa,
        )
    )


def _held(values: Array, runs: NDArray[np.bool_]) -> Array:
    """Cells in which the engine does not run as the nearest above them that does, then as the next faster."""
    good = runs & np.isfinite(values)
    there = np.logical_or.accumulate(good[::-1])[::-1]  # whatever has one above it that does
    return held(held(values, good).T, there.T).T


def _unit_volts(w: Worked, rested: Array) -> Array:
    """Volts at the unit while the starter turns [V], by what the battery rests at."""
    return np.asarray(w.circuit.across("unit", "crank") - SAGS * (RESTED - rested), dtype=np.float64)


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
    crank = pressed(w)[0]
    if NOTHING < crank < WEAK:
        return (
            f"While the starter turns the rail holds {crank * 100:.0f} % of its fuel pressure: mend the pump, its feed or its line first."
        )
    if crank <= NOTHING:
        return "There is no fuel pressure to speak of while it cranks: mend the pump, its feed or its line first."
    if in_turn(w) < 1:
        return "The firing order typed in is not the engine's: some cylinders fire when another should."
    return ""


if not {key for _, _, change in TRIED for key in change} <= set(TABLES):
    raise ValueError("a table that is tried is none")
