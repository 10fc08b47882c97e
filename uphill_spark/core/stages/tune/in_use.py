"""The tables in use: those of the kept tune where there is one, else the quick ones; what they come to at full power and at idle, and of what they were made."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import numpy as np

from ...errors import NoEngine
from ...figures import Result, Spec
from ...given import Build
from ...given.kept import CameOf, Kept, KeptTable, sum_of
from ..air import AirResult
from ..engine import EngineResult, boost_of, fuel_data
from ..engine.filling import filling
from ..injectors import InjectorsResult
from . import Table, TuneResult, manifold_by_throttle
from .axes import OPENINGS
from .tables import between, of_kept
from .worked import rests_on

InUnit = Literal["same", "changed", "never"]


class InUse(Result):
    """What the tables in use come to. `kept` holds the tables of the kept tune, in the order of the unit's own; for a kind that is not among them the quick one stands. Shares where no unit is named."""

    source: Literal["kept", "quick"]
    made: str
    label: str
    kept: list[Table]
    inked: int
    found: int
    in_unit: InUnit
    stale: bool
    ve_full: float
    ve_peak: float
    ve_peak_rpm: float
    ve_idle: float
    lambda_full: float
    spark_full_deg: float
    fuel_full_kg_s: float
    duty_full: float
    power_w: float | None
    power_rpm: float | None
    power_doubt: float | None
    torque_nm: float | None
    torque_rpm: float | None
    residual_idle: float | None
    knock_margin_deg: float | None
    doubt_median: float | None
    doubt_worst: float | None


READS = (
    "engine", "tune.found", "tune.kept", "tune.idle_lambda", "tune.cruise_lambda", "tune.full_lambda", "tune.load", "tune.step", "air.throttle", "sensors.pressure",
)  # fmt: skip
LOOKS = {
    "engine": ("ambient_pressure_pa", "charge_k", "cylinder_volume_m3", "full_air_kg_s", "idle_manifold_pressure_pa"),
    "injectors": ("dead_time_full_s", "period_full_s", "together_kg_s"),
    "air": ("drop_full_pa",),
}  # fmt: skip


def work_out(build: Build, engine: EngineResult, injectors: InjectorsResult, air: AirResult, tune: TuneResult) -> InUse:
    """The tables in use."""
    kept = build.tune.kept
    quick = {t.key: t for t in tune.tables}
    own = (
        []
        if kept is None
        else [
            of_kept(key, kept.load, kept.tables[key], doubt_of(kept.tables[key], quick[key].doubt), quick[key].hidden)
            for key in quick
            if key in kept.tables
        ]
    )
    tables = quick | {t.key: t for t in own}
    e, ambient = build.engine, engine.ambient_pressure_pa
    power, idle = e.power_speed.si * 60, e.idle_speed.si * 60
    most = ambient + boost_of(e)
    ve, top = tables["ve"], full_load(tables["ve"], most)
    share = 1e5 / most if by_throttle(ve) else 1.0  # fuel by throttle counts against 100 kPa
    column = [read(ve, rpm, top) / 100 * share for rpm in ve.x]
    peak = int(np.argmax(column))
    full, mine = read(ve, power, top) / 100 * share, {t.key for t in own}
    lamda = read(tables["lambda"], power, full_load(tables["lambda"], most)) if "lambda" in mine else build.tune.full_lambda
    quick_full = float(filling(build, np.array([e.power_speed.si]), np.array([most]), ambient)[0])
    full_air = engine.full_air_kg_s * (full / quick_full if "ve" in mine else 1.0)
    fuel = full_air / (fuel_data(e).stoich * lamda)
    came = kept.came_of if kept else None
    doubts = [d for row in ve.doubts for d in row]
    spark = read(tables["advance"], power, full_load(tables["advance"], most))
    return InUse(
        source="kept" if kept else "quick",
        made=kept.made if kept else "quick",
        label=(kept.label or "") if kept else "",
        kept=own,
        inked=sum(len(t.ink) for t in own),
        found=len(build.tune.found.tables) if build.tune.found else 0,
        in_unit=in_unit(kept),
        stale=came is not None and _stale(came, build, engine, air),
        ve_full=full,
        ve_peak=column[peak],
        ve_peak_rpm=ve.x[peak],
        ve_idle=_at_idle(ve, build, engine, idle),
        lambda_full=lamda,
        spark_full_deg=spark,
        fuel_full_kg_s=fuel,
        duty_full=fuel / injectors.together_kg_s + injectors.dead_time_full_s / injectors.period_full_s,
        power_w=came.power.si if came else None,
        power_rpm=came.power_speed.si * 60 if came else None,
        power_doubt=came.power_doubt if came else None,
        torque_nm=came.torque.si if came else None,
        torque_rpm=came.torque_speed.si * 60 if came else None,
        residual_idle=came.idle_residual if came else None,
        knock_margin_deg=came.knocks_from - spark if came and came.knocks_from is not None else None,
        doubt_median=float(np.median(doubts)) if doubts else None,
        doubt_worst=max(doubts) if doubts else None,
    )


RULED = "two degrees before the best spark, three before the one that knocks"


def doubt_of(table: KeptTable, usual: str) -> str:
    """How sure a kept table is, in words: by its own cells where it tells, else as is usual for its kind."""
    if table.ruled:
        return RULED
    cells = [d for row in table.doubt for d in row]
    return f"± {min(cells) * 100:.0f} % to {max(cells) * 100:.0f} %, cell by cell" if cells else usual


def tables_in_use(quick: Sequence[Table], use: InUse) -> list[Table]:
    """Every table as it is typed in: the kept one of a kind where there is one."""
    own = {t.key: t for t in use.kept}
    return [own.get(t.key, t) for t in quick]


def in_unit(kept: Kept | None) -> InUnit:
    """Whether the kept tune stands in the control unit."""
    if kept is None or kept.in_unit is None:
        return "never"
    return "same" if kept.in_unit == sum_of(kept.tables) else "changed"


def by_throttle(table: Table) -> bool:
    """Whether its load is a throttle's opening."""
    return (table.y_label or "").startswith("throttle")


def full_load(table: Table, most_pa: float) -> float:
    """Where full load stands on a table's second axis [kPa, or % of throttle]."""
    return table.y[-1] if by_throttle(table) else most_pa / 1e3


def read(table: Table, x: float, y: float) -> float:
    """A table's value [its unit] between its cells, as a control unit reads it: straight along both axes, held at its edges."""
    return between(table.x, table.y, table.rows, x, y)


def _at_idle(ve: Table, build: Build, engine: EngineResult, idle_rpm: float) -> float:
    """Filling at a warm idle."""
    held = engine.idle_manifold_pressure_pa
    if not by_throttle(ve):
        return read(ve, idle_rpm, held / 1e3) / 100
    behind = manifold_by_throttle(build, np.array([[idle_rpm / 60]]), np.array(OPENINGS)[:, None] / 100, engine.ambient_pressure_pa)[:, 0]
    return read(ve, idle_rpm, float(np.interp(held, behind, OPENINGS))) / 100 * 1e5 / max(held, float(behind[0]))


def _stale(came: CameOf, build: Build, engine: EngineResult, intake: AirResult) -> bool:
    """Whether the engine is another than the one of which the tables were made."""
    try:
        return came.rests_on != rests_on(build, engine, intake)
    except NoEngine:
        return True


_KEPT = ("/tune/kept",)
_FULL = (
    "engine.air.full",
    "/engine/boost",
    "/engine/power_speed",
    "/engine/cam",
    "/engine/valve_train",
    "/engine/layout",
    "/engine/idle_speed",
    "/engine/rev_limit",
    "engine.ambient_pressure",
    "/tune/load",
    "/engine/compression_ratio",
    "/air/throttle",
    "/sensors/pressure",
    *_KEPT,
)

FIGURES = (
    Spec("tune.table_fuel.full", "kg/h", "Fuel that the table asks for at full power", ("engine.air.full", "/engine/fuel", "/tune/full_lambda", *_FULL), "filling times density", lambda r: r.fuel_full_kg_s),
    Spec("tune.table_duty.full", "1", "Injector duty that the table asks for at full power", ("tune.table_fuel.full", "injectors.duty.full"), "pulse and dead time over period", lambda r: r.duty_full, share=True),
    Spec("tune.ve.full.peak", "1", "Best filling at full load", _FULL, "the table in use", lambda r: r.ve_peak, share=True),
    Spec("tune.ve.full.peak_speed", "rpm", "Speed of the best filling", _FULL, "the table in use", lambda r: r.ve_peak_rpm / 60),
    Spec("tune.ve.idle", "1", "Filling at a warm idle", (*_FULL, "engine.idle_manifold_pressure"), "the table in use", lambda r: r.ve_idle, share=True),
    Spec("tune.spark.full", "deg", "Advance at full power", (*_FULL, "/engine/chamber", "/engine/compression_ratio", "/tune/step"), "the table in use", lambda r: r.spark_full_deg),
    Spec("tune.power.worked", "kW", "Power of the worked engine", _KEPT, "filling and emptying; Heywood, ch. 14", lambda r: r.power_w),
    Spec("tune.torque.worked", "N*m", "Torque of the worked engine", _KEPT, "filling and emptying; Heywood, ch. 14", lambda r: r.torque_nm),
    Spec("tune.residual.idle", "1", "Residual gas at idle, worked", _KEPT, "filling and emptying; Heywood, ch. 14", lambda r: r.residual_idle, share=True),
    Spec("tune.knock_margin.full", "deg", "Advance left before it knocks at full power, worked", ("tune.spark.full", *_KEPT), "Livengood and Wu; Douaud and Eyzat", lambda r: r.knock_margin_deg),
    Spec("tune.doubt.median", "1", "Doubt of a middling cell of the filling", _KEPT, "each guessed measure moved by what it may be off", lambda r: r.doubt_median, share=True),
    Spec("tune.doubt.worst", "1", "Doubt of its least sure cell", _KEPT, "each guessed measure moved by what it may be off", lambda r: r.doubt_worst, share=True),
)  # fmt: skip
