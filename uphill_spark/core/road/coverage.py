"""Where a log has been, and what is still to be driven, in words that a passenger can read out."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np

from ..figures import Result
from ..physics.air import Array
from ..standin.drive import Driven, driven
from ..worked import Worked
from .cells import Visited
from .samples import Table2

ENOUGH_S, ENOUGH = 3.0, 0.012  # that a cell has to have been visited, and the doubt of its mean, to count as covered
SLOW, FAST = 8.0, 31.0  # m/s that such legs are driven at, at most as fast as most roads allow
LEGS_MOST = 9
LEG_S = 8.0


class Leg(Result):
    """Something to drive: what for, in words; its gear (None: any), speeds [rpm] and road speeds [km/h] between which, throttle in words, seconds; the caution that goes with it."""

    what: str
    why: str
    gear: int | None
    rpm: list[float]
    km_h: list[float]
    foot: str
    seconds: float
    caution: str


class Where(Result):
    """Visits over the grid of the fuel table: seconds and doubt by row and column, which cells are driven on the road at all, and which share of those is covered."""

    x: list[float]
    y: list[float]
    y_label: str
    seconds: list[list[float]]
    doubt: list[list[float | None]]
    off: list[list[float | None]]
    counts: list[list[bool]]
    coverage: float


def reachable(w: Worked, table: Table2) -> np.ndarray:
    """Cells that a car is driven in: idle and its neighbours, then from light to full load between idle and the speed of full power; not a closed throttle at speed, nor full load under a fifth of the way."""
    x, y = table.grid.x, table.grid.y
    e = w.build.engine
    idle, top = e.idle_speed.si * 60, e.power_speed.si * 60
    way = ((x - idle) / (top - idle))[None, :]
    share = (y / table.full)[:, None]
    if table.by_throttle:
        share = np.sqrt(np.clip(share, 0, 1))
    steady = (
        (way > 0.06) & (way < 0.85) & (share > 0.34) & (share < 1.04) & ~((share > 0.8) & (way < 0.15)) & ~((share < 0.42) & (way > 0.65))
    )
    at_idle = (np.abs(way) <= 0.07) & (share > 0.25 if not table.by_throttle else share < 0.4) & (share < 0.55)
    pull = (way >= 0.85) & (way < 1.02) & (share > 0.9) & (share < 1.04)
    return np.asarray(steady | at_idle | pull, dtype=bool)


def where(w: Worked, table: Table2, seen: Visited) -> Where:
    """Where it has been."""
    counts = reachable(w, table)
    covered = (seen.seconds >= ENOUGH_S) & (np.nan_to_num(seen.error, nan=1.0) <= ENOUGH)
    share = float((covered & counts).sum()) / max(int(counts.sum()), 1)

    def rows(values: Array, digits: int) -> list[list[float | None]]:
        return [[None if not math.isfinite(v) else round(float(v), digits) for v in row] for row in values]

    return Where(
        x=table.grid.x.tolist(), y=table.grid.y.tolist(), y_label="throttle, %" if table.by_throttle else "manifold, kPa", seconds=[[round(float(v), 1) for v in row] for row in seen.seconds], doubt=rows(seen.error, 4),
        off=rows(seen.mean, 4), counts=counts.tolist(), coverage=round(share, 4),
    )  # fmt: skip


PASSENGER = "A passenger reads this out and looks at the laptop, never whoever drives. Keep to the road's limits; a hill or a rolling road gives load without speed."
FULL = "Full throttle only where you can see the road's end, on a road that is shut or on a rolling road, and only if the mixture held at three quarters."
HOT = "Hot engine: hands off the exhaust and the fan."


def to_drive(
    w: Worked, table: Table2, seen: Visited, *, tips: int, air_span: float, idles_s: float, pulls: int, told_apart: bool, cold: bool
) -> list[Leg]:
    """What is still to be driven, by how far the air sensor moved [K] and how long it idled [s], most useful first: cells that are not covered, by stretches that a foot can hold; and what parts the causes."""
    car, legs = driven(w), list[Leg]()
    counts = reachable(w, table)
    open_ = counts & ~((seen.seconds >= ENOUGH_S) & (np.nan_to_num(seen.error, nan=1.0) <= ENOUGH))
    x, y = table.grid.x, table.grid.y
    e = w.build.engine
    idle, top = e.idle_speed.si * 60, e.power_speed.si * 60
    if idles_s < 20:
        legs.append(
            Leg(
                what="Idle, warm, in neutral",
                why="the small end of the injectors: dead time shows here first",
                gear=None,
                rpm=[idle, idle],
                km_h=[],
                foot="foot off",
                seconds=40,
                caution=HOT,
            )
        )
    bands = (("light", 0.30, 0.52), ("a third", 0.52, 0.68), ("half", 0.68, 0.84), ("three quarters", 0.84, 0.95))
    edges = np.linspace(idle + 0.08 * (top - idle), idle + 0.85 * (top - idle), 5)
    wanted = []
    for word, low, high in bands:
        share = y / table.full if not table.by_throttle else np.sqrt(np.clip(y / table.full, 0, 1))
        rows = (share >= low) & (share < high)
        for a, b in pairwise(edges):
            columns = (x >= a) & (x < b)
            many = int(open_[np.ix_(rows, columns)].sum())
            if many:
                wanted.append((many, word, float(a), float(b)))
    for many, word, a, b in sorted(wanted, reverse=True)[: LEGS_MOST - 4]:
        gear, low, high = _gear(car, a, b)
        legs.append(
            Leg(
                what=f"{_ordinal(gear)} gear, {_round(a):.0f} to {_round(b):.0f} rpm, foot {word}",
                why=f"{many} cell{'s' if many > 1 else ''} not visited enough",
                gear=gear,
                rpm=[_round(a), _round(b)],
                km_h=[low, high],
                foot=word,
                seconds=round(LEG_S * max(many, 2)),
                caution="",
            )
        )
    if tips < 6:
        gear, low, high = _gear(car, edges[0], edges[1])
        legs.append(
            Leg(
                what=f"{_ordinal(gear)} gear, from {_round(edges[0]):.0f} rpm: foot down to half at once, hold two seconds, off again; six times",
                why="fuel on the wall: how lean it goes, and for how long",
                gear=gear,
                rpm=[_round(edges[0]), _round(edges[1])],
                km_h=[low, high],
                foot="half, at once",
                seconds=40,
                caution="",
            )
        )
    if air_span < 15:
        legs.append(
            Leg(
                what="Warm, stand still five minutes with the bonnet shut, then drive off gently",
                why="air temperature: hot-soaked and cooled by the road, in one log",
                gear=None,
                rpm=[idle, idle],
                km_h=[],
                foot="light",
                seconds=360,
                caution=HOT,
            )
        )
    if not told_apart:
        legs.append(
            Leg(
                what="Idle with everything electric on, then off: lights, fan, heater",
                why="volts move dead time and nothing else: it parts dead time from the rest",
                gear=None,
                rpm=[idle, idle],
                km_h=[],
                foot="foot off",
                seconds=60,
                caution=HOT,
            )
        )
    if pulls < 2:
        gear, low, high = _gear(car, idle + 0.2 * (top - idle), top)
        gear = min(gear, 3)
        v = [round(car.at(r / 60, gear) * 3.6) for r in (idle + 0.2 * (top - idle), top)]
        legs.append(
            Leg(
                what=f"{_ordinal(gear)} gear, from {_round(idle + 0.2 * (top - idle)):.0f} to {_round(top):.0f} rpm, foot flat; twice, once each way",
                why="full load, the pump at its most, and power",
                gear=gear,
                rpm=[_round(idle + 0.2 * (top - idle)), _round(top)],
                km_h=[float(s) for s in v],
                foot="flat",
                seconds=25,
                caution=FULL,
            )
        )
    if not cold:
        legs.append(
            Leg(
                what="Begin the log before a cold start, and drive off as soon as it runs cleanly",
                why="warm-up and after-start fuel",
                gear=None,
                rpm=[idle, idle],
                km_h=[],
                foot="light",
                seconds=300,
                caution="",
            )
        )
    return legs[: LEGS_MOST + 2]


def _gear(car: Driven, a: float, b: float) -> tuple[int, float, float]:
    """The gear in which such speeds [rpm] are driven on a road, and the road speeds [km/h]: the lowest speed that is not crawling."""
    best = 1
    for gear in range(1, len(car.gears) + 1):
        if car.at(b / 60, gear) <= FAST and (car.at(a / 60, gear) <= SLOW * 1.9 or gear == 1):
            best = gear
    low, high = (round(car.at(r / 60, best) * 3.6) for r in (a, b))
    return best, float(low), float(high)


def _ordinal(gear: int) -> str:
    return ("First", "Second", "Third", "Fourth", "Fifth", "Sixth", "Seventh", "Eighth")[min(gear, 8) - 1]


def _round(rpm: float) -> float:
    return float(round(rpm / 100) * 100)
