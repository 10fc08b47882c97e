"""What the split and the corrections are made of: rows that are believed, each with how far off the mixture was and where the engine stood when that charge was mixed."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..logs import Log, Mask
from ..physics.air import Array
from ..stages.tune.in_use import by_throttle, full_load, tables_in_use
from ..standin.unit import Grid
from ..worked import Worked
from .lag import Late

LEAST_PULSE = 0.25  # ms of effective pulse, under which nothing is made of a row
HIGH_LOAD = 0.85  # of full load
USUAL_V = 13.5  # of a running engine whose log does not tell
OTHER_CAR = (0.72, 1.38)  # logged pulse over the one that this build would give, beyond which the log is of another car


@dataclass(frozen=True)
class Table2:
    """The fuel table in use, as the samples are laid on it: its axes and cells, whether the throttle tells the load, and where full load stands."""

    grid: Grid
    by_throttle: bool
    full: float
    opened: float

    @property
    def high(self) -> float:
        """Load [of the table] from where on a lean mixture breaks things, and nothing is made leaner without somebody's word."""
        return HIGH_LOAD * self.full

    @property
    def shape(self) -> tuple[int, int]:
        """Rows and columns."""
        return len(self.grid.y), len(self.grid.x)


@dataclass(frozen=True)
class Samples:
    """Believed rows: their number in the log, `off` (logarithm of measured over wanted lambda, with the trim in use: more fuel is needed by so much), speed [rpm], load [of the table], effective pulse [ms], pressure in the manifold [Pa],
    air [degC], fuel flow over that of full power [share], seconds that each stands for; bank by bank where two sensors are logged; fuel that is missing by the logged rail pressure alone (logarithm, none where it is not logged)."""

    row: np.ndarray
    off: Array
    rpm: Array
    load: Array
    pulse: Array
    manifold_pa: Array
    air_c: Array
    flow: Array
    seconds: Array
    banks: Array | None
    rail: Array | None

    @property
    def many(self) -> int:
        """How many."""
        return len(self.off)


@dataclass(frozen=True)
class Known:
    """What a log and a build say together, row by row: wanted lambda, load of the table, effective pulse [ms] as it was and as it would be at rest, and the logged pulse against the one that this build would give (None where none is logged)."""

    table: Table2
    wanted: Array
    load: Array
    pulse: Array
    steady: Array
    ratio: float | None


def table_of(w: Worked) -> Table2:
    """The fuel table in use."""
    ve = next(t for t in tables_in_use(w.tune.tables, w.in_use) if t.key == "ve")
    throttled = by_throttle(ve)
    opened = next((m.load for m in w.tune.landmarks if m.key == "idle"), 0.0) if throttled else 0.0
    most = w.engine.ambient_pressure_pa + (w.build.engine.boost.si if w.build.engine.boost else 0.0)
    return Table2(Grid.of(ve), throttled, full_load(ve, most), opened)


def known(w: Worked, log: Log) -> Known:
    """What unit and build say of each row of a log."""
    tables = {t.key: Grid.of(t) for t in tables_in_use(w.tune.tables, w.in_use)}
    table = table_of(w)
    rpm, throttle = np.nan_to_num(log.filled("speed")), log.filled("throttle")
    kpa = log.filled("manifold")
    load = np.nan_to_num(throttle + table.opened if table.by_throttle else kpa)
    wanted = log.filled("target")
    from_table = tables["lambda"].at(rpm, load) if len(tables["lambda"].y) else np.ones(log.rows)
    wanted = np.where(np.isfinite(wanted), wanted, from_table)
    filled = table.grid.at(rpm, load) / 100 * (1.0 if table.by_throttle else np.maximum(load, 1.0) / 100)
    air = log.filled("air")
    warmth = np.where(
        np.isfinite(air), np.interp(np.nan_to_num(air, nan=20.0), tables["air_temperature"].x, tables["air_temperature"].rows[0]), 1.0
    )
    own = filled * warmth / np.clip(wanted, 0.4, 2) * w.tune.full_cylinder_pulse_s * 1e3 / w.build.injectors.squirts_in_two_turns
    logged = log.get("pulse")
    pulse, ratio = own, None
    ok = (
        np.isfinite(logged)
        & (logged > LEAST_PULSE)
        & log.running
        & (own > LEAST_PULSE)
        & (np.nan_to_num(log.filled("coolant"), nan=80.0) > 70)
    )
    if ok.sum() > 100:
        less = np.interp(np.nan_to_num(log.filled("volts"), nan=USUAL_V), tables["dead_time"].x, tables["dead_time"].rows[0])
        whole = float(np.median(np.abs(np.log(np.maximum(logged[ok] - less[ok], 0.05) / own[ok]))))
        bare = float(np.median(np.abs(np.log(logged[ok] / own[ok]))))
        pulse = np.where(np.isfinite(logged), np.maximum(logged - (less if whole <= bare else 0.0), 0.0), 0.0)
        ratio = float(np.median(pulse[ok] / own[ok]))
    return Known(
        table,
        np.asarray(wanted, dtype=np.float64),
        np.asarray(load, dtype=np.float64),
        np.asarray(pulse, dtype=np.float64),
        np.asarray(own * (ratio or 1.0), dtype=np.float64),
        ratio,
    )


def flow_share(w: Worked, pulse: Array, rpm: Array) -> Array:
    """Fuel flow over that of full power [share] of so long pulses [effective, ms] at speeds [rpm]: share of the time that the injectors flow, over what full power takes of it."""
    full = w.in_use.fuel_full_kg_s / (w.build.injectors.count * w.injectors.flow_working_kg_s)
    return np.asarray(pulse / 1e3 * w.build.injectors.squirts_in_two_turns * rpm / 120 / max(full, 1e-6), dtype=np.float64)


def trim_factor(log: Log) -> Array:
    """Fuel that a trim adds [times]; 1 where none is logged. A column that stays near 1 is a factor, another one per cent."""
    trim = log.get("trim")
    there = np.isfinite(trim)
    if not there.any():
        return np.ones(log.rows)
    factor = 0.3 < float(np.median(trim[there])) < 1.7 and float(np.quantile(np.abs(trim[there]), 0.99)) < 2.5
    return np.where(there, trim if factor else 1 + trim / 100, 1.0)


def samples(w: Worked, log: Log, mask: Mask, late: Late, k: Known) -> Samples:
    """The believed rows as samples, each mixture laid back to the charge that it came from."""
    at = log.time + late.rows
    seen = np.nan_to_num(log.mixture, nan=0.0)
    whole = np.isfinite(log.mixture).astype(np.float64)
    came, sure = np.interp(at, log.time, seen), np.interp(at, log.time, whole)
    arrives = np.interp(at, log.time, mask.astype(np.float64)) > 0.99  # what is read then has to be believed too
    ok = (
        mask
        & arrives
        & (sure > 0.99)
        & (came > 0.3)
        & (k.pulse > LEAST_PULSE)
        & (k.wanted > 0.4)
        & (at <= log.time[-1] if log.rows else False)
    )
    row = np.flatnonzero(ok)
    off = np.log(came[row] / k.wanted[row]) + np.log(np.clip(trim_factor(log)[row], 0.3, 3.0))
    kpa = log.filled("manifold")
    rpm = np.nan_to_num(log.filled("speed"))[row]
    rail = by_rail(w, log)
    banks = None
    if "lambda" in log and "lambda_2" in log:
        one, other = (np.interp(at[row], log.time, np.nan_to_num(log.get(key), nan=1.0)) for key in ("lambda", "lambda_2"))
        banks = np.log(np.clip(other, 0.3, 3) / np.clip(one, 0.3, 3))
    return Samples(
        row,
        off,
        rpm,
        k.load[row],
        k.pulse[row],
        np.nan_to_num(kpa[row] * 1e3, nan=w.engine.ambient_pressure_pa),
        np.nan_to_num(log.filled("air")[row], nan=20.0),
        flow_share(w, k.pulse[row], rpm),
        log.lasts[row],
        banks,
        None if rail is None else rail[row],
    )


def by_rail(w: Worked, log: Log) -> Array | None:
    """Fuel that is missing by what the rail's gauge shows (logarithm), row by row: half that of the pressure across which the unit reckons over the one that was there. None where it is not logged."""
    rail = log.filled("rail")
    if "rail" not in log or not np.isfinite(rail).any():
        return None
    held, ambient, kpa = w.build.fuel.regulator.set_pressure.si, w.engine.ambient_pressure_pa, log.filled("manifold") * 1e3
    behind = ambient if w.build.injectors.enters == "above_plates" else np.where(np.isfinite(kpa), kpa, ambient)
    across = np.maximum(rail * 1e3 + ambient - behind, 1e4)
    return np.asarray(0.5 * np.log(held / across), dtype=np.float64)
