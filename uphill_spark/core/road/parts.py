"""The parts of a log that tell of one thing each: cold, just started, foot down quickly, idling. Each with what it proposes, bounded as a cell is."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..figures import Result
from ..given.kept import TableKey
from ..logs import Log, Mask, stretches
from ..physics.air import Array
from ..stages.tune.in_use import tables_in_use
from ..worked import Worked
from .believed import WARM_C
from .correct import STEP
from .lag import SENSOR_S, Late
from .samples import Known, trim_factor

QUICKLY, WITHIN_S = 12.0, 0.35  # % of the throttle, in s: a foot that comes down quickly
BEFORE_S, AFTER_S, GRID_S = 0.5, 2.5, 0.05  # s of a tip-in that are laid over each other
TIPS_LEAST, TIPS_MOST = 3, 60
STARTS_MOST, START_S = 12, 60.0
AFTER_SETTLED_S = 45.0  # after which the after-start fuel is gone whatever was typed in
IDLE_S, IDLE_FOOT = 5.0, 1.5  # of a stretch; % of the throttle
HUNTS = 45.0  # rpm to and fro (standard deviation), from where on an idle hunts
DELAYS = (0.0, 0.04, 0.08, 0.12, 0.16, 0.22, 0.30, 0.40)  # s that are tried, on top of the sensor's own lag
TIP_MATTERS = 0.035  # of a squirt, from where on it is worth a change
SHARE_MOST = 0.12  # by which a share of fuel on the wall is moved at a time


class Proposed(Result):
    """A change of a curve: its table, the places along its axis, old and new values, seconds or events behind each (0: none, left as it was)."""

    table: TableKey
    title: str
    unit: str
    x_label: str
    x: list[float]
    old: list[float]
    new: list[float]
    seen: list[float]


class RoadLine(Result):
    """A line to draw: a label, and points along an axis [unit of the axis] with values."""

    label: str
    x: list[float]
    y: list[float]


class Cold(Result):
    """Warm-up: what is off by coolant [degC, share, with doubt]; starts laid over each other [s after it caught, share]; what is proposed for warm-up and after-start fuel."""

    at: list[float]
    off: list[float]
    doubt: list[float]
    seconds: list[float]
    starts: list[RoadLine]
    warm_up: Proposed | None
    after_start: Proposed | None
    words: str


class TipIns(Result):
    """Every quick opening laid over each other [s from the foot, share off]: how much more fuel wets the wall than is told, with doubt; what is proposed."""

    events: list[RoadLine]
    middle: RoadLine | None
    many: int
    share: float | None
    doubt: float | None
    proposed: Proposed | None
    words: str


class Idle(Result):
    """Idling: stretches [s, from and to], speed and target [rpm], how it swings [rpm], manifold [kPa], mixture off [share], the idle valve's mean against what was typed in where it is logged; words."""

    stretches: list[list[float]]
    seconds: float
    rpm: float | None
    target: float | None
    swings: float | None
    period_s: float | None
    manifold_kpa: float | None
    off: float | None
    valve: float | None
    proposed: Proposed | None
    words: str


@dataclass(frozen=True)
class Off:
    """What is off row by row [share, nan where it cannot be read], the mixture laid back by its lag, less what the constants and the table are known to be off by."""

    rows: Array
    mask: Mask


def off_of(log: Log, k: Known, late: Late, readable: Mask, static: Array) -> Off:
    """How far off each row is, moving or not, beyond `static` [share], what is known to be off there at rest."""
    at = log.time + late.rows
    seen = np.interp(at, log.time, np.nan_to_num(log.mixture, nan=0.0))
    sure = np.interp(at, log.time, (readable & np.isfinite(log.mixture)).astype(float)) > 0.99
    ok = sure & readable & (seen > 0.3) & (k.wanted > 0.4)
    off = np.where(
        ok, np.log(np.maximum(seen, 0.3) / np.maximum(k.wanted, 0.4)) + np.log(np.clip(trim_factor(log), 0.3, 3)) - static, np.nan
    )
    return Off(off, ok)


def _curve(w: Worked, key: TableKey) -> tuple[str, str, str, Array, Array]:
    t = next(t for t in tables_in_use(w.tune.tables, w.in_use) if t.key == key)
    return t.title, t.unit, t.x_label, np.array(t.x), np.array(t.rows[0])


def _proposed(w: Worked, key: TableKey, new: NDArray[Any], seen: NDArray[Any]) -> Proposed:
    title, unit, label, x, old = _curve(w, key)
    return Proposed(
        table=key,
        title=title,
        unit=unit,
        x_label=label,
        x=x.tolist(),
        old=old.tolist(),
        new=[float(v) for v in new],
        seen=[round(float(v), 1) for v in seen],
    )


def cold(w: Worked, log: Log, off: Off) -> Cold:
    """Everything that a log says of a cold engine."""
    coolant = log.filled("coolant")
    caught = _since_caught(log)
    below = off.mask & (coolant < WARM_C) & (caught > AFTER_SETTLED_S)
    _, _, _, x, old = _curve(w, "warm_up")
    near = np.abs(coolant[:, None] - x[None, :]).argmin(axis=1) if log.rows < 2_000_000 else np.zeros(log.rows, dtype=int)
    mean, doubt, seconds = np.zeros(len(x)), np.full(len(x), np.inf), np.zeros(len(x))
    for k in range(len(x)):
        mine = below & (near == k)
        seconds[k] = float(log.lasts[mine].sum())
        if seconds[k] >= 4:
            mean[k] = float(np.median(off.rows[mine]))
            doubt[k] = float(np.std(off.rows[mine])) / np.sqrt(max(seconds[k] / 2, 1)) + 0.004
    acts = (seconds >= 4) & (np.abs(mean) > np.maximum(doubt, 0.01))
    warm = np.where(acts, np.maximum(old * np.exp(np.clip(mean, -STEP, STEP)), 1.0), old)
    starts, after = _starts(w, log, off, coolant, caught)
    told = [f"{_more(mean[k])} at {x[k]:.0f} °C" for k in range(len(x)) if acts[k]]
    words = (
        "Nothing of this log was cold."
        if not below.any() and not starts
        else (f"Warm-up wants {', '.join(told)}." if told else "Warm-up fuel fits where it was driven cold.")
    )
    at = [k for k in range(len(x)) if seconds[k] >= 4]
    return Cold(
        at=[float(x[k]) for k in at], off=[round(float(mean[k]), 4) for k in at], doubt=[round(float(doubt[k]), 4) for k in at], seconds=[round(float(seconds[k]), 1) for k in at], starts=starts,
        warm_up=_proposed(w, "warm_up", np.round(warm, 3), seconds) if acts.any() else None, after_start=after, words=words,
    )  # fmt: skip


def _more(share: float) -> str:
    return f"{abs(np.expm1(share)) * 100:.0f} % {'more' if share > 0 else 'less'}"


def _since_caught(log: Log) -> Array:
    """Seconds since the engine caught, row by row; very long where the log begins with it running."""
    stands = ~log.running
    last = np.maximum.accumulate(np.where(stands, log.time, -np.inf))
    return np.asarray(np.where(np.isfinite(last), log.time - last, 1e6))


def _starts(w: Worked, log: Log, off: Off, coolant: Array, caught: Array) -> tuple[list[RoadLine], Proposed | None]:
    """Each start from the moment it caught; what the after-start fuel should be by it."""
    lines: list[RoadLine] = []
    _, _, _, x, old = _curve(w, "after_start")
    wants, seen = np.zeros(len(x)), np.zeros(len(x))
    for a, b in stretches(log.running)[: STARTS_MOST * 4]:
        if a == 0 or float(log.time[b - 1] - log.time[a]) < 10 or len(lines) >= STARTS_MOST:
            continue
        inside = np.arange(a, b)[log.time[a:b] - log.time[a] <= START_S]
        here = inside[off.mask[inside]]
        if float(log.lasts[here].sum()) < 3:
            continue
        t = log.time[here] - log.time[a]
        step = max(len(here) // 120, 1)
        lines.append(
            RoadLine(
                label=f"{coolant[a]:.0f} °C",
                x=[round(float(v), 2) for v in t[::step]],
                y=[round(float(v), 4) for v in off.rows[here][::step]],
            )
        )
        early = off.rows[here[t <= 12]]
        later = off.rows[here[t >= 30]]
        if len(early) >= 10 and len(later) >= 10:
            k = int(np.abs(x - coolant[a]).argmin())
            wants[k] += float(np.median(early) - np.median(later))
            seen[k] += 1
    has = seen > 0
    if not has.any():
        return lines, None
    wants = np.where(has, wants / np.maximum(seen, 1), 0.0)
    acts = has & (np.abs(wants) > 0.02)
    if not acts.any():
        return lines, None
    new = np.where(acts, np.clip((1 + old / 100) * np.exp(np.clip(wants, -STEP, STEP)) * 100 - 100, 0.0, 200.0), old)
    return lines, _proposed(w, "after_start", np.round(new), seen)


def tip_ins(w: Worked, log: Log, k: Known, readable: Mask, static: Array) -> TipIns:
    """Every quick opening. What wets the wall more than is told shows as lean for as long as it dries: its size is fitted event by event (Aquino, SAE 810494)."""
    throttle, every = log.filled("throttle"), max(log.every, 1e-3)
    none = TipIns(
        events=[],
        middle=None,
        many=0,
        share=None,
        doubt=None,
        proposed=None,
        words="No quick opening of the throttle in this log that can be read.",
    )
    if not np.isfinite(throttle).any() or every > 0.25:
        return none if every <= 0.25 else none.model_copy(update={"words": "This log has too few rows in a second to see a quick opening."})
    back = max(round(WITHIN_S / every), 1)
    rise = np.zeros(log.rows)
    rise[back:] = throttle[back:] - throttle[:-back]
    begins = [a for a, _ in stretches((rise > QUICKLY) & log.running & (np.nan_to_num(log.filled("coolant"), nan=80.0) > WARM_C))]
    begins = [max(a - back, 0) for n, a in enumerate(begins) if n == 0 or log.time[a] - log.time[begins[n - 1]] > AFTER_S]
    dries = float(np.interp(85.0, _curve(w, "tip_in_time")[3], _curve(w, "tip_in_time")[4]))
    pulse = np.maximum(k.pulse, 0.05)
    slow = _lowpass(pulse, every, dries)
    drives = (pulse - slow) / np.maximum(k.steady, 0.05)
    sensor = SENSOR_S + 0.02
    shape = _lowpass(drives, every, sensor)
    aims = _lowpass(np.log(np.maximum(k.wanted, 0.4)) + static, every, sensor)
    seen = np.log(np.clip(np.nan_to_num(log.mixture, nan=1.0), 0.4, 3.0))
    sure = readable.astype(np.float64)
    tried = [_events(log, seen, sure, begins, shape, aims, late) for late in DELAYS]
    lines, slopes, weights, _ = min(tried, key=lambda x: x[3])
    if not lines:
        return none
    middle = RoadLine(label="middle", x=lines[0].x, y=[round(float(v), 4) for v in np.median([line.y for line in lines], axis=0)])
    if len(slopes) < TIPS_LEAST:
        return TipIns(
            events=lines,
            middle=middle,
            many=len(lines),
            share=None,
            doubt=None,
            proposed=None,
            words=f"{len(lines)} quick openings: at least {TIPS_LEAST} with a foot that moves far are needed to say how much wets the wall.",
        )
    share = float(np.average(slopes, weights=weights))
    doubt = max(float(np.std(slopes, ddof=1)) / np.sqrt(len(slopes)), 0.008) + 0.008 + 0.08 * abs(share)
    proposed = None
    if abs(share) > max(2.2 * doubt, TIP_MATTERS):
        old = _curve(w, "tip_in_share")[4]
        hot = _curve(w, "tip_in_share")[3] > 40
        moved = float(np.clip(share, -SHARE_MOST, SHARE_MOST))
        ratio = max((old[hot].mean() + moved) / max(old[hot].mean(), 1e-6), 0.0) if hot.any() else 1.0
        proposed = _proposed(w, "tip_in_share", np.round(np.clip(old * ratio, 0.0, 0.95), 2), np.where(hot, len(slopes), 0))
    lean = "leaner" if share > 0 else "richer"
    words = (
        f"{len(slopes)} quick openings go {lean} than wanted: {abs(share):.2f} ± {2 * doubt:.2f} {'more' if share > 0 else 'less'} of a squirt wets the wall than the control unit is told."
        if proposed
        else f"{len(slopes)} quick openings: what wets the wall is told right, within {2 * doubt:.2f} of a squirt."
    )
    return TipIns(
        events=lines, middle=middle, many=len(lines), share=round(share, 4), doubt=round(doubt, 4), proposed=proposed, words=words
    )


def _events(
    log: Log, mixture: Array, sure: Array, begins: list[int], shape: Array, aims: Array, late: float
) -> tuple[list[RoadLine], list[float], list[float], float]:
    """Each opening with the mixture (its logarithm, `sure` where 1) laid back so far [s]: its line, its size, what that size weighs, and the mean square that is left."""
    lines, slopes, weights, left, many = [], [], [], 0.0, 0
    grid = np.arange(-BEFORE_S, AFTER_S + 1e-9, GRID_S)
    for a in begins[:TIPS_MOST]:
        first, last = np.searchsorted(log.time, (log.time[a] - BEFORE_S, log.time[a] + AFTER_S))
        inside = np.arange(first, min(last + 1, log.rows))
        at = log.time[inside] + late
        readable = np.interp(at, log.time, sure) > 0.99
        here = inside[readable]
        if len(here) < 0.7 * len(inside) or len(here) < 8:
            continue
        off = (np.interp(at, log.time, mixture) - aims[inside])[readable]
        t = log.time[here] - log.time[a]
        base = float(np.median(off[t < 0])) if (t < 0).sum() >= 3 else 0.0
        value, own = off - base, shape[here]
        lines.append(
            RoadLine(
                label=f"{log.time[a]:.0f} s",
                x=[round(float(v), 2) for v in grid],
                y=[round(float(v), 4) for v in np.interp(grid, t, value)],
            )
        )
        energy = float((own**2).sum())
        size = float((own * value).sum()) / energy if energy > 0.02 else 0.0
        if energy > 0.02:
            slopes.append(size)
            weights.append(energy)
        left, many = left + float(((value - size * own) ** 2).sum()), many + len(here)
    return lines, slopes, weights, left / many if many else float("inf")


def _lowpass(values: Array, every: float, seconds: float) -> Array:
    """First-order lag of so many seconds."""
    from scipy.signal import lfilter  # takes a while to load, and only the worker reads a log

    a = 1 - float(np.exp(-every / max(seconds, 1e-3)))
    first = float(values[0]) if len(values) else 0.0
    return np.asarray(lfilter([a], [1, a - 1], values - first) + first)


def idle(w: Worked, log: Log, off: Off) -> Idle:
    """How it idles, warm."""
    rpm, throttle, coolant = log.filled("speed"), log.filled("throttle"), np.nan_to_num(log.filled("coolant"), nan=80.0)
    road = np.nan_to_num(log.filled("road_speed"))
    target = float(np.interp(85.0, _curve(w, "idle_speed")[3], _curve(w, "idle_speed")[4]))
    so = log.running & (np.nan_to_num(throttle) < IDLE_FOOT) & (coolant > WARM_C) & (rpm < 1.5 * target) & (road < 2)
    found = [(a, b) for a, b in stretches(so) if float(log.time[b - 1] - log.time[a]) >= IDLE_S]
    if not found:
        return Idle(
            stretches=[],
            seconds=0.0,
            rpm=None,
            target=target,
            swings=None,
            period_s=None,
            manifold_kpa=None,
            off=None,
            valve=None,
            proposed=None,
            words=f"No warm idle of {IDLE_S:.0f} s or longer in this log.",
        )
    rows = np.concatenate(
        [np.arange(a + round(2.0 / max(log.every, 1e-3)), b) for a, b in found if b - a > 3.0 / max(log.every, 1e-3)]
        or [np.arange(*found[0])]
    )
    mean, swings = float(np.mean(rpm[rows])), float(np.std(rpm[rows]))
    longest = max(found, key=lambda s: s[1] - s[0])
    period = _period(log.time[longest[0] : longest[1]], rpm[longest[0] : longest[1]]) if swings > HUNTS / 2 else None
    kpa = log.get("manifold")[rows]
    at = off.rows[rows][off.mask[rows]]
    valve = log.get("valve")[rows]
    proposed, drawn = None, float(np.nanmean(valve)) if np.isfinite(valve).any() else None
    if drawn is not None and mean > target * 0.9:
        _, _, _, x, old = _curve(w, "idle_air")
        typed = float(np.interp(85.0, x, old))
        if abs(drawn - typed) > 4:
            hot = x > 60
            proposed = _proposed(
                w,
                "idle_air",
                np.round(np.where(hot, old + np.clip(drawn - typed, -10, 10), old)),
                np.where(hot, float(log.lasts[rows].sum()), 0),
            )
    told = [f"{mean:.0f} rpm where {target:.0f} are wanted"]
    if swings > HUNTS:
        told.append(
            f"and hunts, {swings:.0f} rpm to and fro"
            + (f" every {period:.1f} s" if period else "")
            + ": mixture or idle trim, not the stop"
        )
    elif abs(mean - target) > 0.08 * target:
        told.append("steady, but off: idle air, a leak, or the stop")
    else:
        told.append("and steady")
    return Idle(
        stretches=[[round(float(log.time[a]), 1), round(float(log.time[b - 1]), 1)] for a, b in found[:60]], seconds=round(float(log.lasts[rows].sum()), 1), rpm=round(mean), target=target, swings=round(swings, 1), period_s=period,
        manifold_kpa=round(float(np.nanmean(kpa)), 1) if np.isfinite(kpa).any() else None, off=round(float(np.median(at)), 4) if len(at) > 20 else None, valve=None if drawn is None else round(drawn, 1), proposed=proposed,
        words=f"It idles at {', '.join(told)}.",
    )  # fmt: skip


def _period(time: Array, rpm: Array) -> float | None:
    """Seconds of the strongest swing, by its autocorrelation; None where there is none."""
    if len(time) < 40:
        return None
    x = rpm - np.mean(rpm)
    full = np.correlate(x, x, "full")[len(x) - 1 :]
    full = full / max(full[0], 1e-9)
    every = float(np.median(np.diff(time)))
    low, high = round(0.4 / every), min(round(8.0 / every), len(full) - 2)
    if high <= low:
        return None
    k = low + int(np.argmax(full[low:high]))
    return round(k * every, 1) if full[k] > 0.25 else None
