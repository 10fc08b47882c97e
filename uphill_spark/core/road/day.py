"""What else a log tells of the day: knocks, heat, volts, pressure, fan, and the weather it was driven in."""

from __future__ import annotations

from typing import Literal

import numpy as np

from ..circuit.states import CHARGING_V
from ..figures import Result
from ..given.road import Lookout
from ..logs import Log, Mask, stretches
from ..physics.air import P_SEA_LEVEL, Array
from ..worked import Worked
from .samples import Known

HOT_C, BOILS_C = 103.0, 112.0  # of the coolant, under pressure
CHARGES_RPM = 1300.0  # from where on an alternator has to charge
LOW_V, LOWEST_V, HIGH_V, HIGHEST_V = 13.0, 12.4, 14.9, 15.6  # running, above idle
HOLDS_S = 2.0  # that something has to last to be told
LEAN_FULL, LEAN_WORST = 0.05, 0.10  # leaner than wanted at high load
SAGS, SAGS_WORST = 0.06, 0.12  # of the rail's pressure, that is missing
OIL_KPA, OIL_RPM = 80.0, 2000.0
FAN_C = 2.0  # K that a coolant falls once the fan runs
SNAGS_MOST = 60
LOOKED_S = 1.0  # that something has to be readable where it matters, to count as looked for

Bad = Literal["stop", "sort_out", "watch", "note"]


class Snag(Result):
    """Something that happened: what, how bad, when [s from the first row] and how long [s], where it stood (in words), what to do."""

    key: str
    bad: Bad
    at_s: float
    lasts_s: float
    what: str
    do: str


class Weather(Result):
    """What the log says of the day: pressure outside [kPa] and where that was read, the height that goes with it by the standard atmosphere [m], air outside [degC]."""

    outside_kpa: float | None
    height_m: float | None
    air_c: float | None
    words: str


def weather(w: Worked, log: Log) -> Weather:
    """Pressure and warmth outside: from the unit's own gauge, else from the manifold while the engine stood, else from its fullest load."""
    outside, manifold = log.get("outside"), log.get("manifold")
    kpa, how = None, ""
    still = np.nan_to_num(log.get("speed"), nan=1e9) < 1
    if np.isfinite(outside).any():
        kpa, how = float(np.nanmedian(outside)), "the unit's own gauge"
    elif (still & np.isfinite(manifold)).sum() >= 5:
        kpa, how = float(np.nanmedian(manifold[still])), "the manifold before the start"
    elif (
        np.isfinite(manifold).any()
        and not w.build.engine.boost
        and np.nanmax(log.filled("throttle") if np.isfinite(log.get("throttle")).any() else np.zeros(1)) > 85
    ):
        kpa, how = float(np.nanquantile(manifold, 0.998)), "the manifold at full throttle"
    air = log.filled("air")
    celsius = float(np.nanmin(air)) if np.isfinite(air).any() else None
    if kpa is not None and not 50 < kpa < 115:
        kpa = None
    height = None if kpa is None else (1 - (kpa * 1e3 / P_SEA_LEVEL) ** (1 / 5.25588)) / 2.25577e-5
    built = w.engine.ambient_pressure_pa / 1e3
    words = (
        "This log does not say what the pressure outside was."
        if kpa is None
        else f"{kpa:.1f} kPa outside, by {how}: {height:.0f} m in a standard atmosphere."
    )
    if kpa is not None and abs(kpa - built) > 3:
        words += f" The build is worked out for {built:.0f} kPa."
    return Weather(
        outside_kpa=None if kpa is None else round(kpa, 1),
        height_m=None if height is None else round(height),
        air_c=None if celsius is None else round(celsius, 1),
        words=words,
    )


def snags(w: Worked, log: Log, k: Known, off: Array) -> list[Snag]:
    """Everything of the day that somebody should look at, the worst first. `off` is by how much each row was leaner than wanted, laid back by its lag [share, nan where it cannot be read]."""
    found = [*_knocks(w, log), *_heat(log), *_volts(log), *_mixture(log, k, off), *_rail(w, log), *_oil(log), *_faults(log)]
    order: tuple[Bad, ...] = ("stop", "sort_out", "watch", "note")
    return sorted(found, key=lambda s: (order.index(s.bad), s.at_s))[:SNAGS_MOST]


def looked(log: Log, k: Known, off: Array) -> list[Lookout]:
    """What somebody would have seen in this log had it been so: it was logged, and where it matters. `off` as for `snags`."""
    up = log.running & (log.filled("speed") > CHARGES_RPM)
    places: dict[Lookout, Mask] = {
        "knock": log.running & np.isfinite(log.get("knock")),
        "heat": log.running & np.isfinite(log.get("coolant")),
        "volts": up & np.isfinite(log.get("volts")),
        "lean": _high(k) & np.isfinite(off),
        "rail": log.running & np.isfinite(log.get("rail")),
        "oil": np.isfinite(log.get("oil")) & (log.filled("speed") > OIL_RPM),
    }
    return [key for key, there in places.items() if float(log.lasts[there].sum()) >= LOOKED_S]


def _high(k: Known) -> Mask:
    return np.asarray(k.load >= k.table.high, dtype=bool)


def _where(log: Log, row: int) -> str:
    told = [f"{log.filled('speed')[row]:.0f} rpm"]
    if np.isfinite(log.filled("manifold")[row]):
        told.append(f"{log.filled('manifold')[row]:.0f} kPa")
    elif np.isfinite(log.filled("throttle")[row]):
        told.append(f"throttle {log.filled('throttle')[row]:.0f} %")
    return ", ".join(told)


def _snag(log: Log, key: str, bad: Bad, a: int, b: int, what: str, do: str) -> Snag:
    return Snag(
        key=key,
        bad=bad,
        at_s=round(float(log.time[a] - log.time[0]), 1),
        lasts_s=round(float(log.time[b - 1] - log.time[a]), 1),
        what=what,
        do=do,
    )


def _longest(log: Log, so: Mask, least: float = HOLDS_S) -> list[tuple[int, int]]:
    return [(a, b) for a, b in stretches(so) if float(log.time[b - 1] - log.time[a]) >= least]


def _knocks(w: Worked, log: Log) -> list[Snag]:
    count = log.filled("knock")
    if not np.isfinite(count).any():
        return []
    more = np.diff(np.nan_to_num(count), prepend=np.nan_to_num(count)[:1])
    more = np.where(more < 0, more + 256, more)  # a counter that begins again
    rows = np.flatnonzero((more > 0) & (more < 200) & log.running)
    if not len(rows):
        return []
    worst = int(rows[np.argmax(more[rows])])
    total, advance = float(more[rows].sum()), log.filled("advance")[worst]
    told = f" at {advance:.0f} degrees of advance" if np.isfinite(advance) else ""
    bad: Bad = "stop" if total > 30 else "sort_out"
    return [_snag(log, "knock", bad, int(rows[0]), int(rows[-1]) + 1, f"{total:.0f} knocks counted, most at {_where(log, worst)}{told}.",
                  "Take four degrees out of the advance there before it is driven so again; spark is never learned from the mixture.")]  # fmt: skip


def _heat(log: Log) -> list[Snag]:
    coolant = log.filled("coolant")
    if not np.isfinite(coolant).any():
        return []
    found = []
    for a, b in _longest(log, np.nan_to_num(coolant) > HOT_C, 5.0)[:3]:
        most = float(coolant[a:b].max())
        found.append(
            _snag(
                log,
                "heat",
                "stop" if most > BOILS_C else "sort_out",
                a,
                b,
                f"Coolant reached {most:.0f} °C.",
                "Look at fan, thermostat, level; let it cool before the cap is touched.",
            )
        )
    fan = log.get("fan")
    if np.isfinite(fan).any():
        on = [(a, b) for a, b in stretches(np.nan_to_num(fan) > 0.5) if float(log.time[b - 1] - log.time[a]) > 20]
        idle = [float(coolant[b - 1] - coolant[a]) for a, b in on]
        if on and float(np.median(idle)) > -FAN_C / 2 and float(coolant[on[0][0]]) > 90:
            a, b = on[0]
            found.append(
                _snag(
                    log,
                    "fan",
                    "watch",
                    a,
                    b,
                    f"The fan ran for {log.time[b - 1] - log.time[a]:.0f} s and the coolant did not fall.",
                    "Does it turn, and the right way round? Hands off: it starts by itself.",
                )
            )
    return found


def _volts(log: Log) -> list[Snag]:
    volts, speed = log.filled("volts"), log.filled("speed")
    if not np.isfinite(volts).any():
        return []
    up = log.running & (speed > CHARGES_RPM)
    found = []
    low, high = _longest(log, up & (volts < LOW_V), 5.0), _longest(log, up & (volts > HIGH_V), 3.0)
    if low:
        a, b = max(low, key=lambda s: s[1] - s[0])
        least = float(volts[a:b].min())
        found.append(
            _snag(
                log,
                "charging",
                "sort_out" if least < LOWEST_V else "watch",
                a,
                b,
                f"{least:.1f} V at the unit, running: {CHARGING_V:g} V are usual.",
                "Belt, exciter, the charging lead and its ends; then the feed of the unit.",
            )
        )
    if high:
        a, b = max(high, key=lambda s: s[1] - s[0])
        most = float(volts[a:b].max())
        found.append(
            _snag(
                log,
                "over_volts",
                "sort_out" if most > HIGHEST_V else "watch",
                a,
                b,
                f"{most:.1f} V at the unit, running.",
                "The alternator's regulator, and its ground.",
            )
        )
    idles = log.running & (speed < 1100) & (log.time - np.maximum.accumulate(np.where(log.running, -np.inf, log.time)) > 10)
    if not low and idles.any() and float(np.nanmedian(volts[idles])) < 12.6:
        a = int(np.flatnonzero(idles)[0])
        found.append(
            _snag(
                log,
                "idle_volts",
                "watch",
                a,
                a + 1,
                f"{float(np.nanmedian(volts[idles])):.1f} V idling: less than it charges with.",
                "Lights and fan on at idle: does it hold? Idle speed, pulley.",
            )
        )
    return found


def _mixture(log: Log, k: Known, off: Array) -> list[Snag]:
    seen = log.mixture
    lean = np.where(_high(k) & np.isfinite(off), np.nan_to_num(off), 0.0)
    found = _longest(log, lean > LEAN_FULL, 0.6)
    if not found:
        return []
    a, b = max(found, key=lambda s: float(lean[s[0] : s[1]].mean()) * (s[1] - s[0]))
    most, row = float(np.quantile(lean[a:b], 0.8)), int(a + np.argmax(lean[a:b]))
    return [_snag(log, "lean", "stop" if most > LEAN_WORST else "sort_out", a, b, f"{np.expm1(most) * 100:.0f} % leaner than wanted at {_where(log, row)}: lambda {seen[row]:.2f} where {k.wanted[row]:.2f} is wanted.",
                  "Foot off there until it is put right: a lean engine under load burns its pistons.")]  # fmt: skip


def _rail(w: Worked, log: Log) -> list[Snag]:
    rail = log.filled("rail")
    if not np.isfinite(rail).any():
        return []
    wanted = np.full(log.rows, w.build.fuel.regulator.set_pressure.si / 1e3)
    if w.build.fuel.regulator.reference == "manifold" and np.isfinite(log.filled("manifold")).any():
        wanted = wanted + log.filled("manifold") - w.engine.ambient_pressure_pa / 1e3
    short = np.where(log.running, 1 - rail / np.maximum(wanted, 50), 0.0)
    found = _longest(log, short > SAGS, 0.5)
    if not found:
        return []
    a, b = max(found, key=lambda s: float(short[s[0] : s[1]].max()))
    row = int(a + np.argmax(short[a:b]))
    most = float(short[row])
    told = f" The solved margin at full power is {w.fuel.margin_full:.2f}."
    return [
        _snag(
            log,
            "rail",
            "sort_out" if most > SAGS_WORST else "watch",
            a,
            b,
            f"The rail is {most * 100:.0f} % under what the regulator is set to at {_where(log, row)}.{told}",
            "Pump, its volts, filter: read all three at that load.",
        )
    ]


def _oil(log: Log) -> list[Snag]:
    oil, speed = log.get("oil"), log.filled("speed")
    low = _longest(log, np.isfinite(oil) & (oil < OIL_KPA) & (speed > OIL_RPM), 1.0)
    if not low:
        return []
    a, b = low[0]
    return [
        _snag(
            log,
            "oil",
            "stop",
            a,
            b,
            f"Oil pressure fell to {float(np.nanmin(oil[a:b])):.0f} kPa at {_where(log, a)}.",
            "Stop the engine; look at level, sender and pick-up before it runs again.",
        )
    ]


def _faults(log: Log) -> list[Snag]:
    flag = np.nan_to_num(log.get("fault")) > 0.5
    found = stretches(flag)
    if not found:
        return []
    a, b = max(found, key=lambda s: s[1] - s[0])
    return [
        _snag(
            log,
            "fault",
            "watch",
            a,
            b,
            f"The control unit flagged a fault, {len(found)} time{'s' if len(found) > 1 else ''}.",
            "Read it out of the unit: these rows are not believed.",
        )
    ]
