"""A log read against a build: all that the station Road shows of it, and the reading that goes into the build."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, get_args

import numpy as np

from ..errors import SparkError
from ..figures import Result
from ..given.road import Lookout, RoadCause
from ..logs import Log
from ..physics.air import Array
from ..standin.unit import Grid
from ..worked import Worked
from . import cells, coverage, day, parts, pull
from .believed import Sensor, Sieve, believed
from .correct import Correction, correction
from .deeds import cause_patch
from .lag import Lag, lag
from .samples import OTHER_CAR, Known, Samples, flow_share, known, samples, table_of
from .split import SHORTEST, CauseKey, Fit, binned, fit, shapes_of
from .words import NAMES, REST, besides_words, day_words, deed_short, deed_words, parts_words, size_words

LEAST_S = 20.0  # of believed rows, under which nothing is split
GRID_LEAST = 2


class NotReadable(SparkError):
    """A log of which nothing can be said; the message says why, and what would do."""


class CauseTold(Result):
    """A cause of the error: its name, whether it is named, size and doubt (one standard deviation) in its own unit, share of the error that it explains, how likely it is there at all; in words, what to do, what is done by typing and what has to be known
    beside that, and whether there is a patch that does it."""

    key: RoadCause
    name: str
    named: bool
    size: float
    doubt: float
    share: float
    likely: float
    words: str
    do: str
    deed: str
    besides: str
    patched: bool


class Alike(Result):
    """Two causes that cannot be told apart, in words, and what would part them."""

    one: RoadCause
    other: RoadCause
    words: str
    parts: str


class Split(Result):
    """Of what the error is made: how far off in the middle [share], causes by their share, the rest of the table (root of mean square, share, whether it is more than chance), chance, seconds behind it; what to say first."""

    error: float
    causes: list[CauseTold]
    rest: float
    rest_share: float
    rest_is: bool
    chance: float
    alike: list[Alike]
    leans: int
    seconds: float
    words: str


class LogSaid(Result):
    """A log read: what may be believed, the lag, the split (None where too little may be believed, and why), where it has been, the cells corrected, cold, quick openings, idle, snags, what of the kind could have been seen at all and that in words, weather, pulls, what is still to be driven, and the
    pulse against that of the build [times]."""

    rows: int
    seconds: float
    funnel: list[Sieve]
    sensor: Sensor
    lag: Lag
    split: Split | None
    why_not: str
    where: coverage.Where
    correction: Correction | None
    cold: parts.Cold
    tip_ins: parts.TipIns
    idle: parts.Idle
    snags: list[day.Snag]
    looked: list[Lookout]
    day_words: str
    weather: day.Weather
    pulls: list[pull.Pull]
    to_drive: list[coverage.Leg]
    ratio: float | None
    signed: bool
    #: Of each cell its mean off once the constants are taken out, and how far off that is: what a correction is made of.
    residual: list[list[float | None]]
    residual_error: list[list[float | None]]
    drive: dict[str, Any] | None


@dataclass(frozen=True)
class _Read:
    fit: Fit
    samples: Samples
    known: Known


def read(
    w: Worked,
    log: Log,
    *,
    name: str = "Drive",
    key: str = "",
    on: str = "2000-01-01",
    signed: bool = False,
    told: Callable[[float], None] = lambda _: None,
) -> LogSaid:
    """Read a log against a build; `told` hears how far it is [0 to 1]. `signed`: somebody put his name to making cells at high load leaner. Raises NotReadable for a log without engine speed, without rows, or of another car."""
    if log.rows < 20 or "speed" not in log:
        raise NotReadable(
            "There is no engine speed in this log: tell which of its columns that is."
            if log.rows >= 20
            else "This log has fewer than 20 rows."
        )
    if not log.running.any():
        raise NotReadable(
            "The engine does not run in this log: its speed never gets over 450 rpm. Is that column the engine's speed, and its unit right?"
        )
    found = believed(log)
    k = known(w, log)
    if min(k.table.shape) < GRID_LEAST:
        raise NotReadable("The fuel table in use has fewer than two rows or columns: nothing can be laid on it.")
    if k.ratio is not None and not OTHER_CAR[0] <= k.ratio <= OTHER_CAR[1]:
        raise NotReadable(
            f"This log is of another car, or of this one with other settings: its pulses are {k.ratio:.2f} times what this build gives at the same speed and load. Look at displacement, injectors, cylinders, and at the unit of the pulse column."
        )
    told(0.2)
    late = lag(w.build, log, found.readable, k.wanted)
    s = samples(w, log, found.mask, late, k)
    told(0.4)
    seconds = float(s.seconds.sum())
    bins = binned(k.table, s) if seconds >= LEAST_S else None
    fitted = fit(w, k.table, bins) if bins is not None else None
    told(0.7)
    static = _static(w, log, k, fitted)
    weather = day.weather(w, log)
    tips = parts.tip_ins(w, log, k, found.readable, static)
    off = parts.off_of(log, k, late, found.readable, static)
    off_cells = s.off - _constants(w, s, fitted) if fitted else s.off
    at = cells.weights(k.table, s.rpm, s.load)
    spread = bins.spread if bins is not None else 0.01
    seen = cells.visited(k.table, at, off_cells, s.seconds, spread)
    whole = cells.visited(k.table, at, s.off, s.seconds, spread)
    split = _split(w, fitted, s, tips) if fitted else None
    idle = parts.idle(w, log, off)
    pulls = pull.pulls(w, log, weather.outside_kpa)
    snags, looked = day.snags(w, log, k, off.rows + static), day.looked(log, k, off.rows)
    told(0.9)
    coldly = parts.cold(w, log, off)
    where = coverage.where(w, k.table, whole)
    legs = coverage.to_drive(
        w,
        k.table,
        whole,
        tips=tips.many,
        air_span=float(np.ptp(np.quantile(s.air_c, (0.02, 0.98)))) if s.many else 0.0,
        idles_s=idle.seconds,
        pulls=len(pulls),
        told_apart=not (split and split.alike),
        cold=bool(coldly.at or coldly.starts),
    )
    said = LogSaid(
        rows=log.rows, seconds=round(float(log.lasts.sum()), 1), funnel=found.funnel, sensor=found.sensor, lag=late.told, split=split,
        why_not="" if split else _why_not(found.funnel, found.sensor, seconds), where=where, correction=None, cold=coldly, tip_ins=tips, idle=idle, snags=snags, looked=looked, day_words=day_words(looked, snags=bool(snags)), weather=weather,
        pulls=pulls, to_drive=legs, ratio=None if k.ratio is None else round(k.ratio, 3), signed=signed, residual=_rows(seen.mean), residual_error=_rows(seen.error), drive=None,
    )  # fmt: skip
    if split is None:
        return said
    said = said.model_copy(update={"correction": correct_again(w, said, signed=signed, fill=True)})
    return said.model_copy(update={"drive": _drive(w, said, name, key, on)})


def _rows(values: Array) -> list[list[float | None]]:
    return [[None if not np.isfinite(v) else round(float(v), 5) for v in row] for row in values]


def correct_again(w: Worked, said: LogSaid, *, signed: bool, fill: bool) -> Correction:
    """The cells corrected once more, with somebody's word for leaner ones at high load, or without cells that nobody visited."""

    def array(rows: list[list[float | None]]) -> Array:
        return np.array([[np.nan if v is None else v for v in row] for row in rows], dtype=np.float64)

    seconds = np.array(said.where.seconds, dtype=np.float64)
    seen = cells.Visited(seconds, seconds, array(said.residual), array(said.residual_error))
    return correction(w, table_of(w), seen, signed=signed, fill=fill)


def _why_not(funnel: list[Sieve], sensor: Sensor, seconds: float) -> str:
    if sensor.stuck:
        return sensor.words
    took = max(funnel, key=lambda x: x.took_s)
    return f"Only {seconds:.0f} s of this log may be believed; {LEAST_S:.0f} s are needed. Most went to '{took.word}': {took.why}."


def _named(f: Fit, shapes: dict[CauseKey, Array], many: int) -> Array:
    return sum((shapes[key] * f.fitted[key] for key in f.named), np.zeros(many))


def _constants(w: Worked, s: Samples, f: Fit) -> Array:
    """What the named constants do at each sample [share], between the banks."""
    return _named(f, shapes_of(w, s.pulse, s.manifold_pa, s.air_c, s.flow, np.full(s.many, 0.5), f.hinge), s.many)


def _static(w: Worked, log: Log, k: Known, f: Fit | None) -> Array:
    """What is known to be off at rest at each row of the log [share]: constants, and the field of the table."""
    if f is None:
        return np.zeros(log.rows)
    rpm, kpa = np.nan_to_num(log.filled("speed")), log.filled("manifold")
    manifold = np.where(np.isfinite(kpa), kpa * 1e3, w.engine.ambient_pressure_pa)
    air = np.nan_to_num(log.filled("air"), nan=20.0)
    shapes = shapes_of(w, np.maximum(k.pulse, SHORTEST), manifold, air, flow_share(w, k.pulse, rpm), np.full(log.rows, 0.5), f.hinge)
    field = Grid(k.table.grid.x, k.table.grid.y, f.field).at(rpm, k.load)
    return np.asarray(_named(f, shapes, log.rows) + field)


def _split(w: Worked, f: Fit, s: Samples, tips: parts.TipIns) -> Split:
    """The split told: shares of the mean square, by how much each goes along with what was measured."""
    bins = f.bins
    weight = bins.seconds / bins.seconds.sum()
    whole = max(float((weight * bins.off**2).sum()), 1e-12)
    gone = {key: max(float((weight * f.shapes[key] * f.fitted[key] * bins.off).sum()) / whole, 0.0) for key in f.named}
    rest = max(float((weight * f.field_at * bins.off).sum()) / whole, 0.0)
    total = sum(gone.values()) + rest
    scale = 1 / total if total > 1 else 1.0
    causes = [
        CauseTold(key=key, name=NAMES[key], named=key in f.named, size=round(f.size[key], 5), doubt=round(f.doubt[key], 5), share=round(gone.get(key, 0.0) * scale, 4), likely=round(f.likely[key], 3),
              words=size_words(w, key, f.size[key], f.doubt[key], f.leans), do=deed_words(w, key, f.size[key], f.leans), deed=deed_short(w, key, f.size[key]), besides=besides_words(w, key), patched=key in f.named and bool(cause_patch(w, key, f.size[key], None)))
        for key in get_args(CauseKey) if f.likely[key] > 1e-4 or key in f.named
    ]  # fmt: skip
    if tips.share is not None and tips.doubt is not None:
        named = tips.proposed is not None
        causes.append(
            CauseTold(
                key="tip_in",
                name=NAMES["tip_in"],
                named=named,
                size=tips.share,
                doubt=tips.doubt,
                share=0.0,
                likely=1.0 if named else 0.1,
                words=size_words(w, "tip_in", tips.share, tips.doubt),
                do=deed_words(w, "tip_in", tips.share),
                deed=deed_short(w, "tip_in", tips.share),
                besides=besides_words(w, "tip_in"),
                patched=named,
            )
        )
    causes = [c.model_copy(update={"words": f"{c.words}{_seen_on_rail(f, s, c.key)}"}) for c in causes]
    causes.sort(key=lambda c: (not c.named, -c.share))
    error = _middle(np.abs(bins.off), bins.seconds)
    alike = [
        Alike(one=a, other=b, words=f"This log cannot tell {parts_words(a, b)[0]}.", parts=parts_words(a, b)[1])
        for a, b in f.apart
        if a in f.named or b in f.named
    ]
    return Split(
        error=round(error, 5), causes=causes, rest=round(f.rest, 5), rest_share=round(rest * scale, 4), rest_is=f.rest_is, chance=round(max(1 - min(total, 1.0), 0.0), 4), alike=alike, leans=f.leans, seconds=round(float(s.seconds.sum()), 1),
        words=_first_words(causes, f, error),
    )  # fmt: skip


RAIL_TELLS = 0.6  # of a cause, that the logged rail pressure has to explain by itself


def _seen_on_rail(f: Fit, s: Samples, key: RoadCause) -> str:
    """Whether the logged rail pressure shows a cause that pressure can be behind, or rules it out; nothing where it is not logged, or it is none of those."""
    if s.rail is None or key not in ("scale", "reference", "high_flow") or key not in f.named:
        return ""
    here = (
        s.flow > f.hinge + 0.5 * (1 - f.hinge) * 0.5
        if key == "high_flow"
        else s.manifold_pa < np.quantile(s.manifold_pa, 0.4)
        if key == "reference"
        else np.ones(s.many, dtype=bool)
    )
    if here.sum() < 20:
        return ""
    missing = float(np.median(s.off[here]))
    other = ~here
    rail = float(np.median(s.rail[here])) - (float(np.median(s.rail[other])) if key != "scale" and other.sum() > 20 else 0.0)
    if key != "scale" and other.sum() > 20:
        missing -= float(np.median(s.off[other]))
    if abs(missing) < 1e-3:
        return ""
    shows = rail / missing
    return (
        "; the rail's gauge shows the same, so it is the pressure"
        if shows > RAIL_TELLS
        else "; the rail's gauge was right, so it is not the pressure"
        if abs(shows) < 1 - RAIL_TELLS
        else ""
    )


def _middle(values: Array, weights: Array) -> float:
    order = np.argsort(values)
    total = np.cumsum(weights[order])
    return float(values[order][int(np.searchsorted(total, total[-1] / 2))])


def _first_words(causes: list[CauseTold], f: Fit, error: float) -> str:
    named = [c for c in causes if c.named]
    if not named and not f.rest_is:
        return f"{error * 100:.1f} % off in the middle, and nothing in it is more than chance. Leave it."
    if not named:
        return f"{error * 100:.1f} % off in the middle. No constant explains it: it is {REST.lower()}."
    first = f"{error * 100:.1f} % off in the middle. {named[0].words}."
    if len(named) > 1:
        first += f" And: {', '.join(c.name.lower() for c in named[1:])}."
    return first + (" What is left is the table." if f.rest_is else " The table is right.")


def _drive(w: Worked, said: LogSaid, name: str, key: str, on: str) -> dict[str, Any] | None:
    """The reading as it goes into the build."""
    s = said.split
    if s is None:
        return None
    best = max(said.pulls, key=lambda p: p.power_w) if said.pulls else None
    sensor = "stuck" if said.sensor.stuck else "pegged" if said.sensor.pegged > 0.3 else "sound"
    value: dict[str, Any] = {
        "log": key or "0" * 36, "name": name, "day": on, "ran": w.road.ran_now, "seconds": s.seconds, "error": s.error, "rest": min(s.rest, 1.0), "rest_is": s.rest_is, "leans": s.leans,
        "causes": {c.key: {"size": c.size, "doubt": c.doubt, "share": min(c.share, 1.0), "named": c.named} for c in s.causes}, "apart": [[a.one, a.other] for a in s.alike], "coverage": said.where.coverage,
        "lag": f"{said.lag.used_s:.3g} s", "sensor": sensor, "snags": [{"key": x.key, "bad": x.bad, "what": x.what[:300]} for x in said.snags[:12]], "looked": said.looked,
    }  # fmt: skip
    if best is not None and 1e3 <= best.power_w <= 2e6:
        value |= {
            "power": f"{best.power_w / 1e3:.4g} kW",
            "power_speed": f"{best.power_rpm:.0f} rpm",
            "power_doubt": round(min(best.doubt, 1.0), 3),
            "power_told": best.told,
        }
    if said.weather.outside_kpa is not None:
        value["outside"] = f"{said.weather.outside_kpa:g} kPa"
    return value
