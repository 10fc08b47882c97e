"""Of what the error is made: one wrong constant, or the table.

What is off is laid into bins (a cell of the table, a band of air temperature, a bank), and the bins are fitted by a few causes whose shape physics tells and by a smooth rest of the table. The rest is a Gaussian field over log
speed and load; causes have wide priors around nothing. Every set of causes is weighed by the evidence for it (Rasmussen and Williams, Gaussian Processes for Machine Learning, ch. 2.7 and 5), so that a cause that says no more
than the others is not named, and two that cannot be told apart are told to be so.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations
from typing import Literal, get_args

import numpy as np
from scipy.linalg import LinAlgError, cho_factor, cho_solve

from ..physics.air import Array
from ..worked import Worked
from .cells import APART_S
from .samples import Samples, Table2

CauseKey = Literal["scale", "dead_time", "reference", "air", "high_flow", "bank"]
#: By cause: how large it may be by itself before anybody looked (one standard deviation, in its own unit), and how likely it is at all.
PRIOR: dict[CauseKey, tuple[float, float]] = {
    "scale": (0.08, 0.25), "dead_time": (0.12, 0.2), "reference": (0.8, 0.1), "air": (0.20, 0.15), "high_flow": (0.08, 0.15), "bank": (0.06, 0.3),
}  # fmt: skip
RESTS = (0.0015, 0.006, 0.012, 0.025, 0.05, 0.09)  # of the field, that are tried
LONG_RPM, LONG_LOAD = 0.42, 0.30  # over which the field is smooth: in log speed, and of the load's span
SHORTEST = 0.2  # ms, under which a pulse is taken as no shorter: one over it would run away
FLOOR = 0.0035  # by which a bin's mean is off whatever was measured: steady is never quite steady
#: By how much a size may be off whatever the rows say (one standard deviation): of an oxygen sensor and its controller all of it, of an air sensor that lags its air.
UNSTEADY: dict[CauseKey, float] = {"scale": 0.004, "air": 0.004}
LEAST_S = 0.4  # of a bin
BINS_MOST = 420
AIR_SPAN, AIR_STEP = 10.0, 12.0  # K of air temperature that have to be seen to tell of it, and of one band
HINGES = (0.45, 0.55, 0.65)  # of full flow, from where on a pump may fall behind
NAMED, SURE = 0.6, 2.4  # evidence for a cause, and its size over its doubt, from where on it is named
MATTERS: dict[CauseKey, float] = {"scale": 0.008, "dead_time": 0.02, "reference": 0.25, "air": 0.03, "high_flow": 0.02, "bank": 0.01}
ALIKE = 2.0  # of log evidence, within which two sets of causes say it as well
REST_MATTERS = 0.009  # of the field that is left (root of mean square over what was driven), from where on it is the table


@dataclass(frozen=True)
class Bins:
    """Bins: cell of the table, mean off, its variance, seconds, and means of what the causes go by."""

    cell: np.ndarray
    off: Array
    variance: Array
    seconds: Array
    rpm: Array
    load: Array
    pulse: Array
    manifold_pa: Array
    air_c: Array
    flow: Array
    bank: Array
    spread: float


@dataclass(frozen=True)
class Fit:
    """What was found: by cause its size, the size by which its shape was fitted, and doubt (one standard deviation), in its own unit, and how likely it is there; which are named, which pairs cannot be told apart; the field left at the bins and on every cell, with its doubt; which bank it is, where one is off."""

    size: dict[CauseKey, float]
    fitted: dict[CauseKey, float]
    doubt: dict[CauseKey, float]
    likely: dict[CauseKey, float]
    named: tuple[CauseKey, ...]
    apart: tuple[tuple[CauseKey, CauseKey], ...]
    hinge: float
    field_at: Array
    field: Array
    field_doubt: Array
    rest: float
    rest_is: bool
    bins: Bins
    shapes: dict[CauseKey, Array]
    leans: int


def shapes_of(w: Worked, pulse: Array, manifold_pa: Array, air_c: Array, flow: Array, bank: Array, hinge: float) -> dict[CauseKey, Array]:
    """What each cause would do at so many places (pulse [ms], pressure [Pa], air [degC], flow [share]), one of its own unit of it: fuel that is missing [logarithm]. `hinge` is where high flow begins [share]."""
    held = max(w.build.fuel.regulator.set_pressure.si, 5e4)
    over = np.maximum(w.engine.ambient_pressure_pa - manifold_pa, 0.0)
    return {
        "scale": np.ones_like(pulse),
        "dead_time": 1 / np.maximum(pulse, SHORTEST),
        "reference": -0.5 * np.log1p(over / held),
        "air": (air_c - 20.0) / 100,
        "high_flow": np.maximum(flow - hinge, 0.0) / (1 - hinge),
        "bank": bank,
    }


def binned(table: Table2, s: Samples) -> Bins | None:
    """Samples in bins; None where there are too few."""
    if s.many < 30:
        return None
    x, y = table.grid.x, table.grid.y
    j = np.clip(np.searchsorted((x[1:] * x[:-1]) ** 0.5, s.rpm), 0, len(x) - 1)
    i = np.clip(np.searchsorted((y[1:] + y[:-1]) / 2, s.load), 0, len(y) - 1)
    spread_of_air = float(np.ptp(np.quantile(s.air_c, (0.02, 0.98))))
    band = np.floor((s.air_c - s.air_c.min()) / AIR_STEP).astype(int) if spread_of_air > AIR_SPAN else np.zeros(s.many, dtype=int)
    band = np.minimum(band, 7)
    key = (i * len(x) + j) * 8 + band
    there = np.bincount(key) > 0
    number, size = (np.cumsum(there) - 1)[key], int(there.sum())
    seconds = np.bincount(number, s.seconds, size)
    middle = _middle(number, s.off, size)
    spread = _spread(s.off - middle[number])
    held = middle[number] + np.clip(s.off - middle[number], -3 * spread, 3 * spread)  # one wild row moves no bin

    def mean(values: Array) -> Array:
        return np.asarray(np.bincount(number, values * s.seconds, size) / np.maximum(seconds, 1e-9))

    keep = seconds >= LEAST_S
    if keep.sum() < 6:
        return None
    order = np.flatnonzero(keep)
    if len(order) > BINS_MOST:
        order = order[np.argsort(-seconds[order])[:BINS_MOST]]
    alone = np.maximum(seconds / APART_S, 1.0)
    own = np.sqrt(np.maximum(mean(held**2) - mean(held) ** 2, 0.0))
    variance = (np.maximum(own, spread) ** 2) / alone + FLOOR**2
    values = {
        "off": mean(held),
        "rpm": mean(s.rpm),
        "load": mean(s.load),
        "pulse": 1 / mean(1 / np.maximum(s.pulse, SHORTEST)),
        "manifold_pa": mean(s.manifold_pa),
        "air_c": mean(s.air_c),
        "flow": mean(s.flow),
    }
    cell = np.zeros(size, dtype=int)
    cell[number] = i * len(x) + j
    found = {name: value[order] for name, value in values.items()} | {
        "cell": cell[order],
        "variance": variance[order],
        "seconds": seconds[order],
    }
    if s.banks is None:
        return Bins(bank=np.zeros(len(order)), spread=spread, **found)
    half = mean(s.banks)[order] / 2
    both = {name: np.concatenate([value, value]) for name, value in found.items()}
    both["off"] = np.concatenate([found["off"] - half, found["off"] + half])
    both["variance"] = both["variance"] * 2
    both["seconds"] = both["seconds"] / 2
    return Bins(bank=np.repeat([0.0, 1.0], len(order)), spread=spread, **both)


def _middle(number: np.ndarray, values: Array, size: int) -> Array:
    """The median of each group."""
    order = np.argsort(values)
    order = order[np.argsort(number[order].astype(np.uint16), kind="stable")]  # few groups: by their digits, which is quick
    many = np.bincount(number, minlength=size)
    first = np.concatenate(([0], np.cumsum(many)[:-1]))
    return np.asarray(values[order][first + many // 2])


def _spread(off: Array) -> float:
    """Of a single sample about the middle of its group, robustly."""
    return max(1.4826 * float(np.median(np.abs(off))), 0.002)


def _field(table: Table2, rpm: Array, load: Array, rpm_2: Array, load_2: Array) -> Array:
    """How alike the field is at two sets of places, 1 at the same."""
    span = float(table.grid.y[-1] - table.grid.y[0]) or 1.0
    a = (np.log(rpm)[:, None] - np.log(rpm_2)[None, :]) / LONG_RPM
    b = (load[:, None] - load_2[None, :]) / (LONG_LOAD * span)
    return np.asarray(np.exp(-0.5 * (a**2 + b**2)))


@dataclass(frozen=True)
class _Weighed:
    rest: float
    subset: tuple[CauseKey, ...]
    evidence: float
    size: Array
    covariance: Array


def fit(w: Worked, table: Table2, bins: Bins) -> Fit:
    """Weigh every set of causes, and take the mean of all by their evidence."""
    alike = _field(table, bins.rpm, bins.load, bins.rpm, bins.load)
    factors = []
    for rest in RESTS:
        try:
            factors.append((rest, cho_factor(rest**2 * alike + np.diag(bins.variance), lower=True)))
        except LinAlgError:  # pragma: no cover  # bins have a floor of variance
            continue
    best: tuple[float, list[_Weighed], dict[CauseKey, Array]] | None = None
    two = bool(np.any(bins.bank))
    # A leak makes one bank lean and leaves the other as it is: which of the two, is tried.
    for hinge, first in [(h, f) for h in HINGES for f in ((False, True) if two else (False,))]:
        shapes = shapes_of(w, bins.pulse, bins.manifold_pa, bins.air_c, bins.flow, 1.0 - bins.bank if first else bins.bank, hinge)
        there = _seen(w, bins, shapes)
        weighed = _weigh(bins, shapes, there, factors)
        if two and _bank_of(weighed) < 0:
            continue  # a leak leans: the other bank is the one
        total = float(np.logaddexp.reduce([x.evidence for x in weighed]))
        if best is None or total > best[0] + 1e-9:
            best, best_hinge, leans = (total, weighed, shapes), hinge, 1 if first else 2
    assert best is not None
    return _told(w, table, bins, best[1], best[2], best_hinge, leans)


def _bank_of(weighed: list[_Weighed]) -> float:
    """How large the bank's cause is in the likeliest set that has it."""
    best = max((x for x in weighed if "bank" in x.subset), key=lambda x: x.evidence, default=None)
    return 0.0 if best is None else float(best.size[best.subset.index("bank")])


def _straight(bins: Bins, size: dict[CauseKey, float], held_pa: float, outside_pa: float) -> dict[CauseKey, float]:
    """Sizes as they are, where the shape that was fitted is only straight for small ones: dead time against short pulses, a regulator that sees a part of the outside."""
    found = dict(size)
    short = float(np.quantile(bins.pulse, 0.1))
    found["dead_time"] = short * (1 - float(np.exp(-size["dead_time"] / short)))
    over = float(np.average(np.maximum(outside_pa - bins.manifold_pa, 0.0) / held_pa, weights=bins.seconds))
    if over > 0.01:
        found["reference"] = (float(np.exp(size["reference"] * np.log1p(over))) - 1) / over
    return found


def _seen(w: Worked, bins: Bins, shapes: dict[CauseKey, Array]) -> list[CauseKey]:
    """Causes of which the bins can say anything: their shape varies over what was driven."""
    found: list[CauseKey] = []
    for key in get_args(CauseKey):
        span = float(np.ptp(shapes[key]))
        if key == "scale" or span * PRIOR[key][0] > 0.006:
            found.append(key)
    if w.build.injectors.enters == "above_plates" and "reference" in found:
        found.remove("reference")  # it sprays into the outside: the manifold is nothing to it
    return found


def _weigh(
    bins: Bins, shapes: dict[CauseKey, Array], there: list[CauseKey], factors: list[tuple[float, tuple[Array, bool]]]
) -> list[_Weighed]:
    """Every set of causes with every size of the field: log evidence, sizes, covariance."""
    x = np.stack([shapes[key] for key in there], axis=1)
    prior = np.array([PRIOR[key][0] for key in there])
    odds = np.array([np.log(PRIOR[key][1] / (1 - PRIOR[key][1])) for key in there])
    found = []
    for rest, factor in factors:
        solved = cho_solve(factor, np.column_stack([bins.off, x]))
        yy = float(bins.off @ solved[:, 0])
        xy, xx = x.T @ solved[:, 0], x.T @ solved[:, 1:]
        determinant = 2 * float(np.log(np.diag(factor[0])).sum())
        for many in range(len(there) + 1):
            for chosen in combinations(range(len(there)), many):
                c = list(chosen)
                a = xx[np.ix_(c, c)] + np.diag(1 / prior[c] ** 2)
                b = xy[c]
                covariance = np.asarray(np.linalg.inv(a), dtype=np.float64) if c else np.zeros((0, 0))
                size = covariance @ b
                evidence = -0.5 * (yy - float(b @ size)) - 0.5 * determinant
                if c:
                    evidence += -0.5 * float(np.linalg.slogdet(a)[1]) - float(np.log(prior[c]).sum()) + float(odds[c].sum())
                evidence += -2.0 * RESTS.index(rest) * 0.5  # a field that is larger than it has to be is not believed
                found.append(_Weighed(rest, tuple(there[k] for k in c), evidence, size, covariance))
    return found


def _told(w: Worked, table: Table2, bins: Bins, weighed: list[_Weighed], shapes: dict[CauseKey, Array], hinge: float, leans: int) -> Fit:
    evidence = np.array([x.evidence for x in weighed])
    weight = np.exp(evidence - evidence.max())
    weight /= weight.sum()
    size, doubt, likely = dict[CauseKey, float](), dict[CauseKey, float](), dict[CauseKey, float]()
    for key in get_args(CauseKey):
        mine = [(p, x) for p, x in zip(weight, weighed, strict=True) if key in x.subset]
        share = float(sum(p for p, _ in mine))
        likely[key] = share
        if share < 1e-6:
            size[key], doubt[key] = 0.0, 0.0
            continue
        at = [
            (p / share, float(x.size[x.subset.index(key)]), float(x.covariance[x.subset.index(key), x.subset.index(key)])) for p, x in mine
        ]
        mean = sum(p * v for p, v, _ in at)
        size[key] = float(mean)
        doubt[key] = float(np.sqrt(sum(p * (c + (v - mean) ** 2) for p, v, c in at))) + UNSTEADY.get(key, 0.0)
    named = tuple(k for k in get_args(CauseKey) if likely[k] > NAMED and abs(size[k]) > SURE * doubt[k] and abs(size[k]) > MATTERS[k])
    top = max(weighed, key=lambda x: x.evidence)
    chosen = max((x for x in weighed if set(x.subset) == set(named)), key=lambda x: x.evidence)
    told = _straight(bins, size, max(w.build.fuel.regulator.set_pressure.si, 5e4), w.engine.ambient_pressure_pa)
    off = bins.off - sum((shapes[k] * size[k] for k in named), np.zeros(len(bins.off)))
    alike = _field(table, bins.rpm, bins.load, bins.rpm, bins.load)
    rest = chosen.rest
    factor = cho_factor(rest**2 * alike + np.diag(bins.variance), lower=True)
    pull = cho_solve(factor, off)
    field_at = rest**2 * alike @ pull
    x, y = table.grid.x, table.grid.y
    rpm, load = np.tile(x, len(y)), np.repeat(y, len(x))
    cross = rest**2 * _field(table, rpm, load, bins.rpm, bins.load)
    field = cross @ pull
    left = rest**2 - np.einsum("ij,ji->i", cross, cho_solve(factor, cross.T))
    rms = float(np.sqrt(np.average(field_at**2, weights=bins.seconds)))
    noise = float(
        np.sqrt(
            np.average(
                np.einsum("ij,ji->i", rest**2 * alike, np.eye(len(off)) - cho_solve(factor, rest**2 * alike)), weights=bins.seconds
            ).clip(0)
        )
    )
    return Fit(
        size=told, fitted=size, doubt=doubt, likely=likely, named=named, apart=_alike(weighed, top, likely), hinge=hinge, field_at=field_at, field=field.reshape(table.shape), field_doubt=np.sqrt(np.maximum(left, 0.0)).reshape(table.shape),
        rest=rms, rest_is=rms > REST_MATTERS and rms > 1.5 * noise, bins=bins, shapes=shapes, leans=leans,
    )  # fmt: skip


def _alike(weighed: list[_Weighed], top: _Weighed, likely: dict[CauseKey, float]) -> tuple[tuple[CauseKey, CauseKey], ...]:
    """Pairs of which one stands for the other as well: sets that differ in the two, with nearly the same evidence."""
    best: dict[tuple[CauseKey, ...], float] = {}
    for x in weighed:
        best[x.subset] = max(best.get(x.subset, -np.inf), x.evidence)
    found = []
    for subset, evidence in best.items():
        gone, come = set(top.subset) - set(subset), set(subset) - set(top.subset)
        if len(gone) == len(come) == 1 and evidence > best[top.subset] - ALIKE:
            a, b = gone.pop(), come.pop()
            if min(likely[a], likely[b]) > 0.08:
                found.append((a, b))
    return tuple(found)
