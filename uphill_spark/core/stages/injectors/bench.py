"""The flow bench: every injector's own flow, the spread of the set, which to fit, in which order, with which trims."""

from __future__ import annotations

import itertools
import math

from ...figures import Result
from ...given import Build

#: Spread of a set, (max - min) / mean: sound up to the first, to be sorted out above the second.
SPREAD_SOUND, SPREAD_SORT_OUT = 0.02, 0.05


class BenchRow(Result):
    """One injector as tested: mass flow at the rated pressure on the rating fluid, gain by cleaning, and its place if it is fitted."""

    mark: str
    flow_kg_s: float
    gain: float | None
    drops: int | None
    spray: str
    tight: bool
    deviation: float | None
    cylinder: int | None
    trim: float | None


class BenchResult(Result):
    """The set that fits best among those tested. Nothing where fewer than the engine needs were tested."""

    rows: list[BenchRow]
    spread_all: float | None
    spread: float | None
    mean_kg_s: float | None
    needed: int
    bank_imbalance: float | None
    step: float | None
    complete: bool
    worst_drops: int | None
    spread_sound: float
    spread_most: float
    bad_spray: list[str]


def banks_of(build: Build) -> list[list[int]]:
    """Places side by side, bank by bank, front to back: cylinders, or the injectors of a throttle body."""
    if build.engine.layout == "throttle_body":
        return [list(range(1, build.injectors.count + 1))]
    return build.engine.banks or [list(range(1, build.engine.cylinders + 1))]


def tested(build: Build, rating_density: float, bench_density: float) -> BenchResult:
    """Every test brought to the rated pressure and fluid (orifice: m ~ sqrt(rho dp), densities [kg/m3]), and the best set of them."""
    i = build.injectors
    flows: dict[str, dict[bool, float]] = {}
    last = {}
    for row in i.bench:
        if row.volume is None or row.time is None or row.pressure is None:
            continue
        mass = row.volume.si * bench_density / row.time.si
        scaled = mass * math.sqrt(rating_density / bench_density * i.rated_at.si / row.pressure.si)
        flows.setdefault(row.mark, {})[row.cleaned] = scaled
        if row.cleaned or row.mark not in last:
            last[row.mark] = row
    now = {mark: by[max(by)] for mark, by in flows.items()}
    jets = () if i.altered else ("jet",)  # opened up, they spray a jet by nature
    tight = [mark for mark in now if not last[mark].drops and last[mark].spray not in jets]
    chosen = best_set({mark: now[mark] for mark in tight}, banks_of(build))
    mean = sum(now[m] for m in chosen) / len(chosen) if chosen else None
    everyone = list(now.values())
    rows = [
        BenchRow(
            mark=mark, flow_kg_s=flow, gain=flow / flows[mark][False] - 1 if len(flows[mark]) == 2 and flows[mark][False] > 0 else None,
            drops=last[mark].drops, spray=last[mark].spray, tight=mark in tight,
            deviation=flow / mean - 1 if mean else None, cylinder=chosen.get(mark), trim=mean / flow if mean and mark in chosen and flow > 0 else None,
        )
        for mark, flow in now.items()
    ]  # fmt: skip
    bank, step = imbalance({c: now[m] for m, c in chosen.items()}, banks_of(build)) if chosen else (None, None)
    return BenchResult(
        rows=sorted(rows, key=lambda r: (r.cylinder is None, r.cylinder or 0, -r.flow_kg_s)),
        spread_all=spread(everyone) if len(everyone) > 1 else None,
        spread=spread([now[m] for m in chosen]) if len(chosen) > 1 else None,
        mean_kg_s=mean,
        needed=sum(len(bank) for bank in banks_of(build)),
        bank_imbalance=bank,
        step=step,
        complete=bool(chosen),
        worst_drops=max((row.drops for row in last.values() if row.drops is not None), default=None),
        spread_sound=SPREAD_SOUND,
        spread_most=SPREAD_SORT_OUT,
        bad_spray=[mark for mark, row in last.items() if row.spray in ("streaky", *jets)],
    )


def spread(flows: list[float]) -> float:
    """(max - min) / mean [-]."""
    mean = sum(flows) / len(flows)
    return (max(flows) - min(flows)) / mean if mean > 0 else 0.0


def imbalance(by_cylinder: dict[int, float], places: list[list[int]]) -> tuple[float, float]:
    """Of flows [kg/s] by cylinder: difference of the banks' means over the whole mean [-], and the largest step between neighbours over the mean [-]."""
    mean = sum(by_cylinder.values()) / len(by_cylinder)
    banks = [[by_cylinder[c] for c in bank if c in by_cylinder] for bank in places]
    means = [sum(b) / len(b) for b in banks if b]
    steps = [abs(a - b) for bank in banks for a, b in itertools.pairwise(bank)]
    return (max(means) - min(means)) / mean, max(steps, default=0.0) / mean


def best_set(flows: dict[str, float], banks: list[list[int]]) -> dict[str, int]:
    """Place by mark, of flows [kg/s] by mark: the set with the smallest spread, in the order with the smallest imbalance. Empty if there are too few.

    The set is a run of the sorted flows: any other has a larger spread. Within a bank, the largest step between neighbours is
    smallest when flows rise along it. So only the share of the set between the banks is left to try, and all of them are tried: 924 for twelve.
    """
    need = sum(len(bank) for bank in banks)
    ordered = sorted(flows.items(), key=lambda x: (x[1], x[0]))
    if len(ordered) < need:
        return {}
    runs = [ordered[k : k + need] for k in range(len(ordered) - need + 1)]
    least = min(spread([f for _, f in run]) for run in runs)
    best: tuple[float, dict[str, int]] | None = None
    for run in runs:
        if spread([f for _, f in run]) > least + 1e-12:
            continue
        for first in itertools.combinations(range(need), len(banks[0])):
            inside = set(first)
            split = [[run[k] for k in first], [run[k] for k in range(need) if k not in inside]]
            places = {mark: c for bank, share in zip(banks, split, strict=False) for c, (mark, _) in zip(bank, share, strict=True)}
            bank, step = imbalance({places[mark]: f for mark, f in run}, banks)
            if best is None or bank + step < best[0] - 1e-12:
                best = (bank + step, places)
    return best[1] if best else {}
