"""By how much the mixture that is read comes late: by physics (what fills the pipe, and the sensor's own time) and by the data (the lag with which measured and wanted mixture agree best)."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..figures import Result
from ..given import Build
from ..logs import Log, Mask
from ..physics.air import Array

SENSOR_S = 0.10  # a heated sensor with its controller takes to show two thirds of a step, 0.05 to 0.2
PIPE_SHARE = 0.6  # of the displacement: the pipe up to a sensor behind the manifold, where nobody measured it
PIPE_AREA = 0.75  # 1/m, cross-section of exhaust pipe for each m3 of displacement: 50 mm for 2.6 litres
EXHAUST_K = 850.0  # of the gas in that pipe, against 293 K of what was drawn in
TRIED = np.arange(0.0, 1.2001, 0.02)  # s
LEAST_MOVES = 0.02  # of the wanted mixture (standard deviation), under which the data say nothing of a lag
ROWS_MOST = 24_000  # that the data are asked with


class Lag(Result):
    """Seconds by which the mixture comes late, in the middle of the log: by physics, by the data (None where it moved too little), and how sure the data are [s]; what is used, and what follows from both."""

    physics_s: float
    data_s: float | None
    data_doubt_s: float | None
    used_s: float
    words: str


@dataclass(frozen=True)
class Late:
    """The lag, and what is used of it row by row [s]."""

    told: Lag
    rows: Array


def pipe_volume(build: Build) -> float:
    """Volume [m3] between valves and oxygen sensor: its distance along the pipe with a pipe as usual for the engine; behind the manifold, where nobody measured it."""
    oxygen, swept = build.sensors.oxygen, build.engine.displacement.si
    if oxygen is None or oxygen.distance is None:
        return PIPE_SHARE * swept
    return oxygen.distance.si * PIPE_AREA * swept


def by_physics(build: Build, log: Log) -> Array:
    """Seconds of each row: what it takes to fill the pipe up to the sensor, and the sensor."""
    volume = pipe_volume(build)
    pressure = np.nan_to_num(log.filled("manifold"), nan=60.0)
    flow = (
        np.maximum(np.nan_to_num(log.filled("speed")), 300.0)
        / 120
        * build.engine.displacement.si
        * np.clip(pressure, 15, 300)
        / 100
        * (EXHAUST_K / 293.15)
    )
    return np.asarray(SENSOR_S + volume / flow, dtype=np.float64)


def lag(build: Build, log: Log, readable: Mask, wanted: Array) -> Late:
    """The lag of a log. `wanted` is the mixture that the unit aims at, row by row."""
    physics = by_physics(build, log)
    middle = float(np.median(physics[readable])) if readable.any() else float(np.median(physics))
    data, doubt = _by_data(log, readable, wanted)
    if data is None:
        words = f"By pipe and sensor {middle:.2f} s. The wanted mixture moved too little in this log for the data to say."
        return Late(Lag(physics_s=round(middle, 3), data_s=None, data_doubt_s=None, used_s=round(middle, 3), words=words), physics)
    apart = data - middle
    agree = abs(apart) <= max(0.12, 2 * (doubt or 0.0))
    follows = (
        "both agree"
        if agree
        else "the data count: the sensor sits further away, is slow, or the log is written late"
        if apart > 0
        else "the data count: the sensor sits nearer than was taken"
    )
    words = f"By pipe and sensor {middle:.2f} s, by the data {data:.2f} ± {doubt:.2f} s: {follows}."
    rows = physics * (data / middle) if middle > 0 else physics + data
    return Late(
        Lag(physics_s=round(middle, 3), data_s=round(data, 3), data_doubt_s=round(doubt or 0.0, 3), used_s=round(data, 3), words=words),
        rows,
    )


def _by_data(log: Log, readable: Mask, wanted: Array) -> tuple[float | None, float | None]:
    """The lag [s] at which what is read differs least from what is wanted, with its doubt; None where nothing moved."""
    ok = readable & np.isfinite(wanted) & np.isfinite(log.mixture)
    if ok.sum() < 200:
        return None, None
    seen = np.log(np.clip(np.where(ok, log.mixture, np.nan), 0.4, 3.0))
    aim = np.log(np.clip(np.where(np.isfinite(wanted), wanted, 1.0), 0.4, 3.0))
    rows = np.flatnonzero(ok)
    if len(rows) > ROWS_MOST:  # the stretch in the middle: whole rows, so that time stays time
        begin = rows[(len(rows) - ROWS_MOST) // 2]
        rows = rows[(rows >= begin)][:ROWS_MOST]
    moves = np.abs(np.gradient(aim[rows], log.time[rows] + np.arange(len(rows)) * 1e-9))
    if float(np.std(aim[rows])) < LEAST_MOVES or float(np.quantile(moves, 0.98)) < 0.01:
        return None, None
    held, sure = np.nan_to_num(seen), np.isfinite(seen).astype(np.float64)
    here = slice(rows[0], int(np.searchsorted(log.time, log.time[rows[-1]] + TRIED[-1])) + 1)
    late = np.array([_differs(log.time[here], held[here], sure[here], aim[rows], rows - rows[0], s) for s in TRIED])
    if not np.isfinite(late).all():
        return None, None
    k = int(np.argmin(late))
    if k in (0, len(TRIED) - 1):
        return None, None
    a, b, c = late[k - 1 : k + 2]
    bend = a - 2 * b + c
    if bend <= 0:
        return None, None
    best = float(TRIED[k] + 0.02 * 0.5 * (a - c) / bend)
    gain = float(np.median(late)) / max(float(b), 1e-12)
    if gain < 1.02:
        return None, None
    independent = max(len(rows) * log.every / 2.0, 8.0)  # one for every two seconds: rows beside each other say the same
    return best, float(0.02 * np.sqrt(2 * b / bend / independent)) + 0.01


def _differs(time: Array, seen: Array, sure: Array, aim: Array, rows: np.ndarray, late_s: float) -> float:
    """Mean square of what is read so late [s], less what was aimed at in those rows, with the mean of it left out; the worst tenth too. `sure` is 1 where anything was read."""
    then = time[rows] + late_s
    here = np.interp(then, time, sure) > 0.99
    off = (np.interp(then, time, seen) - aim)[here]
    if len(off) < 100:
        return float("inf")
    off = off - np.median(off)
    edge = float(np.quantile(np.abs(off), 0.95))
    return float(np.mean(np.minimum(off**2, edge**2)))
